namespace Cursus.Core.Comparing;

/// <summary>Where many leads are looked at together, some look real by chance alone. Judging each by its adjusted probability keeps the part of such among all that are called
/// below the level (Benjamini and Hochberg 1995, "Controlling the false discovery rate", Journal of the Royal Statistical Society B 57).</summary>
public static class FalseDiscovery
{
    /// <summary>Leads judged together, in their order; those that are none stay null.</summary>
    public static IReadOnlyList<Verdict?> Judge(IReadOnlyList<Verdict?> leads)
    {
        var adjusted = new Queue<double>(Adjust([.. leads.OfType<Verdict>().Select(l => l.Chance)]));
        return [.. leads.Select(l => l?.WithChance(adjusted.Dequeue()))];
    }

    /// <summary>The adjusted probabilities, in the order of <paramref name="chances"/>: the k-th smallest of m times m/k, and never more than the next greater one's.</summary>
    public static IReadOnlyList<double> Adjust(IReadOnlyList<double> chances)
    {
        ArgumentNullException.ThrowIfNull(chances);
        var adjusted = new double[chances.Count];
        var least = 1.0;
        foreach (var (rank, place) in chances.Index().OrderByDescending(c => c.Item).Select((c, i) => (chances.Count - i, c.Index)))
        {
            least = Math.Min(least, chances[place] * chances.Count / rank);
            adjusted[place] = least;
        }

        return adjusted;
    }
}
