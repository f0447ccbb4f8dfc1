using Cursus.Core.Clicks;
using Microsoft.AspNetCore.Http.Features;

namespace Cursus.Web.Edge;

/// <summary>What a request tells of its visitor in its headers; empty where it doesn't.</summary>
internal readonly ref struct VisitorHeaders
{
    /// <summary>Whether only the head of the answer is asked for.</summary>
    public bool IsHead { get; init; }

    /// <summary>Without zero characters.</summary>
    public ReadOnlySpan<char> UserAgent { get; init; }

    public ReadOnlySpan<char> Referer { get; init; }

    public ReadOnlySpan<char> AcceptLanguage { get; init; }

    /// <summary>The last one, where there are several.</summary>
    public ReadOnlySpan<char> ForwardedFor { get; init; }

    /// <summary>See <see cref="PrefetchSignal"/>, as for the next three.</summary>
    public ReadOnlySpan<char> SecPurpose { get; init; }

    public ReadOnlySpan<char> Purpose { get; init; }

    public ReadOnlySpan<char> XPurpose { get; init; }

    public ReadOnlySpan<char> XMoz { get; init; }

    /// <summary>See <see cref="ClientHints"/>, as for the next two.</summary>
    public ReadOnlySpan<char> Platform { get; init; }

    public ReadOnlySpan<char> Mobile { get; init; }

    public ReadOnlySpan<char> FormFactors { get; init; }

    /// <summary>Those of a request as the web server holds it.</summary>
    public static VisitorHeaders Of(IHttpRequestFeature request)
    {
        var headers = request.Headers;
        return new()
        {
            IsHead = HttpMethods.IsHead(request.Method),

            // PostgreSQL takes no zero character in a text; one would hold up every click behind it.
            UserAgent = headers.UserAgent.ToString().Replace('\0', ' '),
            Referer = headers.Referer.ToString(),
            AcceptLanguage = headers.AcceptLanguage.ToString(),
            ForwardedFor = headers["X-Forwarded-For"] is [.., var last] ? last : default,
            SecPurpose = headers["Sec-Purpose"].ToString(),
            Purpose = headers["Purpose"].ToString(),
            XPurpose = headers["X-Purpose"].ToString(),
            XMoz = headers["X-Moz"].ToString(),
            Platform = headers["Sec-CH-UA-Platform"].ToString(),
            Mobile = headers["Sec-CH-UA-Mobile"].ToString(),
            FormFactors = headers[ClientHints.Asked].ToString(),
        };
    }
}
