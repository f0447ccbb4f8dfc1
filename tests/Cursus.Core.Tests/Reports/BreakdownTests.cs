using CsCheck;
using Cursus.Core.Reports;

namespace Cursus.Core.Tests.Reports;

public class BreakdownTests
{
    private static readonly Gen<GroupCount[]> Groups = Gen.Select(Gen.Long[0, 40], Gen.Long[0, 40])
        .Array[1, 60]
        .Select(counts =>
            counts
                .Index()
                .Select(c => new GroupCount(
                    c.Index == 0 ? "" : $"g{c.Index}",
                    c.Index == 0 ? "No channel" : $"Group {c.Index:00}",
                    c.Item.Item1,
                    c.Item.Item1,
                    c.Item.Item2,
                    1,
                    28
                ))
                .ToArray()
        );

    [Fact]
    public void Every_click_is_in_a_row_or_among_the_others() =>
        Gen.Select(Groups, Gen.Int[1, 70])
            .Sample(
                (groups, most) =>
                {
                    var breakdown = Breakdown.Of(groups, most);
                    (breakdown.Rows.Sum(r => r.Count.Clicks) + (breakdown.Others?.Clicks ?? 0)).ShouldBe(groups.Sum(g => g.Clicks));
                    (breakdown.Rows.Sum(r => r.Count.PreviousClicks) + (breakdown.Others?.PreviousClicks ?? 0)).ShouldBe(
                        groups.Sum(g => g.PreviousClicks)
                    );
                    (breakdown.Rows.Count + (breakdown.Others?.Groups ?? 0)).ShouldBe(groups.Length);
                },
                iter: 200
            );

    [Fact]
    public void The_strongest_groups_get_a_row_and_what_belongs_nowhere_always_the_last() =>
        Gen.Select(Groups, Gen.Int[1, 70])
            .Sample(
                (groups, most) =>
                {
                    var rows = Breakdown.Of(groups, most).Rows.Select(r => r.Count).ToList();
                    rows[^1].IsRest.ShouldBeTrue();
                    rows.SkipLast(1)
                        .ShouldBe(
                            groups
                                .Where(g => !g.IsRest)
                                .OrderByDescending(g => g.Clicks)
                                .ThenByDescending(g => g.PreviousClicks)
                                .ThenBy(g => g.Label, StringComparer.Ordinal)
                                .Take(most)
                        );
                },
                iter: 200
            );

    [Fact]
    public void Shares_are_parts_of_all_clicks_and_nothing_grows_by_per_cent_from_zero()
    {
        var rows = Breakdown.Of([new("perch", "Perch", 30, 28, 0, 2, 10), new("guildhall", "Guildhall", 90, 80, 60, 3, 30)]).Rows;
        rows.Select(r => (r.Count.Key, r.Share, r.Change, r.ClicksPerPlacement, r.ClicksPerPlacementDay))
            .ShouldBe([("guildhall", 0.75, 0.5, 30, 3), ("perch", 0.25, null, 15, 3)]);
    }

    [Fact]
    public void What_was_not_compared_has_no_clicks_before_among_the_others_either()
    {
        var groups = Enumerable.Range(1, 5).Select(i => new GroupCount($"g{i}", $"Group {i}", i, i, null, 1, 1)).ToList();
        Breakdown.Of(groups, most: 2).Others.ShouldBe(new OtherGroups(3, 6, null));
    }

    [Fact]
    public void Rows_are_ranked_and_each_knows_what_it_means()
    {
        var rows = Breakdown
            .Of([
                new GroupCount("perch", "Perch", 30, 28, 40, 2, 10),
                new GroupCount("guildhall", "Guildhall", 60, 50, 0, 3, 20),
                new GroupCount("poster", "Poster", 0, 0, 0, 0, 0),
            ])
            .Rows;
        rows.Select(r => r.Count.Key).ShouldBe(["guildhall", "perch", "poster"]);
        rows.Select(r => r.Share).ShouldBe([60 / 90.0, 30 / 90.0, 0]);
        rows.Select(r => r.ClicksPerPlacement).ShouldBe([20, 15, null]);
        rows.Select(r => r.Change).ShouldBe([null, -0.25, null]);
    }

    [Fact]
    public void What_to_expect_holds_what_was_counted_and_is_less_sure_the_more_posts_differ() =>
        Gen.Int[50, 150]
            .Array[10, 30]
            .Sample(clicks =>
            {
                long[] even = [.. clicks.Select(_ => (long)clicks.Average())];
                long[] uneven = [.. clicks.Select((c, i) => i % 2 == 0 ? c / 2L : c * 3L / 2)];
                var (certain, doubtful) = (
                    Posts.Answer(("perch", even), ("guildhall", even)).Rows[0],
                    Posts.Answer(("perch", uneven), ("guildhall", even)).Rows.Single(r => r.Count.Key == "perch")
                );
                var (expected, share) = (certain.Expected!.Value, certain.ExpectedShare!.Value);
                certain.Count.Clicks.ShouldBeInRange((long)expected.Low, (long)Math.Ceiling(expected.High));
                certain.Share.ShouldBeInRange(share.Low, share.High);
                (doubtful.Expected!.Value.High / doubtful.Expected.Value.Low).ShouldBeGreaterThan(expected.High / expected.Low);
            });

    [Fact]
    public void From_too_few_posts_nothing_is_expected()
    {
        var row = Posts.Answer(("perch", [90, 80, 85]), ("guildhall", [10, 12, 11, 9, 8])).Rows[0];
        (row.Expected, row.ExpectedShare, row.ExpectedPerPost).ShouldBe((null, null, null));
    }

    /// <summary>What each channel leaves is what all others brought, post by post.</summary>
    [Fact]
    public void All_but_one_group_are_the_others() =>
        Gen.Int[0, 9]
            .Array[6]
            .Array[3]
            .Sample(clicks =>
            {
                var units = Posts.Units([.. clicks.Select((c, i) => ($"c{i}", c.Select(n => (long)n).ToArray()))]);
                var expected = Enumerable
                    .Range(0, 6)
                    .Where(post => clicks[1][post] + clicks[2][post] > 0)
                    .Select(post => new UnitCount(post, clicks[1][post] + clicks[2][post], true));
                units.AllBut("c0").ShouldBe(expected);
            });
}
