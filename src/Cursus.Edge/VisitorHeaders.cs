using Cursus.Core.Clicks.Requests;
using Microsoft.AspNetCore.Http.Features;

namespace Cursus.Edge;

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

    /// <summary>See <see cref="RequestSignsReader"/>, as for the next three.</summary>
    public ReadOnlySpan<char> Accept { get; init; }

    public ReadOnlySpan<char> SecFetchMode { get; init; }

    public ReadOnlySpan<char> SecChUa { get; init; }

    /// <summary>Whether the visitor came over HTTPS, as the proxy says or the server knows.</summary>
    public bool IsSecure { get; init; }

    /// <param name="forwardedProto">Header <c>X-Forwarded-Proto</c>. Whoever makes it up makes it harder for themselves alone to pass for a
    /// browser.</param>
    public static bool SaysSecure(ReadOnlySpan<char> forwardedProto) => forwardedProto.Equals(Uri.UriSchemeHttps, StringComparison.OrdinalIgnoreCase);

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
            Accept = headers.Accept.ToString(),
            SecFetchMode = headers["Sec-Fetch-Mode"].ToString(),
            SecChUa = headers["Sec-CH-UA"].ToString(),
            IsSecure = request.Scheme == Uri.UriSchemeHttps || SaysSecure(headers["X-Forwarded-Proto"].ToString()),
        };
    }
}
