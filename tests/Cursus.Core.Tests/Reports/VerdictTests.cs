using CsCheck;
using Cursus.Core.Reports;

namespace Cursus.Core.Tests.Reports;

/// <summary>Whether a lead would come again.</summary>
public class VerdictTests
{
    private static readonly ClickUnits AnyPosts = new(
        UnitKind.Post,
        [.. Enumerable.Range(0, 500).Select(i => i * i)],
        false,
        new Dictionary<string, UnitCount[]>()
    );

    [Fact]
    public void A_lead_that_nearly_every_post_shares_is_clear()
    {
        var verdict = Between([60, 45, 80, 52, 71, 66, 40, 58], [41, 30, 61, 40, 45, 50, 33, 37]);
        verdict.Call.ShouldBe(VerdictCall.Clear);
        verdict.IsPaired.ShouldBeTrue();
        verdict.Units.ShouldBe((8, 8));
        verdict.MoreUnits.ShouldBeNull();
    }

    [Fact]
    public void The_same_clicks_from_one_great_post_are_not() =>
        Between([300, 20, 24, 22, 26, 25, 30, 25], [41, 30, 61, 40, 45, 50, 33, 37]).Call.ShouldBe(VerdictCall.TooClose);

    [Theory]
    [InlineData(3, 10)]
    [InlineData(10, 3)]
    public void From_fewer_than_four_posts_a_side_nothing_is_called_however_many_clicks(int leaderPosts, int otherPosts)
    {
        var verdict = Between([.. Enumerable.Repeat(9000L, leaderPosts)], [.. Enumerable.Repeat(20L, otherPosts)]);
        verdict.Call.ShouldBe(VerdictCall.TooFew);
        (verdict.Low, verdict.High, verdict.MoreUnits).ShouldBe((null, null, null));
        verdict.Units.ShouldBe((leaderPosts, otherPosts));
    }

    [Fact]
    public void From_a_handful_of_clicks_nothing_is_called_either() => Between([2, 1, 1, 1], [1, 1, 1, 1]).Call.ShouldBe(VerdictCall.TooFew);

    [Fact]
    public void A_lead_is_clear_exactly_if_its_interval_lies_above_one() =>
        Gen.Select(Gen.Int[0, 80].Array[12], Gen.Int[0, 80].Array[12])
            .Sample(
                (a, b) =>
                {
                    var (leader, other) = a.Sum() >= b.Sum() ? (a, b) : (b, a);
                    var verdict = Between([.. leader.Select(c => (long)c)], [.. other.Select(c => (long)c)]);
                    if (verdict.Call != VerdictCall.TooFew)
                    {
                        (verdict.Call == VerdictCall.Clear).ShouldBe(verdict.Low > 1);
                    }
                },
                iter: 2000
            );

    /// <summary>Four weeks in which every Monday has a thousand clicks and every Tuesday five hundred.</summary>
    [Fact]
    public void What_every_week_shows_is_clear()
    {
        UnitCount[] Weeks(long clicks) => [.. Enumerable.Range(0, 4).Select(week => new UnitCount(week, clicks, false))];
        var units = new ClickUnits(UnitKind.Week, null, true, new Dictionary<string, UnitCount[]> { ["1"] = Weeks(1000), ["2"] = Weeks(500) });
        Verdict.Between(units.Of("1"), units.Of("2"), units).Call.ShouldBe(VerdictCall.Clear);
        var rows = Breakdown.Of([new("1", "Monday", 4000, null, null, 0, 0), new("2", "Tuesday", 2000, null, null, 0, 0)], units: units);
        AnswerSentence
            .Of(rows)
            .ShouldBe(
                "Monday brought the most: 4,000 clicks (66.7%). Its lead over Tuesday is clear: with weeks like these it would come out ahead again, by a factor of 2.00 (1.83 to 2.18)."
            );
    }

    /// <summary>With as many more posts as the least that is said, of the same kind, a lead of this size is about clear.</summary>
    [Fact]
    public void With_about_so_many_more_posts_a_lead_becomes_clear() =>
        Gen.Int[40, 120]
            .Array[8]
            .Sample(success =>
            {
                long[] Leader(int times) =>
                    [.. Enumerable.Range(0, times).SelectMany(_ => success.Select((s, i) => (long)(s * (i % 2 == 0 ? 1.9 : 0.75))))];
                long[] Other(int times) => [.. Enumerable.Range(0, times).SelectMany(_ => success.Select(s => (long)s))];
                if (Between(Leader(1), Other(1)) is { MoreUnits: var (least, most) } verdict)
                {
                    verdict.Call.ShouldBeOneOf(VerdictCall.Leaning, VerdictCall.TooClose);
                    least.ShouldBeLessThanOrEqualTo(most);
                    Between(Leader(1 + (int)Math.Ceiling(most / 8.0)), Other(1 + (int)Math.Ceiling(most / 8.0))).Call.ShouldBe(VerdictCall.Clear);
                }
            });

