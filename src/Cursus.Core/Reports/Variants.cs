namespace Cursus.Core.Reports;

/// <summary>One of the variants that a channel carries of a post, such as the logo and the button of a mailing.</summary>
/// <param name="Key">Its link.</param>
/// <param name="Label">What a person reads.</param>
/// <param name="Clicks">People's clicks.</param>
/// <param name="Exposure">The percentage of readers it was shown to; null if no split was set.</param>
/// <param name="Readers">How many people these clicks are of, each counted anew every day.</param>
public sealed record VariantCount(string Key, string Label, long Clicks, int? Exposure, long Readers);

/// <summary>How one variant does among the others of its placement.</summary>
/// <param name="Exposure">Its part of all that was shown, 0 to 1; the same for all where no split was set.</param>
/// <param name="Share">Its part of all clicks, 0 to 1.</param>
/// <param name="ShareLow">Lower bound of the share, 95%.</param>
/// <param name="ShareHigh">Upper bound, 95%.</param>
/// <param name="Index">Share of clicks by share of exposure, the index number of media planning (common practice, no source): 1 is what a variant
/// brings that is as good as all together; null without clicks.</param>
/// <param name="Lead">Its lead over the next row, by exposure; null for the last one and where it has no click.</param>
public sealed record VariantRow(VariantCount Count, double Exposure, double Share, double ShareLow, double ShareHigh, double? Index, Verdict? Lead);

/// <summary>Variants of one placement against each other, by how often each was shown.</summary>
/// <param name="Rows">Most clicks per exposure first.</param>
/// <param name="IsSplit">True where it was said to which part of the readers each was shown; else all count as shown alike.</param>
public sealed record Variants(IReadOnlyList<VariantRow> Rows, bool IsSplit)
{
    /// <summary>Ranks variants by their clicks for each time they were shown, equal ones by label, and judges each lead over the next by readers,
    /// since one reader's clicks come together. A split that doesn't cover all of them counts as none, and so do parts that are more than the whole,
    /// since links have been moved between channels; where a variant was deleted, what is left stays in proportion.</summary>
    public static Variants Of(IReadOnlyCollection<VariantCount> counts)
    {
        ArgumentNullException.ThrowIfNull(counts);
        var isSplit = counts.Count > 0 && counts.All(c => c.Exposure is > 0) && counts.Sum(c => c.Exposure) <= 100;
        var (clicks, shown) = (counts.Sum(c => c.Clicks), counts.Sum(Exposure));
        var ranked = counts.OrderByDescending(c => (double)c.Clicks / Exposure(c)).ThenBy(c => c.Label, StringComparer.Ordinal).ToList();
        var clicksAtOnce = ClicksAtOnce(clicks, counts.Sum(c => c.Readers));
        var leads = ranked.Zip(ranked.Skip(1), (one, next) =>
            one.Clicks == 0 ? null : Verdict.ByReaders(one.Clicks / clicksAtOnce, next.Clicks / clicksAtOnce, (Exposure(one), Exposure(next)))
        );
        return new([.. ranked.Zip(leads.Append(null), Row)], isSplit);

        int Exposure(VariantCount count) => isSplit ? count.Exposure!.Value : 1;

        VariantRow Row(VariantCount count, Verdict? lead)
        {
            var (exposure, share) = ((double)Exposure(count) / shown, clicks == 0 ? 0 : (double)count.Clicks / clicks);
            var (low, high) = WilsonInterval.Of(count.Clicks, clicks, dispersion: clicksAtOnce);
            // One division of whole numbers: variants that are exactly as good have the same index, to the last digit.
            double? index = clicks == 0 ? null : (double)(count.Clicks * shown) / (clicks * Exposure(count));
            return new(count, exposure, share, low, high, index, lead);
        }
    }

    /// <summary>
    /// The design effect of readers who click several times: the mean of squared clicks of a reader over the mean (Kish 1965, "Survey sampling"),
    /// which is 2m - 1 if a reader with m clicks on average is as likely to click once more each time (common practice, no source). So many clicks
    /// say as much as one.
    /// </summary>
    private static double ClicksAtOnce(long clicks, long readers) => readers == 0 ? 1 : Math.Max(1, 2.0 * clicks / readers - 1);

    /// <summary>Which variant won with these readers, in one or two sentences.</summary>
    public string Sentence()
    {
        if (Rows is not [{ Lead: { } verdict } leader, var next, ..])
        {
            return "No clicks yet.";
        }

        var (first, second) = (leader.Count, next.Count);
        var (winner, other) = ($"“{first.Label}”", $"“{second.Label}”");
        var times = AnswerSentence.Times(verdict) + (IsSplit ? " after allowing for the split" : "");
        return verdict.Call switch
        {
            VerdictCall.Clear => $"{winner} won. Its lead over {other} is clear, {times}.",
            VerdictCall.Leaning => $"{winner} leans ahead of {other}, {times}, but this isn’t settled yet.",
            VerdictCall.TooFew => $"{Brought(leader)}; {Brought(next)}: too few to call.",
            _ => $"{winner} and {other} are too close to call: {Brought(leader)}; {Brought(next)}.",
        };
    }

    private string Brought(VariantRow row) =>
        $"“{row.Count.Label}” has {CountWords.Clicks(row.Count.Clicks)}{(IsSplit ? $", shown to {row.Count.Exposure}%" : "")}";
}
