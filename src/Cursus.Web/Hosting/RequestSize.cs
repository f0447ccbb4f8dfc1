using Microsoft.AspNetCore.Http.Features;

namespace Cursus.Web.Hosting;

/// <summary>The server's own limit on what is sent to it.</summary>
internal static class RequestSize
{
    /// <summary>Lifts the limit, which would end the connection without a word; whoever calls says what is too large and what to do.</summary>
    public static void Unlimit(HttpContext context)
    {
        if (context.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } limit)
        {
            limit.MaxRequestBodySize = null;
        }
    }
}
