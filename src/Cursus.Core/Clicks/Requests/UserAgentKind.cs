using System.Buffers;
using System.Text.RegularExpressions;
using Cursus.Core.Addresses;

namespace Cursus.Core.Clicks.Requests;

/// <summary>
/// Tells people's browsers from crawlers, monitors, libraries and preview fetchers by the user agent they send. The patterns are data
/// (<c>Agents/crawlers.txt</c>); most are plain words and are looked for all at once, since one great alternation takes a hundred times as long.
/// </summary>
public static partial class UserAgentKind
{
    private static readonly Patterns Previews = Patterns.Of("preview");
    private static readonly Patterns Machines = Patterns.Of("machine");

    /// <summary>What programs that no list knows call themselves, where they say to ask about them, what they are driven by, and text that somebody
    /// wants to inject. Common practice, no source.</summary>
    private static readonly SearchValues<string> MachineWords = SearchValues.Create(
        [
            "crawler",
            "spider",
            "scraper",
            "+http",
            "mailto:",
            "PowerShell",
            "WinHttp",
            "XMLHTTP",
            "VBScript",
            "ms-office",
            "MSOffice",
            "Microsoft Office",
            "Microsoft Outlook",
            "LibreOffice",
            "Puppeteer",
            "Playwright",
            "Selenium",
            "WebDriver",
            "Cypress/",
            "jsdom",
            "HtmlUnit",
            "${",
            "<",
            "`",
            "/bin/",
            "../",
            "' OR ",
        ],
        StringComparison.OrdinalIgnoreCase
    );

    /// <summary>How the user agents of browsers begin: all of today's with Mozilla/5.0 (WHATWG Compatibility Standard, section 4), those of text
    /// browsers and old telephones with the others.</summary>
    private static readonly string[] BrowserBeginnings =
    [
        "Mozilla/",
        "Opera/",
        "UCWEB",
        "BlackBerry",
        "Nokia",
        "SAMSUNG",
        "SonyEricsson",
        "LG-",
        "MOT-",
        "DoCoMo/",
        "KDDI-",
        "SoftBank/",
        "Vodafone/",
        "Lynx/",
        "Links (",
        "ELinks/",
        "w3m/",
        "Emacs-w3m/",
        "Dillo/",
        "NetSurf/",
    ];

    /// <summary>Engines and, for devices that don't name theirs, makers: whatever begins as browsers do and names none of them is a program that
    /// passes itself off as one. Common practice, no source.</summary>
    private static readonly SearchValues<string> Engines = SearchValues.Create(
        [
            "AppleWebKit",
            "Gecko",
            "like Mac OS X",
            "Trident",
            "MSIE ",
            "KHTML",
            "Presto",
            "Goanna",
            "Servo",
            "NetSurf",
            "NetFront",
            "Teleca",
            "Obigo",
            "Planetweb",
            "Konqueror",
            "iCab",
            "Opera",
            "Symbian",
            "PalmOS",
            "PalmSource",
            "BlackBerry",
            "Nokia",
            "PlayStation",
            "Nintendo",
        ],
        StringComparison.Ordinal
    );

    /// <summary><see cref="ClickKind.Preview"/>, <see cref="ClickKind.Machine"/> or <see cref="ClickKind.Person"/>. No browser keeps silent about
    /// itself, so that an empty user agent is a machine's, and none begins as programs do, with a name of its own.</summary>
    public static ClickKind Of(string userAgent)
    {
        ArgumentNullException.ThrowIfNull(userAgent);
        return Previews.Match(userAgent) || Preview().IsMatch(userAgent) ? ClickKind.Preview
            : !IsBrowserLike(userAgent) || userAgent.AsSpan().ContainsAny(MachineWords) || Contact().IsMatch(userAgent) || Machines.Match(userAgent)
                ? ClickKind.Machine
            : ClickKind.Person;
    }

    private static bool IsBrowserLike(string userAgent) =>
        Array.Exists(BrowserBeginnings, b => userAgent.StartsWith(b, StringComparison.Ordinal))
        && (!userAgent.StartsWith("Mozilla/", StringComparison.Ordinal) || userAgent.AsSpan().ContainsAny(Engines));

    /// <summary>What the fetchers of networks that no list knows call themselves; browsers for developers have "preview" in their names, too. Common
    /// practice, no source.</summary>
    [GeneratedRegex("(?<!Developer ?|Technology ?)preview|unfurl|link-?card", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Preview();

    /// <summary>An e-mail address, or the word "bot" by itself. Common practice, no source.</summary>
    [GeneratedRegex(@"\bbot\b|@[\w.-]*[a-z][\w-]*\.[a-z]{2,}", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Contact();

    private sealed record Patterns(SearchValues<string> Words, Regex[] Expressions)
    {
        public static Patterns Of(string kind)
        {
            var patterns = WordList
                .Read("crawlers.txt")
                .Select(line => line.Split('\t', 2))
                .Where(line => line[0] == kind)
                .Select(line => line[1])
                .ToList();
            var words = patterns.Where(IsPlain).Select(Regex.Unescape).ToArray();
            var expressions = patterns.Where(p => !IsPlain(p)).Select(p => new Regex(p, RegexOptions.CultureInvariant | RegexOptions.Compiled));
            return new Patterns(SearchValues.Create(words, StringComparison.Ordinal), [.. expressions]);
        }

        public bool Match(string text) => text.AsSpan().ContainsAny(Words) || Array.Exists(Expressions, e => e.IsMatch(text));

        /// <summary>Whether an expression means just its own characters once they are unescaped.</summary>
        private static bool IsPlain(string pattern)
        {
            for (var i = 0; i < pattern.Length; i++)
            {
                if (pattern[i] == '\\')
                {
                    i++;
                    if (i < pattern.Length && char.IsAsciiLetterOrDigit(pattern[i]))
                    {
                        return false;
                    }
                }
                else if ("[](){}|?*+^$.".Contains(pattern[i], StringComparison.Ordinal))
                {
                    return false;
                }
            }

            return true;
        }
    }
}
