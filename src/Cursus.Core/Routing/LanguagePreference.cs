using System.Globalization;

namespace Cursus.Core.Routing;

/// <summary>
/// The languages that a browser asks for, by an <c>Accept-Language</c> field (RFC 9110, section 12.5.4), the most wanted first. A weight of zero
/// means “not acceptable”; ranges of the same weight stand in the order of the field. What can't be read is passed over.
/// </summary>
public sealed class LanguagePreference
{
    /// <summary>The most ranges that are read; browsers send a handful.</summary>
    public const int MaxRanges = 20;

    private const string Any = "*";

    private readonly List<string> ranges;

    private LanguagePreference(List<string> ranges) => this.ranges = ranges;

    /// <summary>Reads the value of the field; empty where it wasn't sent.</summary>
    public static LanguagePreference Of(string acceptLanguage)
    {
        ArgumentNullException.ThrowIfNull(acceptLanguage);
        return new([
            .. acceptLanguage
                .Split(',', MaxRanges + 1, StringSplitOptions.TrimEntries)
                .Take(MaxRanges)
                .Select(Range)
                .Where(r => r is { Weight: > 0, Text: not Any } && IsRange(r.Text))
                .OrderByDescending(r => r.Weight)
                .Select(r => r.Text),
        ]);
    }

    /// <summary>
    /// The one of <paramref name="available"/> that is wanted most (RFC 4647, section 3.4, “Lookup”): each range in its order is made shorter at its
    /// end, subtag by subtag, and a single letter or digit that is then its last goes as well, until something matches. Null where nothing does.
    /// </summary>
    public string? Lookup(IReadOnlyCollection<string> available)
    {
        ArgumentNullException.ThrowIfNull(available);
        foreach (var range in ranges)
        {
            for (var tag = range; tag.Length > 0; tag = Shortened(tag))
            {
                if (available.FirstOrDefault(a => a.Equals(tag, StringComparison.OrdinalIgnoreCase)) is { } found)
                {
                    return found;
                }
            }
        }

        return null;
    }

    /// <summary>Whether it can be a language range: letters and digits in subtags of one to eight (RFC 4647, section 2.1).</summary>
    public static bool IsRange(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var subtags = text.Split('-');
        return subtags.All(s => s.Length is >= 1 and <= 8 && s.All(char.IsAsciiLetterOrDigit)) && subtags[0].All(char.IsAsciiLetter);
    }

    private static string Shortened(string tag)
    {
        var shorter = Cut(tag);
        return shorter.Length > 1 && shorter[^2] == '-' ? Cut(shorter) : shorter;

        static string Cut(string text) => text.LastIndexOf('-') is var at and > 0 ? text[..at] : "";
    }

    private static (string Text, double Weight) Range(string entry)
    {
        var parts = entry.Split(';', StringSplitOptions.TrimEntries);
        return parts is [var text] ? (text, 1)
            : parts is [var weighted, ['q' or 'Q', '=', .. var weight]]
            && double.TryParse(weight, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var q)
            && q is >= 0 and <= 1
                ? (weighted, q)
            : ("", 0);
    }
}
