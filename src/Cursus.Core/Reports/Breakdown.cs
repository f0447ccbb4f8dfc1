namespace Cursus.Core.Reports;

/// <summary>What was counted for one group: a channel, a campaign, a source …</summary>
/// <param name="Key">Stable name of the group; empty for clicks that have none.</param>
/// <param name="Label">What a person reads.</param>
/// <param name="Clicks">People's clicks in the period.</param>
/// <param name="Visitors">People, anew on each link and each day; null where the question is about what only clicks tell.</param>
/// <param name="PreviousClicks">People's clicks in the period before; null where none was asked for.</param>
/// <param name="Placements">Links of the group that were at work in the period: published in it, or clicked in it.</param>
/// <param name="PlacementDays">Days of the period in which they were out, summed over them.</param>
/// <param name="Posts">Posts of the group that went out in the period, and links of no post that were made in it; null where groups have no posts of
/// their own.</param>
public sealed record GroupCount(
    string Key,
    string Label,
    long Clicks,
    long? Visitors,
    long? PreviousClicks,
    int Placements,
    long PlacementDays,
    int? Posts = null
)
{
    /// <summary>True for the clicks of which nobody knows where they belong, such as those without a referrer. They are shown, and lead over
    /// nobody.</summary>
    public bool IsRest => Key.Length == 0;

    /// <summary>Clicks for each post that went out in the period; null where there is none.</summary>
    public double? ClicksPerPost => Posts is > 0 and var posts ? (double)Clicks / posts : null;
}

/// <summary>What an average lies between, 95 %.</summary>
public readonly record struct Bounds(double Low, double High);

/// <summary>One lane of an answer.</summary>
/// <param name="Share">Share of all people's clicks, 0 to 1.</param>
/// <param name="Expected">The clicks that as many posts like these bring on average; null where there are too few posts, or other units, to
/// say.</param>
/// <param name="ExpectedShare">The share that they have on average; null where that can't be said.</param>
/// <param name="ExpectedPerPost">The clicks that each of them brings on average; null where that can't be said.</param>
/// <param name="ClicksPerPlacement">Null where the group has no placement.</param>
/// <param name="ClicksPerPlacementDay">For each day that a placement was out in the period; null where the group has none.</param>
/// <param name="Change">Relative change against the period before: 0.18 is 18 % more; null from zero, where no per cent exists.</param>
/// <param name="Lead">Its lead over the next row; null for the last one, and where either has no click or is what belongs nowhere.</param>
public sealed record BreakdownRow(
    GroupCount Count,
    double Share,
    Bounds? Expected,
    Bounds? ExpectedShare,
    Bounds? ExpectedPerPost,
    double? ClicksPerPlacement,
    double? ClicksPerPlacementDay,
    double? Change,
    Verdict? Lead
)
{
    /// <summary>True if equal groups would often show such a lead over the next row.</summary>
    public bool IsTooCloseToNext => Lead?.Call == VerdictCall.TooClose;
}

/// <summary>The remaining groups added up.</summary>
public sealed record OtherGroups(int Groups, long Clicks, long? PreviousClicks);

/// <summary>What is asked of each group.</summary>
public enum BreakdownMeasure
{
    /// <summary>Clicks in all, which follow how often one posts.</summary>
    Clicks,

    /// <summary>Clicks for each post that went out in the period.</summary>
    ClicksPerPost,
}

/// <summary>The answer to "which … brought the most clicks".</summary>
/// <param name="Rows">By what was asked of them, what belongs nowhere last.</param>
/// <param name="Others">Null where every group has a row.</param>
/// <param name="Units">What the verdicts are made of.</param>
/// <param name="PerPost">Who leads by clicks for each post, and what to make of it; null where that was asked for itself, or can't be said.</param>
public sealed record Breakdown(IReadOnlyList<BreakdownRow> Rows, OtherGroups? Others, BreakdownMeasure Measure, UnitKind Units, PerPostLead? PerPost)
{
    /// <summary>True where groups are pages that clicks were led to, and not what brought them.</summary>
    public bool IsOfPages { get; init; }

    private const double FewestFreedom = 2;

