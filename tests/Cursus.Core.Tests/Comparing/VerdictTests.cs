using CsCheck;
using Cursus.Core.Comparing;

namespace Cursus.Core.Tests.Comparing;

public class VerdictTests
{
    /// <summary>The same split as below, seen as one group against all the rest: log(520) ± t₁₃ √(3.80656 / 520), by hand.</summary>
    [Fact]
    public void A_count_that_varies_more_than_chance_is_less_sure()
    {
        var (low, high) = PoissonInterval.Of(520, Dispersion.Of(FourteenDays));
        var reach = Math.Exp(2.160369 * Math.Sqrt(3.80656 / 520));
        (low * reach, high / reach).ShouldSatisfyAllConditions(i => i.Item1.ShouldBe(520, 0.01), i => i.Item2.ShouldBe(520, 0.01));
        PoissonInterval.Of(520, Dispersion.Of([])).ShouldBe(PoissonInterval.Of(520));
    }

    /// <summary>Clopper–Pearson 95 % limits of a share, turned into the ratio p / (1 − p): 81 of 263 lies within .2527 and .3676
    /// (textbook example, values from memory; a statistics library agrees).</summary>
    [Fact]
    public void The_ratio_lies_within_the_exact_limits_of_the_share()
    {
        var verdict = Verdict.Between(263 - 81, 81);
        verdict.Low.ShouldBe((1 - .3676) / .3676, 0.002);
        verdict.High!.Value.ShouldBe((1 - .2527) / .2527, 0.002);
    }

    [Theory]
    [InlineData(1284, 803, VerdictCall.Clear)]
    [InlineData(611, 588, VerdictCall.TooClose)]
    [InlineData(60, 42, VerdictCall.Leaning)]
    [InlineData(12, 9, VerdictCall.TooClose)]
    [InlineData(9, 0, VerdictCall.TooClose)]
    [InlineData(30, 0, VerdictCall.Clear)]
    [InlineData(0, 0, VerdictCall.TooClose)]
    public void A_lead_is_called_by_what_chance_could_do(long leader, long next, VerdictCall call) => Verdict.Between(leader, next).Call.ShouldBe(call);

    /// <summary>The 95 % interval lies above one exactly where the two-sided exact binomial test of p = ½ (doubled tail) rejects at 5 %:
    /// the conditional test of Przyborowski and Wilenski 1940, here summed term by term.</summary>
    [Fact]
    public void A_clear_lead_is_one_that_the_exact_test_of_1940_finds() => Gen.Select(Gen.Int[5, 120], Gen.Int[0, 120]).Sample((a, b) =>
    {
        var (leader, next) = (Math.Max(a, b), Math.Min(a, b));
        var n = leader + next;
        var tail = Enumerable.Range(leader, n - leader + 1).Sum(k => Math.Exp(LogChoose(n, k) - n * Math.Log(2)));
        if (n >= Verdict.FewestClicks && Math.Abs(2 * tail - 0.05) > 1e-6)
        {
            (Verdict.Between(leader, next).Call == VerdictCall.Clear).ShouldBe(2 * tail < 0.05);
        }
    });

    /// <summary>Two groups on fourteen days. Reference: R 4.2.2, <c>glm(cbind(a, b) ~ 1, family = quasibinomial)</c>, with Student's t on 13 degrees of freedom for the interval.</summary>
    [Fact]
    public void A_split_that_varies_more_than_chance_is_judged_by_its_dispersion()
    {
        var verdict = Verdict.Between(520, 396, FourteenDays);
        verdict.Dispersion.ShouldBe(3.80656, 1e-5);
        verdict.Ratio!.Value.ShouldBe(Math.Exp(0.2724146003), 1e-8);
        (verdict.Low, verdict.High!.Value, verdict.Chance).ShouldSatisfyAllConditions(
            v => v.Low.ShouldBe(0.991331917, 1e-6), v => v.Value.ShouldBe(1.739391031, 1e-6), v => v.Chance.ShouldBe(0.0564782261, 1e-6));
        verdict.Call.ShouldBe(VerdictCall.Leaning);
        Verdict.Between(520, 396).Call.ShouldBe(VerdictCall.Clear);
    }

    /// <summary>Reference: R 4.2.2, <c>poisson.test(c(a, b))</c>, which is the conditional exact test.</summary>
    [Theory]
    [InlineData(60, 42, 0.0918376783, 0.9471746041, 2.1723257475)]
    [InlineData(1284, 803, 4.87703025e-26, 1.46289404, 1.74858569)]
    public void Without_days_the_exact_test_holds(long leader, long next, double chance, double low, double high)
    {
        var verdict = Verdict.Between(leader, next);
        (verdict.Chance / chance).ShouldBe(1, 1e-6);
        verdict.Low.ShouldBe(low, 1e-6);
        verdict.High!.Value.ShouldBe(high, 1e-6);
        verdict.Dispersion.ShouldBe(1);
    }

