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

    /// <summary>Passes a body of any size on as far as it may go; false where it is larger than <paramref name="most"/> bytes, and then not all of it
    /// was passed on.</summary>
    public static async Task<bool> TryCopy(HttpRequest http, Stream to, long most, CancellationToken cancel)
    {
        Unlimit(http.HttpContext);
        var buffer = new byte[81920];
        var passed = 0L;
        for (int read; (read = await http.Body.ReadAsync(buffer, cancel)) > 0; )
        {
            passed += read;
            if (passed > most)
            {
                return false;
            }

            await to.WriteAsync(buffer.AsMemory(0, read), cancel);
        }

        return true;
    }
}
