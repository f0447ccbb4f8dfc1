using System.Globalization;
using System.Text.RegularExpressions;

namespace Cursus.Core.Clicks.Requests;

/// <summary>
/// Finds programs that pose as a browser: their user agent names one, but the rest of the request is not what that browser sends. One oddity alone is
/// not enough, unless a published standard rules it out: people change what their browsers say: with privacy settings, extensions that pass one
/// browser off as another, and filtering proxies.
/// </summary>
public static partial class Impostor
{
    /// <summary>From these versions on browsers say over HTTPS how a request came about (Fetch Metadata Request Headers). From memory, a version or
    /// more on the safe side.</summary>
    private const int ChromiumTellsMode = 80;
    private const int FirefoxTellsMode = 91;
    private const int WebKitTellsMode = 17;

    /// <summary>From this version on browsers of this engine name their brands over HTTPS (User-Agent Client Hints). From memory.</summary>
    private const int ChromiumTellsBrands = 90;

    private enum Engine
    {
        Other,
        Chromium,
        Firefox,
        WebKit,
    }

    /// <summary>Whether a request under this user agent, which is a browser's, is not that browser's own.</summary>
    public static bool Is(string userAgent, RequestSigns signs)
    {
        ArgumentNullException.ThrowIfNull(userAgent);
        var (engine, version) = EngineOf(userAgent);
        if (!signs.HasFlag(RequestSigns.Told) || engine == Engine.Other)
        {
            return false;
        }

        // Whoever follows a link goes to a page, and says which kinds of pages it takes (Fetch Standard, section 4.1, where a request has no Accept,
        // and Fetch Metadata Request Headers, section 2.2).
        if (signs.HasFlag(RequestSigns.Fetches) || !signs.HasFlag(RequestSigns.AcceptsPages))
        {
            return true;
        }

        return Oddities(engine, version, userAgent, signs) >= 2;
    }

    /// <summary>What this browser would say and doesn't, or says and wouldn't.</summary>
    private static int Oddities(Engine engine, int version, string userAgent, RequestSigns signs)
    {
        var isSecure = signs.HasFlag(RequestSigns.IsSecure);
        var tellsMode =
            isSecure
            && version
                >= engine switch
                {
                    Engine.Chromium => ChromiumTellsMode,
                    Engine.Firefox => FirefoxTellsMode,
                    _ => WebKitTellsMode,
                };
        var tellsBrands = isSecure && engine == Engine.Chromium && version >= ChromiumTellsBrands && !EmbeddedView().IsMatch(userAgent);

        // Browsers should name a language (Fetch Standard, section 4.6), which some can be kept from.
        return (signs.HasFlag(RequestSigns.HasLanguage) ? 0 : 1)
            + (tellsMode && !signs.HasFlag(RequestSigns.Navigates) ? 1 : 0)
            + (
                signs.HasFlag(RequestSigns.HasBrands)
                    ? engine == Engine.Chromium
                        ? 0
                        : 1
                    : tellsBrands
                        ? 1
                        : 0
            );
    }

    private static (Engine Engine, int Version) EngineOf(string userAgent)
    {
        // On telephones of one maker all browsers are of one engine, whatever they call themselves, and of the system's version.
        if (AppleMobile().Match(userAgent) is { Success: true } mobile)
        {
            return (Engine.WebKit, Number(mobile));
        }

        // Engines of their own that call themselves others.
        if (userAgent.Contains(" Edge/", StringComparison.Ordinal) || userAgent.Contains("Goanna/", StringComparison.Ordinal))
        {
            return (Engine.Other, 0);
        }

        return Chromium().Match(userAgent) is { Success: true } chromium ? (Engine.Chromium, Number(chromium))
            : Firefox().Match(userAgent) is { Success: true } firefox ? (Engine.Firefox, Number(firefox))
            : Safari().Match(userAgent) is { Success: true } safari ? (Engine.WebKit, Number(safari))
            : (Engine.Other, 0);
    }

    private static int Number(Match match) => int.TryParse(match.Groups[1].ValueSpan, CultureInfo.InvariantCulture, out var number) ? number : 0;

    [GeneratedRegex(@"(?:iPhone|CPU) OS (\d{1,4})[_\d]* like Mac OS X", RegexOptions.CultureInvariant)]
    private static partial Regex AppleMobile();

    [GeneratedRegex(@"Chrom(?:e|ium)/(\d{1,4})\.", RegexOptions.CultureInvariant)]
    private static partial Regex Chromium();

    [GeneratedRegex(@"Gecko/[\d.]+ (?:.* )?Firefox/(\d{1,4})\.", RegexOptions.CultureInvariant)]
    private static partial Regex Firefox();

    [GeneratedRegex(@"AppleWebKit/.* Version/(\d{1,4})[.\d]* .*Safari/", RegexOptions.CultureInvariant)]
    private static partial Regex Safari();

    /// <summary>A page in an app, whose maker may have changed what it says.</summary>
    [GeneratedRegex(@"; wv\)|Version/\d+\.\d+ Chrome/|QtWebEngine/|Electron/", RegexOptions.CultureInvariant)]
    private static partial Regex EmbeddedView();
}
