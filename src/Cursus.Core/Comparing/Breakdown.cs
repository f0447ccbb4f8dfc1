namespace Cursus.Core.Comparing;

/// <summary>What was counted for one group: a channel, a campaign, a source …</summary>
/// <param name="Key">Stable name of the group; empty for clicks that have none.</param>
/// <param name="Label">What a person reads.</param>
/// <param name="Clicks">People's clicks in the period.</param>
/// <param name="Visitors">People, anew on each link and each day; null where the question is about what only clicks tell.</param>
/// <param name="PreviousClicks">People's clicks in the period before; null where none was asked for.</param>
/// <param name="Placements">Links of the group that were at work in the period: published in it, or clicked in it.</param>
/// <param name="PlacementDays">Days of the period in which they were out, summed over them.</param>
public sealed record GroupCount(string Key, string Label, long Clicks, long? Visitors, long? PreviousClicks, int Placements, long PlacementDays)
{
    /// <summary>True for the clicks of which nobody knows where they belong, such as those without a referrer. They are shown, and lead over nobody.</summary>
    public bool IsRest => Key.Length == 0;
}

/// <summary>One lane of an answer.</summary>
/// <param name="Share">Part of all people's clicks, 0 to 1.</param>
/// <param name="Low">Lower bound of the clicks that this group would bring on average, 95 %.</param>
/// <param name="High">Upper bound, 95 %.</param>
/// <param name="ShareLow">Lower bound of the share, 95 %.</param>
/// <param name="ShareHigh">Upper bound, 95 %.</param>
/// <param name="ClicksPerPlacement">Null where the group has no placement.</param>
/// <param name="ClicksPerPlacementDay">For each day that a placement was out in the period; null where the group has none.</param>
/// <param name="Change">Relative change against the period before: 0.18 is 18 % more; null from zero, where no per cent exists.</param>
/// <param name="Lead">Its lead over the next row; null for the last one, and where either has no click or is what belongs nowhere.</param>
public sealed record BreakdownRow(
    GroupCount Count, double Share, double Low, double High, double ShareLow, double ShareHigh, double? ClicksPerPlacement, double? ClicksPerPlacementDay, double? Change, Verdict? Lead)
{
    /// <summary>True where chance alone could make the lead over the next row.</summary>
    public bool IsTooCloseToNext => Lead?.Call == VerdictCall.TooClose;
}

/// <summary>The groups behind the last row, which are summed up.</summary>
public sealed record OtherGroups(int Groups, long Clicks, long? PreviousClicks);

/// <summary>The answer to "which … brought the most clicks".</summary>
/// <param name="Rows">By clicks, what belongs nowhere last.</param>
/// <param name="Others">Null where every group has a row.</param>
public sealed record Breakdown(IReadOnlyList<BreakdownRow> Rows, OtherGroups? Others)
{
    /// <summary>Ranks groups by clicks, equal ones by label, the rest behind them, and computes what each means.</summary>
    /// <param name="most">How many get a row.</param>
    /// <param name="steps">Clicks of groups by day, or other step of time, all of equal length; those of further groups may be missing.</param>
    public static Breakdown Of(IReadOnlyCollection<GroupCount> groups, int most = int.MaxValue, IReadOnlyDictionary<string, long[]>? steps = null)
    {
        ArgumentNullException.ThrowIfNull(groups);
        var total = groups.Sum(g => g.Clicks);

        // Only those that get a row need their order, and others are what is left of the sums: there may be tens of thousands of them.
        var shown = Ranked(groups).Take(most).ToList();
        shown.AddRange(groups.Where(g => g.IsRest && !shown.Contains(g)));
        var others = groups.Count - shown.Count;
        var leads = Leads(shown, steps);
        var sums = SumsOf(steps);
        return new(
            [.. shown.Select((g, i) => Row(g, total, Varying(g, steps, sums), leads[i]))],
            others == 0 ? null : new(others, total - shown.Sum(g => g.Clicks), shown.Exists(g => g.PreviousClicks is null) ? null : groups.Sum(g => g.PreviousClicks) - shown.Sum(g => g.PreviousClicks)));
    }

    /// <summary>Groups in the order of their rows.</summary>
    private static IOrderedEnumerable<GroupCount> Ranked(IEnumerable<GroupCount> groups) =>
        groups.OrderBy(g => g.IsRest).ThenByDescending(g => g.Clicks).ThenByDescending(g => g.PreviousClicks ?? 0).ThenBy(g => g.Label, StringComparer.Ordinal);

    /// <summary>Each group's lead over the next, judged together.</summary>
    private static IReadOnlyList<Verdict?> Leads(List<GroupCount> ranked, IReadOnlyDictionary<string, long[]>? steps) => FalseDiscovery.Judge(
        [.. ranked.Select((g, i) => i + 1 < ranked.Count && ranked[i + 1] is { Clicks: > 0, IsRest: false } next ? Verdict.Between(g.Clicks, next.Clicks, StepsOf(g, next, steps)) : null)]);

    private static IReadOnlyList<(long, long)> StepsOf(GroupCount one, GroupCount next, IReadOnlyDictionary<string, long[]>? steps) =>
        steps?.GetValueOrDefault(one.Key) is { } ofOne && steps.GetValueOrDefault(next.Key) is { } ofNext ? [.. ofOne.Zip(ofNext)] : [];

    /// <summary>All groups' clicks of each step.</summary>
    private static long[] SumsOf(IReadOnlyDictionary<string, long[]>? steps)
    {
        var sums = new long[steps?.Values.FirstOrDefault()?.Length ?? 0];
        foreach (var ofGroup in steps?.Values ?? [])
        {
            for (var step = 0; step < sums.Length; step++)
            {
                sums[step] += ofGroup[step];
            }
        }

        return sums;
    }

    /// <summary>How much the split between a group and all others varies.</summary>
    private static Dispersion Varying(GroupCount group, IReadOnlyDictionary<string, long[]>? steps, long[] sums) =>
        Dispersion.Of(steps?.GetValueOrDefault(group.Key) is { } ofGroup ? [.. ofGroup.Zip(sums, (one, all) => (one, all - one))] : []);

    private static BreakdownRow Row(GroupCount group, long total, Dispersion dispersion, Verdict? lead)
    {
        var (low, high) = PoissonInterval.Of(group.Clicks, dispersion);
        var (shareLow, shareHigh) = WilsonInterval.Of(group.Clicks, Math.Max(total, group.Clicks), dispersion: dispersion.Factor);
        return new(
            group,
            total == 0 ? 0 : (double)group.Clicks / total,
            low,
            high,
            shareLow,
            shareHigh,
            group.Placements == 0 ? null : (double)group.Clicks / group.Placements,
            group.PlacementDays == 0 ? null : (double)group.Clicks / group.PlacementDays,
            group.PreviousClicks is > 0 and var before ? (double)(group.Clicks - before) / before : null,
            lead);
    }
}
