using System.Globalization;
using System.Text;

namespace Cursus.Core.Addresses;

/// <summary>Turns a title or name into lower-case ASCII words, the stuff of readable slugs and campaign keys.</summary>
public static class AsciiWords
{
    private static readonly Dictionary<char, string> Ligatures = new()
    {
        ['ß'] = "ss",
        ['æ'] = "ae",
        ['œ'] = "oe",
        ['ø'] = "o",
        ['ł'] = "l",
        ['đ'] = "d",
        ['ð'] = "d",
        ['þ'] = "th",
        ['ı'] = "i",
        ['ħ'] = "h",
    };

    /// <summary>The words of <paramref name="text"/>: accents dropped, ligatures written out, apostrophes closed up, everything else a word
    /// break.</summary>
    public static IReadOnlyList<string> Of(string text)
    {
        var folded = new StringBuilder(text.Length);
        foreach (var c in text.ToLowerInvariant().Normalize(NormalizationForm.FormD))
        {
            if (CharUnicodeInfo.GetUnicodeCategory(c) == UnicodeCategory.NonSpacingMark || c is '\'' or '’')
            {
                continue;
            }

            folded.Append(char.IsAsciiLetterOrDigit(c) ? c.ToString() : Ligatures.GetValueOrDefault(c, " "));
        }

        return folded.ToString().Split(' ', StringSplitOptions.RemoveEmptyEntries);
    }

    /// <summary>The words joined by hyphens and cut at a word's end, at most <paramref name="maxLength"/> characters; empty where there are no
    /// words.</summary>
    public static string Hyphenated(string text, int maxLength)
    {
        var words = Of(text);
        var joined = string.Join('-', words);
        if (joined.Length <= maxLength)
        {
            return joined;
        }

        var cut = joined[..(maxLength + 1)].LastIndexOf('-');
        return cut > 0 ? joined[..cut] : joined[..maxLength];
    }
}
