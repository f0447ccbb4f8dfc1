using System.Text.RegularExpressions;

namespace Cursus.Core.Checking;

/// <summary>Whether a page calls itself something else than before.</summary>
public static partial class TitleChange
{
    /// <summary>Part of the words that both titles have in common, below which they are two titles (common practice, no source).</summary>
    private const double Alike = 0.4;

    /// <summary>Whether fewer than two fifths of all words of both titles stand in both (Jaccard, 1901). Numbers don't count, since counters and
    /// prices change daily.</summary>
    public static bool IsLarge(string? before, string? after)
    {
        var (had, has) = (Words(before), Words(after));
        return had.Count > 0 && has.Count > 0 && had.Intersect(has).Count() < Alike * had.Union(has).Count();
    }

    private static HashSet<string> Words(string? title) => [.. Word().Matches(title?.ToLowerInvariant() ?? "").Select(m => m.Value)];

    [GeneratedRegex(@"\p{L}[\p{L}\p{M}'’\-]*")]
    private static partial Regex Word();
}