    [Fact]
    public void How_many_more_posts_are_needed_is_not_said_if_nobody_can_know() =>
        Between([50, 50, 51, 60, 40, 50], [50, 49, 50, 40, 60, 50]).MoreUnits.ShouldBeNull();

    /// <summary>Clopper–Pearson 95% limits of a share, turned into the ratio p / (1 − p): 81 of 263 lies within .2527 and .3676
    /// (textbook example, values from memory; a statistics library agrees).</summary>
    [Fact]
    public void Readers_give_a_ratio_within_the_exact_limits_of_the_share()
    {
        var verdict = Verdict.ByReaders(263 - 81, 81, (1, 1));
        verdict.Low!.Value.ShouldBe((1 - .3676) / .3676, 0.002);
        verdict.High!.Value.ShouldBe((1 - .2527) / .2527, 0.002);
    }

    /// <summary>Reference: R 4.2.2, <c>poisson.test(c(a, b), T = c(s, t))</c> for ratio and interval, and twice <c>pbinom(a - 1, a + b, s / (s + t),
    /// lower.tail = FALSE)</c>.</summary>
    [Theory]
    [InlineData(60, 42, 1, 1, 0.0918376783, 1.4285714286, 0.9471746041, 2.1723257475)]
    [InlineData(60, 42, 30, 70, 3.06561660389e-09, 3.3333333333, 2.2100740762, 5.0687600775)]
    [InlineData(25, 40, 30, 70, 0.179912274615, 1.4583333333, 0.8479177397, 2.4635225661)]
    [InlineData(312, 505, 30, 70, 6.96601443311e-07, 1.4415841584, 1.2477922775, 1.6633984373)]
    public void What_was_shown_less_often_needs_fewer_clicks_to_lead(
        long leader,
        long next,
        double leaderShown,
        double nextShown,
        double chance,
        double ratio,
        double low,
        double high
    )
    {
        var verdict = Verdict.ByReaders(leader, next, (leaderShown, nextShown));
        (verdict.Chance / chance).ShouldBe(1, 1e-6);
        verdict.Ratio!.Value.ShouldBe(ratio, 1e-9);
        verdict.Low!.Value.ShouldBe(low, 1e-6);
        verdict.High!.Value.ShouldBe(high, 1e-6);
    }

    [Fact]
    public void Only_who_has_more_clicks_for_as_much_showing_leads()
    {
        Should.Throw<ArgumentException>(() => Verdict.ByReaders(60, 42, (70, 30)));
        Should.Throw<ArgumentException>(() => Verdict.ByReaders(60, 42, (0, 30)));
        Verdict.ByReaders(70, 30, (70, 30)).Ratio!.Value.ShouldBe(1, 1e-12);
    }

    [Fact]
    public void A_week_is_only_called_different_if_its_posts_are()
    {
        UnitCount[] Week(int first, params long[] clicks) => [.. clicks.Select((c, i) => new UnitCount(first + i, c, true))];
        WeekChange.Of(Week(10, 90, 110, 100, 95, 105, 98), Week(0, 30, 33, 28, 35, 31, 30), AnyPosts).Call.ShouldBe(VerdictCall.Clear);
        WeekChange
            .Of(Week(10, 30, 33, 28, 35, 31, 30), Week(0, 90, 110, 100, 95, 105, 98), AnyPosts)
            .Call.ShouldBe(VerdictCall.Clear, "fewer is a change as well");
        WeekChange.Of(Week(10, 300, 20, 22, 25, 30), Week(0, 40, 35, 50, 30, 45), AnyPosts).Call.ShouldNotBe(VerdictCall.Clear, "one post did it");
        WeekChange.Of(Week(10, 300, 280), Week(0, 40, 35, 50, 30, 45), AnyPosts).Call.ShouldBe(VerdictCall.TooFew);
    }

    private static Verdict Between(long[] leader, long[] other) => Verdict.Between(Posts.Of(leader), Posts.Of(other), AnyPosts);
}
