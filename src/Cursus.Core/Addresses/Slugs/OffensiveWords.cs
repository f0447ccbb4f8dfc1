using System.Buffers;

namespace Cursus.Core.Addresses.Slugs;

/// <summary>Keeps random slugs from spelling something that nobody wants to print (list and licence in <c>Words/offensive.txt</c>).</summary>
public static class OffensiveWords
{
    private static readonly SearchValues<string> Words = SearchValues.Create(
        [.. WordList.Read("offensive.txt").Where(w => w.Length >= 3)],
        StringComparison.OrdinalIgnoreCase
    );

    /// <summary>Whether <paramref name="slug"/> contains such a word, without regard to case.</summary>
    public static bool In(string slug) => slug.AsSpan().ContainsAny(Words);
}
