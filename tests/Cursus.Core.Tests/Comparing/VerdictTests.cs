using CsCheck;
using Cursus.Core.Comparing;

namespace Cursus.Core.Tests.Comparing;

public class VerdictTests
{
    /// <summary>Exact 95 % Poisson limits as tabled in standard texts after Garwood 1936 (values from memory).</summary>
    [Theory]
    [InlineData(0, 0, 3.689)]
    [InlineData(1, 0.0253, 5.572)]
    [InlineData(10, 4.795, 18.390)]
    [InlineData(100, 81.36, 121.63)]
    public void How_sure_a_count_is_follows_Garwood_1936(long clicks, double low, double high)
    {
        var interval = PoissonInterval.Of(clicks);
        interval.Low.ShouldBe(low, 0.005);
        interval.High.ShouldBe(high, 0.005);
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

    [Fact]
    public void Rows_are_ranked_and_each_knows_its_share()
    {
        var rows = BreakdownRow.Rank([
            new GroupCount("perch", "Perch", 30, 28, 40, 2),
            new GroupCount("guildhall", "Guildhall", 60, 50, 0, 3),
            new GroupCount("poster", "Poster", 0, 0, 0, 0),
        ]);
        rows.Select(r => r.Count.Key).ShouldBe(["guildhall", "perch", "poster"]);
        rows.Select(r => r.Share).ShouldBe([60 / 90.0, 30 / 90.0, 0]);
        rows.Select(r => r.ClicksPerPlacement).ShouldBe([20, 15, null]);
        rows.Select(r => r.Change).ShouldBe([null, -0.25, null]);
        rows.Select(r => r.IsTooCloseToNext).ShouldBe([false, false, false]);
    }

    [Theory]
    [InlineData(1284, 803, "Guildhall leads with 1,284 clicks (61.5 %). Its lead over Perch is clear: 1.6 times, somewhere between 1.46 and 1.75.")]
    [InlineData(611, 588, "Guildhall and Perch are too close to call: 611 clicks against 588.")]
    [InlineData(5, 1, "Guildhall has 5 clicks and Perch 1: too few to call.")]
    [InlineData(1, 0, "All 1 click came by Guildhall.")]
    [InlineData(0, 0, "No clicks in this period.")]
    [InlineData(60, 42, "Guildhall leads with 60 clicks (58.8 %). It leans ahead of Perch, which isn't settled yet: 1.43 times, somewhere between 0.95 and 2.17.")]
    public void The_answer_is_a_sentence(long guildhall, long perch, string sentence) =>
        AnswerSentence.Of(BreakdownRow.Rank([new GroupCount("guildhall", "Guildhall", guildhall, 0, null, 1), new GroupCount("perch", "Perch", perch, 0, null, 1)])).ShouldBe(sentence);

    /// <summary>Most clicks come without a referrer; that "nobody" leads says nothing.</summary>
    [Theory]
    [InlineData(900, 60, 20, "Guildhall leads with 60 clicks (6.1 %). Its lead over Perch is clear: 3.0 times, somewhere between 1.78 and 5.25.")]
    [InlineData(900, 60, 0, "Guildhall brought 60 clicks (6.3 %); where the other 900 belong is not known.")]
    [InlineData(7, 0, 0, "7 clicks came; where they belong is not known.")]
    public void What_is_not_known_leads_over_nobody(long rest, long guildhall, long perch, string sentence)
    {
        var rows = BreakdownRow.Rank([new GroupCount("", "Not told", rest, 0, null, 0), new GroupCount("guildhall", "Guildhall", guildhall, 0, null, 0), new GroupCount("perch", "Perch", perch, 0, null, 0)]);
        rows[^1].Count.IsRest.ShouldBeTrue();
        rows[^2].IsTooCloseToNext.ShouldBeFalse();
        AnswerSentence.Of(rows).ShouldBe(sentence);
    }

    private static double LogChoose(int n, int k) => Enumerable.Range(1, k).Sum(i => Math.Log(n - k + i) - Math.Log(i));
}
