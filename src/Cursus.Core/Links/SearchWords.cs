using System.Globalization;
using System.Text;

namespace Cursus.Core.Links;

/// <summary>What somebody typed to find links by, as words: runs of letters and digits, without case and accents. An address falls into its
/// parts.</summary>
public static class SearchWords
{
    /// <summary>More than these are not asked for: nobody types them, but somebody may paste a page.</summary>
    public const int Most = 12;

    /// <summary>Words shorter than this are found at the beginning of words only; what is inside of words is found by groups of three
    /// letters.</summary>
    public const int ShortestInside = 3;

    /// <summary>Words shorter than this must be typed without a slip: too many others are nearly the same.</summary>
    public const int ShortestNear = 4;

    /// <summary>The words in the order in which they were typed, each once. A scheme and “www” tell nothing and are left out where something else was
    /// typed.</summary>
    public static IReadOnlyList<string> Of(string? typed)
    {
        var words = new List<string>();
        var word = new StringBuilder();
        foreach (var rune in (typed ?? "").Normalize(NormalizationForm.FormKD).EnumerateRunes())
        {
            if (Rune.GetUnicodeCategory(rune) is UnicodeCategory.NonSpacingMark)
            {
                continue;
            }

            if (Rune.IsLetterOrDigit(rune))
            {
                word.Append(Rune.ToLowerInvariant(rune));
                continue;
            }

            End(word, words);
        }

        End(word, words);
        var telling = words.Where(w => w is not ("http" or "https" or "www")).ToList();
        return [.. (telling.Count > 0 ? telling : words).Distinct().Take(Most)];
    }

    private static void End(StringBuilder word, List<string> words)
    {
        if (word.Length > 0)
        {
            words.Add(word.ToString());
            word.Clear();
        }
    }
}
