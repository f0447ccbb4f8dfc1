namespace Cursus.Core.Comparing;

/// <summary>What was counted for one group: a channel, a campaign, a source …</summary>
/// <param name="Key">Stable name of the group; empty for clicks that have none.</param>
/// <param name="Label">What a person reads.</param>
/// <param name="Clicks">People's clicks in the period.</param>
/// <param name="Visitors">Distinct people in the period.</param>
/// <param name="PreviousClicks">People's clicks in the period before; null where none was asked for.</param>
/// <param name="Placements">Links of the group that were at work in the period: published in it, or clicked in it.</param>
public sealed record GroupCount(string Key, string Label, long Clicks, long Visitors, long? PreviousClicks, int Placements)
{
    /// <summary>True for the clicks of which nobody knows where they belong, such as those without a referrer. They are shown, and lead over nobody.</summary>
    public bool IsRest => Key.Length == 0;
}

/// <summary>One lane of an answer.</summary>
/// <param name="Share">Part of all people's clicks, 0 to 1.</param>
/// <param name="Low">Lower bound of the clicks that this group would bring on average, 95 %.</param>
/// <param name="High">Upper bound, 95 %.</param>
/// <param name="ClicksPerPlacement">Null where the group has no placement.</param>
/// <param name="Change">Relative change against the period before: 0.18 is 18 % more; null from zero, where no per cent exists.</param>
/// <param name="IsTooCloseToNext">True where chance alone could make the lead over the next row.</param>
public sealed record BreakdownRow(
    GroupCount Count, double Share, double Low, double High, double? ClicksPerPlacement, double? Change, bool IsTooCloseToNext = false)
{
    /// <summary>Ranks the groups by clicks, equal ones by label, the rest behind them, and computes what each means.</summary>
    public static IReadOnlyList<BreakdownRow> Rank(IReadOnlyCollection<GroupCount> groups)
    {
        var total = groups.Sum(g => g.Clicks);
        var ranked = groups
            .OrderBy(g => g.IsRest).ThenByDescending(g => g.Clicks).ThenByDescending(g => g.PreviousClicks ?? 0).ThenBy(g => g.Label, StringComparer.Ordinal)
            .Select(g => Of(g, total)).ToList();
        return [.. ranked.Select((row, i) => row with { IsTooCloseToNext = i + 1 < ranked.Count && IsTooClose(row.Count, ranked[i + 1].Count) })];
    }

    private static bool IsTooClose(GroupCount one, GroupCount next) =>
        !next.IsRest && one.Clicks > 0 && next.Clicks > 0 && Verdict.Between(one.Clicks, next.Clicks).Call == VerdictCall.TooClose;

    private static BreakdownRow Of(GroupCount group, long total)
    {
        var (low, high) = PoissonInterval.Of(group.Clicks);
        return new BreakdownRow(
            group,
            total == 0 ? 0 : (double)group.Clicks / total,
            low,
            high,
            group.Placements == 0 ? null : (double)group.Clicks / group.Placements,
            group.PreviousClicks is > 0 and var before ? (double)(group.Clicks - before) / before : null);
    }
}
