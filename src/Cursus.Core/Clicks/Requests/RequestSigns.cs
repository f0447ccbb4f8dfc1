namespace Cursus.Core.Clicks.Requests;

/// <summary>
/// What else a request shows that a browser's own request has and a program's often lacks, in seven bits. Says nothing about a person that the user
/// agent doesn't say: all browsers of one kind have the same. Kept with the user agent; see <see cref="Impostor"/> for what follows from it.
/// </summary>
[Flags]
public enum RequestSigns : byte
{
    /// <summary>Nobody looked, as for clicks of earlier versions and of the demo: nothing follows from it.</summary>
    Untold = 0,

    /// <summary>Somebody looked, so that what is missing is missing.</summary>
    Told = 1,

    /// <summary>It came over HTTPS, over which browsers say more.</summary>
    IsSecure = 2,

    /// <summary><c>Accept</c> names HTML pages.</summary>
    AcceptsPages = 4,

    /// <summary><c>Accept-Language</c> names a language.</summary>
    HasLanguage = 8,

    /// <summary><c>Sec-Fetch-Mode</c> says that somebody goes to a page.</summary>
    Navigates = 16,

    /// <summary><c>Sec-Fetch-Mode</c> says that a page or a program fetches something.</summary>
    Fetches = 32,

    /// <summary><c>Sec-CH-UA</c>, which browsers of one engine send and others don't.</summary>
    HasBrands = 64,
}

/// <summary>Reads <see cref="RequestSigns"/> from a request's headers.</summary>
public static class RequestSignsReader
{
    /// <param name="accept">Header <c>Accept</c>; empty where there is none, as for all of them.</param>
    /// <param name="acceptLanguage">Header <c>Accept-Language</c>.</param>
    /// <param name="secFetchMode">Header <c>Sec-Fetch-Mode</c> (Fetch Metadata Request Headers, section 2.2).</param>
    /// <param name="secChUa">Header <c>Sec-CH-UA</c>.</param>
    /// <param name="isSecure">Whether the visitor came over HTTPS.</param>
    public static RequestSigns Read(
        ReadOnlySpan<char> accept,
        ReadOnlySpan<char> acceptLanguage,
        ReadOnlySpan<char> secFetchMode,
        ReadOnlySpan<char> secChUa,
        bool isSecure
    ) =>
        RequestSigns.Told
        | (isSecure ? RequestSigns.IsSecure : 0)
        | (
            accept.Contains("text/html", StringComparison.OrdinalIgnoreCase)
            || accept.Contains("application/xhtml+xml", StringComparison.OrdinalIgnoreCase)
                ? RequestSigns.AcceptsPages
                : 0
        )
        | (acceptLanguage.IsEmpty || acceptLanguage[0] == '*' ? 0 : RequestSigns.HasLanguage)
        | (
            secFetchMode.IsEmpty ? 0
            : secFetchMode is "navigate" or "nested-navigate" ? RequestSigns.Navigates
            : RequestSigns.Fetches
        )
        | (secChUa.IsEmpty ? 0 : RequestSigns.HasBrands);
}
