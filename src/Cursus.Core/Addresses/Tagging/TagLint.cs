using System.Globalization;
using System.Text;

namespace Cursus.Core.Addresses.Tagging;

/// <summary>How a value differs from an agreed one.</summary>
public enum TagSlipKind
{
    /// <summary>By case, accents, spaces, hyphens or underscores only.</summary>
    Spelling,

    /// <summary>By one letter that is wrong, missing, too many or swapped with its neighbour.</summary>
    Typo,
}

/// <summary>A value that was probably meant to be another.</summary>
/// <param name="Agreed">The value that was probably meant.</param>
public sealed record TagSlip(string Agreed, TagSlipKind Kind);

/// <summary>Finds slips in UTM values before they split a report in two (common practice, no source; the distance is Damerau's, 1964).</summary>
public static class TagLint
{
    /// <summary>Shorter values differ by a letter for good reason: <c>cpc</c> is not <c>cpm</c>.</summary>
    private const int ShortestForTypos = 5;

    /// <summary>The agreed value that <paramref name="typed"/> was probably meant to be; null where it is agreed itself, or like none.</summary>
    public static TagSlip? Find(string typed, IEnumerable<string> agreed)
    {
        TagSlip? typo = null;
        foreach (var value in agreed)
        {
            if (value == typed)
            {
                return null;
            }

            switch (Compare(typed, value))
            {
                case TagSlipKind.Spelling:
                    // One that is agreed as typed may still follow.
                    typo = new TagSlip(value, TagSlipKind.Spelling);
                    break;
                case TagSlipKind.Typo:
                    typo ??= new TagSlip(value, TagSlipKind.Typo);
                    break;
                default:
                    break;
            }
        }

        return typo;
    }

    /// <summary>How two different values resemble each other; null where they don't, or are the same.</summary>
    public static TagSlipKind? Compare(string first, string second)
    {
        if (first == second)
        {
            return null;
        }

        var (a, b) = (Folded(first), Folded(second));
        return a == b
            ? a.Length > 0
                ? TagSlipKind.Spelling
                : null
            : Math.Max(a.Length, b.Length) >= ShortestForTypos && IsOneSlip(a, b)
                ? TagSlipKind.Typo
                : null;
    }

    /// <summary>Letters and digits in lower case without accents; what else there is makes no difference to a reader.</summary>
    private static string Folded(string value)
    {
        var folded = new StringBuilder(value.Length);
        foreach (var c in value.ToLowerInvariant().Normalize(NormalizationForm.FormKD))
        {
            if (CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark && char.IsLetterOrDigit(c))
            {
                folded.Append(c);
            }
        }

        return folded.ToString();
    }

    /// <summary>One letter inserted, left out, replaced, or swapped with its neighbour. Digits are meant: <c>2026-11</c> is no slip of
    /// <c>2026-12</c>.</summary>
    private static bool IsOneSlip(string a, string b)
    {
        var start = 0;
        while (start < a.Length && start < b.Length && a[start] == b[start])
        {
            start++;
        }

        var end = 0;
        while (end < a.Length - start && end < b.Length - start && a[^(end + 1)] == b[^(end + 1)])
        {
            end++;
        }

        var (inA, inB) = (a[start..^end], b[start..^end]);
        var isSwap = inA.Length == 2 && inB.Length == 2 && inA[0] == inB[1] && inA[1] == inB[0];
        return ((inA.Length <= 1 && inB.Length <= 1) || isSwap) && !(inA + inB).Any(char.IsDigit);
    }
}