    /// <summary>Ranks groups by what is asked of them, equal ones by label, the rest behind them, and computes what each means.</summary>
    /// <param name="most">How many get a row.</param>
    /// <param name="units">What verdicts and bounds are made of.</param>
    public static Breakdown Of(
        IReadOnlyCollection<GroupCount> groups,
        int most = int.MaxValue,
        ClickUnits? units = null,
        BreakdownMeasure measure = BreakdownMeasure.Clicks
    )
    {
        ArgumentNullException.ThrowIfNull(groups);
        var total = groups.Sum(g => g.Clicks);
        units ??= ClickUnits.None;

        // Only those that get a row need their order, and others are what is left of the sums: there may be tens of thousands of them.
        var shown = Ranked(groups, measure).Take(most).ToList();
        shown.AddRange(groups.Where(g => g.IsRest && !shown.Contains(g)));
        var others = groups.Count - shown.Count;
        return new(
            [.. shown.Select((g, i) => Row(g, total, units, i + 1 < shown.Count ? LeadOf(g, shown[i + 1], units, measure) : null))],
            others == 0
                ? null
                : new(
                    others,
                    total - shown.Sum(g => g.Clicks),
                    shown.Exists(g => g.PreviousClicks is null) ? null : groups.Sum(g => g.PreviousClicks) - shown.Sum(g => g.PreviousClicks)
                ),
            measure,
            units.Kind,
            measure == BreakdownMeasure.Clicks ? PerPostLead.Of(groups, units) : null
        );
    }

    /// <summary>Groups in the order of their rows.</summary>
    internal static IOrderedEnumerable<GroupCount> Ranked(IEnumerable<GroupCount> groups, BreakdownMeasure measure)
    {
        var inPart = groups.OrderBy(g => g.IsRest);
        var byMeasure = measure == BreakdownMeasure.ClicksPerPost ? inPart.ThenByDescending(g => g.ClicksPerPost ?? -1) : inPart;
        return byMeasure.ThenByDescending(g => g.Clicks).ThenByDescending(g => g.PreviousClicks ?? 0).ThenBy(g => g.Label, StringComparer.Ordinal);
    }

    /// <summary>A group's lead over the next.</summary>
    internal static Verdict? LeadOf(GroupCount group, GroupCount next, ClickUnits units, BreakdownMeasure measure)
    {
        var isPerPost = measure == BreakdownMeasure.ClicksPerPost;
        return !units.IsEmpty && next is { Clicks: > 0, IsRest: false } && (!isPerPost || next.Posts > 0)
            ? Verdict.Between(units.Of(group.Key), units.Of(next.Key), units, isPerPost)
            : null;
    }

    private static BreakdownRow Row(GroupCount group, long total, ClickUnits units, Verdict? lead)
    {
        var own = units.Of(group.Key);
        var canTell = units.Kind != UnitKind.Link && own.Count(u => u.Clicks > 0) >= Verdict.FewestUnits;
        return new(
            group,
            total == 0 ? 0 : (double)group.Clicks / total,
            canTell ? Expected(ClusteredEstimate.OfMean(own, units)) : null,
            canTell ? ExpectedShare(own, units.AllBut(group.Key), units) : null,
            canTell && group.Posts >= Verdict.FewestUnits ? Expected(ClusteredEstimate.OfMean(own, units, isPerPost: true)) : null,
            group.Placements == 0 ? null : (double)group.Clicks / group.Placements,
            group.PlacementDays == 0 ? null : (double)group.Clicks / group.PlacementDays,
            group.PreviousClicks is > 0 and var before ? (double)(group.Clicks - before) / before : null,
            lead
        );
    }

    /// <summary>Null if so few posts make nearly all of it that the bounds would say nothing.</summary>
    private static Bounds? Expected(ClusteredEstimate estimate) =>
        estimate.Freedom >= FewestFreedom && estimate.Interval() is var (low, high) ? new(low, high) : null;

    /// <summary>The share follows from how many times as much as all the others a group brings.</summary>
    private static Bounds? ExpectedShare(UnitCount[] own, UnitCount[] others, ClickUnits units)
    {
        if (others.Sum(u => u.Clicks) == 0)
        {
            return null;
        }

        return Expected(ClusteredEstimate.OfRatio(own, others, units)) is var (low, high) ? new(low / (1 + low), high / (1 + high)) : null;
    }
}