    /// <summary>Reference: R 4.2.2, <c>poisson.test(c(a, b), T = c(s, t))</c> for ratio and interval, and twice <c>pbinom(a - 1, a + b, s / (s + t), lower.tail = FALSE)</c>.</summary>
    [Theory]
    [InlineData(60, 42, 30, 70, 3.06561660389e-09, 3.3333333333, 2.2100740762, 5.0687600775)]
    [InlineData(25, 40, 30, 70, 0.179912274615, 1.4583333333, 0.8479177397, 2.4635225661)]
    [InlineData(48, 52, 30, 70, 0.000234756196397, 2.1538461538, 1.4240803939, 3.2516127964)]
    [InlineData(312, 505, 30, 70, 6.96601443311e-07, 1.4415841584, 1.2477922775, 1.6633984373)]
    public void What_was_shown_less_often_needs_fewer_clicks_to_lead(
        long leader, long next, double leaderShown, double nextShown, double chance, double ratio, double low, double high)
    {
        var verdict = Verdict.ByExposure(leader, next, (leaderShown, nextShown));
        (verdict.Chance / chance).ShouldBe(1, 1e-6);
        verdict.Ratio!.Value.ShouldBe(ratio, 1e-9);
        verdict.Low.ShouldBe(low, 1e-6);
        verdict.High!.Value.ShouldBe(high, 1e-6);
    }

    [Fact]
    public void Only_who_has_more_clicks_for_as_much_showing_leads()
    {
        Should.Throw<ArgumentException>(() => Verdict.ByExposure(60, 42, (70, 30)));
        Should.Throw<ArgumentException>(() => Verdict.ByExposure(60, 42, (0, 30)));
        Verdict.ByExposure(70, 30, (70, 30)).Ratio!.Value.ShouldBe(1, 1e-12);
    }

    [Fact]
    public void What_both_have_in_common_is_no_dispersion() =>
        Dispersion.Of([.. Enumerable.Range(1, 28).Select(day => (One: 20L * (day % 7), Other: 10L * (day % 7)))]).Factor.ShouldBe(1);

    [Fact]
    public void From_a_few_days_nothing_is_concluded() => Dispersion.Of([.. FourteenDays.Take(Dispersion.FewestSteps - 1)]).Factor.ShouldBe(1);

    [Fact]
    public void With_so_many_more_clicks_of_the_same_ratio_a_lead_becomes_clear() => Gen.Select(Gen.Int[30, 400], Gen.Double[1.02, 1.5]).Sample((runnerUp, ratio) =>
    {
        var leader = (long)Math.Ceiling(runnerUp * ratio);
        if (Verdict.Between(leader, runnerUp).MoreClicks is { } more)
        {
            // A fiftieth beyond it, since the exact test is a little more careful than the formula.
            var factor = 1.02 * (leader + runnerUp + more) / (leader + runnerUp) + 0.02;
            Verdict.Between((long)Math.Round(leader * factor), (long)Math.Round(runnerUp * factor)).Chance.ShouldBeLessThan(0.065);
            Verdict.Between((long)(leader * (factor - 0.1) * 0.9), (long)(runnerUp * (factor - 0.1) * 0.9)).Chance.ShouldBeGreaterThan(0.04);
        }
    }, iter: 1000);

    [Fact]
    public void Of_what_was_shown_unequally_so_many_more_clicks_make_a_lead_clear_as_well()
    {
        var verdict = Verdict.ByExposure(25, 40, (30, 70));
        var factor = 1.02 * (65 + verdict.MoreClicks!.Value) / 65;
        Verdict.ByExposure((long)Math.Round(25 * factor), (long)Math.Round(40 * factor), (30, 70)).Chance.ShouldBeInRange(0.04, 0.065);
    }

    /// <summary>The fifteen probabilities of the example in Benjamini and Hochberg 1995, section 4.1 (from memory): at 5 % the first four are called. Adjusted values by R 4.2.2,
    /// <c>p.adjust(p, "BH")</c>.</summary>
    [Fact]
    public void Many_leads_are_judged_together()
    {
        double[] chances = [.0001, .0004, .0019, .0095, .0201, .0278, .0298, .0344, .0459, .3240, .4262, .5719, .6528, .7590, 1];
        double[] adjusted = [.0015, .003, .0095, .035625, .0603, .0638571, .0638571, .0645, .0765, .486, .5811818, .714875, .7532308, .8132143, 1];
        FalseDiscovery.Adjust(chances).Zip(adjusted).ShouldAllBe(a => Math.Abs(a.First - a.Second) < 1e-6);
        FalseDiscovery.Adjust([.. chances.Reverse()]).Reverse().Zip(adjusted).ShouldAllBe(a => Math.Abs(a.First - a.Second) < 1e-6);
        FalseDiscovery.Adjust([]).ShouldBeEmpty();
    }

    [Fact]
    public void One_of_many_leads_needs_more_than_one_alone()
    {
        var alone = Breakdown.Of([Group("a", 140), Group("b", 100)]);
        var many = Breakdown.Of([Group("a", 130), Group("b", 100), .. Enumerable.Range(0, 12).Select(i => Group($"c{i:00}", 99 - i))]);
        alone.Rows[0].Lead!.Call.ShouldBe(VerdictCall.Clear);
        many.Rows[0].Lead!.Call.ShouldBe(VerdictCall.TooClose);
    }

