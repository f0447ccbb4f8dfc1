namespace Cursus.Core.Reports;

/// <summary>A group that brings more clicks for each of its posts than the one that leads in all. Totals follow how often one posts; this
/// doesn't.</summary>
/// <param name="Leader">The group with the most clicks for each post that went out in the period.</param>
/// <param name="InAll">The group with the most clicks.</param>
/// <param name="Lead">Per post, the lead of the first over the second.</param>
public sealed record PerPostLead(GroupCount Leader, GroupCount InAll, Verdict Lead)
{
    /// <summary>Null if the group that leads in all leads per post too, has no posts of its own in the period, or groups have none at all.</summary>
    internal static PerPostLead? Of(IReadOnlyCollection<GroupCount> groups, ClickUnits units)
    {
        var candidates = groups.Where(g => g is { IsRest: false, Clicks: > 0 }).ToList();
        if (units.Kind != UnitKind.Post || units.IsShared || candidates.Count < 2)
        {
            return null;
        }

        var inAll = Breakdown.Ranked(candidates, BreakdownMeasure.Clicks).First();
        var leader = Breakdown.Ranked(candidates, BreakdownMeasure.ClicksPerPost).First();
        return inAll.Posts > 0 && leader.ClicksPerPost > inAll.ClicksPerPost
            ? new(leader, inAll, Verdict.Between(units.Of(leader.Key), units.Of(inAll.Key), units, isPerPost: true))
            : null;
    }
}
