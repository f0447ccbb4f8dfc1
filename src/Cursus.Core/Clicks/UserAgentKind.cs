using System.Buffers;
using System.Text.RegularExpressions;
using Cursus.Core.Addresses;

namespace Cursus.Core.Clicks;

/// <summary>
/// Tells people's browsers from crawlers, monitors, libraries and preview fetchers by the user agent they send. The patterns are data
/// (<c>Agents/crawlers.txt</c>); most are plain words and are looked for all at once, since one great alternation takes a hundred times as long.
/// </summary>
public static class UserAgentKind
{
    private static readonly Patterns Previews = Patterns.Of("preview");
    private static readonly Patterns Machines = Patterns.Of("machine");

    /// <summary>What programs that no list knows call themselves, or where they say to ask about them. Common practice, no source.</summary>
    private static readonly SearchValues<string> MachineWords = SearchValues.Create(["crawler", "spider", "scraper", "+http"], StringComparison.OrdinalIgnoreCase);

    /// <summary>What the fetchers of networks that no list knows call themselves. Common practice, no source.</summary>
    private static readonly SearchValues<string> PreviewWords = SearchValues.Create(["preview", "unfurl", "link-card", "linkcard"], StringComparison.OrdinalIgnoreCase);

    /// <summary>How the user agents of browsers begin: all of today's with Mozilla/5.0 (WHATWG Compatibility Standard, section 4), those of old telephones with the others.</summary>
    private static readonly string[] BrowserBeginnings = ["Mozilla/", "Opera/", "Dalvik/", "UCWEB", "BlackBerry", "Nokia", "SAMSUNG", "SonyEricsson", "LG-", "MOT-"];

    /// <summary><see cref="ClickKind.Preview"/>, <see cref="ClickKind.Machine"/> or <see cref="ClickKind.Person"/>. No browser keeps silent about itself, so
    /// that an empty user agent is a machine's, and none begins as programs do, with a name of its own.</summary>
    public static ClickKind Of(string userAgent)
    {
        ArgumentNullException.ThrowIfNull(userAgent);
        return Previews.Match(userAgent) || userAgent.AsSpan().ContainsAny(PreviewWords) ? ClickKind.Preview
            : !Array.Exists(BrowserBeginnings, b => userAgent.StartsWith(b, StringComparison.Ordinal)) || userAgent.AsSpan().ContainsAny(MachineWords) || Machines.Match(userAgent)
                ? ClickKind.Machine
            : ClickKind.Person;
    }

    private sealed record Patterns(SearchValues<string> Words, Regex[] Expressions)
    {
        public static Patterns Of(string kind)
        {
            var patterns = WordList.Read("crawlers.txt").Select(line => line.Split('\t', 2)).Where(line => line[0] == kind).Select(line => line[1]).ToList();
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
