using CsCheck;
using Cursus.Core.Comparing;

namespace Cursus.Core.Tests.Comparing;

public class BreakdownTests
{
    private static readonly Gen<GroupCount[]> Groups =
        Gen.Select(Gen.Long[0, 40], Gen.Long[0, 40]).Array[1, 60].Select(counts => counts.Index()
            .Select(c => new GroupCount(c.Index == 0 ? "" : $"g{c.Index}", c.Index == 0 ? "No channel" : $"Group {c.Index:00}", c.Item.Item1, c.Item.Item1, c.Item.Item2, 1, 28)).ToArray());

    [Fact]
    public void Every_click_is_in_a_row_or_among_the_others() => Gen.Select(Groups, Gen.Int[1, 70]).Sample((groups, most) =>
    {
        var breakdown = Breakdown.Of(groups, most);
        (breakdown.Rows.Sum(r => r.Count.Clicks) + (breakdown.Others?.Clicks ?? 0)).ShouldBe(groups.Sum(g => g.Clicks));
        (breakdown.Rows.Sum(r => r.Count.PreviousClicks) + (breakdown.Others?.PreviousClicks ?? 0)).ShouldBe(groups.Sum(g => g.PreviousClicks));
        (breakdown.Rows.Count + (breakdown.Others?.Groups ?? 0)).ShouldBe(groups.Length);
    }, iter: 200);

    [Fact]
    public void The_strongest_groups_get_a_row_and_what_belongs_nowhere_always_the_last() => Gen.Select(Groups, Gen.Int[1, 70]).Sample((groups, most) =>
    {
        var rows = Breakdown.Of(groups, most).Rows.Select(r => r.Count).ToList();
        rows[^1].IsRest.ShouldBeTrue();
        rows.SkipLast(1).ShouldBe(groups.Where(g => !g.IsRest).OrderByDescending(g => g.Clicks).ThenByDescending(g => g.PreviousClicks).ThenBy(g => g.Label, StringComparer.Ordinal).Take(most));
    }, iter: 200);

    [Fact]
    public void Shares_are_parts_of_all_clicks_and_nothing_grows_by_per_cent_from_zero()
    {
        var rows = Breakdown.Of([new("perch", "Perch", 30, 28, 0, 2, 10), new("guildhall", "Guildhall", 90, 80, 60, 3, 30)]).Rows;
        rows.Select(r => (r.Count.Key, r.Share, r.Change, r.ClicksPerPlacement, r.ClicksPerPlacementDay)).ShouldBe([("guildhall", 0.75, 0.5, 30, 3), ("perch", 0.25, null, 15, 3)]);
    }

    [Fact]
    public void What_was_not_compared_has_no_clicks_before_among_the_others_either()
    {
        var groups = Enumerable.Range(1, 5).Select(i => new GroupCount($"g{i}", $"Group {i}", i, i, null, 1, 1)).ToList();
        Breakdown.Of(groups, most: 2).Others.ShouldBe(new OtherGroups(3, 6, null));
    }

    [Fact]
    public void What_a_group_is_sure_to_have_is_less_sure_the_more_its_part_of_each_day_varies()
    {
        GroupCount[] groups = [new("guildhall", "Guildhall", 560, 560, null, 1, 28), new("perch", "Perch", 560, 560, null, 1, 28)];
        BreakdownRow Guildhall(Func<int, long> ofDay) => Breakdown.Of(groups, steps: new Dictionary<string, long[]>
        {
            ["guildhall"] = [.. Enumerable.Range(0, 28).Select(ofDay)],
            ["perch"] = [.. Enumerable.Range(0, 28).Select(day => 40 - ofDay(day))],
        }).Rows[0];
        var (plain, even, uneven) = (Breakdown.Of(groups).Rows[0], Guildhall(_ => 20), Guildhall(day => day % 2 == 0 ? 32 : 8));
        (even.Low, even.High, even.ShareLow, even.ShareHigh).ShouldBe((plain.Low, plain.High, plain.ShareLow, plain.ShareHigh), "days that are even tell nothing more");

        // Pearson's statistic by its degrees of freedom, by hand: each day is 12 off where 40 clicks at a half have a variance of 10.
        uneven.Lead!.Dispersion.ShouldBe(28 * 12 * 12 / 10.0 / 27, 1e-9);
        ((uneven.High - uneven.Low) / (plain.High - plain.Low)).ShouldBe(Math.Sqrt(uneven.Lead.Dispersion), 0.5);
        (uneven.ShareLow < plain.ShareLow && uneven.ShareHigh > plain.ShareHigh).ShouldBeTrue();
    }
}