    [Fact]
    public void Groups_without_a_row_are_summed_up_and_what_belongs_nowhere_keeps_its_row()
    {
        var (rows, others) = Breakdown.Of([Group("", 500), Group("a", 30), Group("b", 20), Group("c", 10)], most: 2);
        rows.Select(r => r.Count.Key).ShouldBe(["a", "b", ""]);
        others.ShouldBe(new OtherGroups(1, 10, null));
        rows.Sum(r => r.Share).ShouldBe(550 / 560.0, 1e-12);
    }

    [Fact]
    public void Rows_are_ranked_and_each_knows_its_share()
    {
        var rows = Breakdown.Of([
            new GroupCount("perch", "Perch", 30, 28, 40, 2, 10),
            new GroupCount("guildhall", "Guildhall", 60, 50, 0, 3, 20),
            new GroupCount("poster", "Poster", 0, 0, 0, 0, 0),
        ]).Rows;
        rows.Select(r => r.Count.Key).ShouldBe(["guildhall", "perch", "poster"]);
        rows.Select(r => r.Share).ShouldBe([60 / 90.0, 30 / 90.0, 0]);
        rows.Select(r => r.ClicksPerPlacement).ShouldBe([20, 15, null]);
        rows.Select(r => r.ClicksPerPlacementDay).ShouldBe([3, 3, null]);
        rows.Select(r => r.Change).ShouldBe([null, -0.25, null]);
        rows.Select(r => r.IsTooCloseToNext).ShouldBe([false, false, false]);
    }

    [Theory]
    [InlineData(1284, 803, "Guildhall leads with 1,284 clicks (61.5 %). Its lead over Perch is clear: 1.6 times, somewhere between 1.46 and 1.75.")]
    [InlineData(611, 588, "Guildhall and Perch are too close to call: 611 clicks against 588.")]
    [InlineData(5, 1, "Guildhall has 5 clicks and Perch 1: too few to call. About 5 more clicks (≈ 24 days at this pace) would tell.")]
    [InlineData(1, 0, "The only click came by Guildhall.")]
    [InlineData(0, 0, "No clicks in this period.")]
    [InlineData(60, 42, "Guildhall leads with 60 clicks (58.8 %). It leans ahead of Perch, which isn't settled yet: 1.43 times, somewhere between 0.95 and 2.17. About 23 more clicks (≈ 7 days at this pace) would tell.")]
    [InlineData(600, 540, "Guildhall leads with 600 clicks (52.6 %). It leans ahead of Perch, which isn't settled yet: 1.11 times, somewhere between 0.99 and 1.25. About 250 more clicks (≈ 7 days at this pace) would tell.")]
    [InlineData(40, 40, "Guildhall and Perch are level at 40 clicks.")]
    public void The_answer_is_a_sentence(long guildhall, long perch, string sentence) =>
        AnswerSentence.Of(Breakdown.Of([new GroupCount("guildhall", "Guildhall", guildhall, 0, null, 1, 1), new GroupCount("perch", "Perch", perch, 0, null, 1, 1)]).Rows, 28).ShouldBe(sentence);

    /// <summary>Most clicks come without a referrer; that "nobody" leads says nothing.</summary>
    [Theory]
    [InlineData(900, 60, 20, "Guildhall leads with 60 clicks (6.1 %). Its lead over Perch is clear: 3.0 times, somewhere between 1.78 and 5.25.")]
    [InlineData(900, 60, 0, "Guildhall brought 60 clicks (6.3 %); where the other 900 belong is not known.")]
    [InlineData(7, 0, 0, "7 clicks came; where they belong is not known.")]
    public void What_is_not_known_leads_over_nobody(long rest, long guildhall, long perch, string sentence)
    {
        var rows = Breakdown.Of([new GroupCount("", "Not told", rest, 0, null, 0, 0), new GroupCount("guildhall", "Guildhall", guildhall, 0, null, 0, 0), new GroupCount("perch", "Perch", perch, 0, null, 0, 0)]).Rows;
        rows[^1].Count.IsRest.ShouldBeTrue();
        rows[^2].IsTooCloseToNext.ShouldBeFalse();
        AnswerSentence.Of(rows, 28).ShouldBe(sentence);
    }

    private static readonly (long, long)[] FourteenDays =
        [(40, 30), (22, 35), (31, 20), (90, 41), (12, 22), (18, 15), (25, 30), (60, 28), (41, 44), (33, 21), (28, 36), (75, 30), (19, 25), (26, 19)];

    private static GroupCount Group(string key, long clicks) => new(key, key.ToUpperInvariant(), clicks, null, null, 0, 0);

    private static double LogChoose(int n, int k) => Enumerable.Range(1, k).Sum(i => Math.Log(n - k + i) - Math.Log(i));
}
