using CsCheck;
using Cursus.Core.Reports;

namespace Cursus.Core.Tests.Reports;

/// <summary>How sure a ratio is that comes from posts.</summary>
public class ClusteredEstimateTests
{
    private static readonly long[] OnGuildhall = [120, 45, 210, 33, 80, 64, 150, 22];
    private static readonly long[] OnPerch = [90, 50, 130, 30, 85, 40, 101, 25];

    /// <summary>Reference: R 4.2.2 with clubSandwich 0.5.8, <c>vcovCR(glm(cbind(a, b) ~ 1, family = binomial), cluster = 1:8, type = "CR2")</c>; CR0
    /// agrees with sandwich 3.0's vcovCL. A thousandfold, since R adds no half click to either side.</summary>
    [Fact]
    public void A_paired_split_has_the_error_of_the_reference_implementation()
    {
        var estimate = Ratio(Thousandfold(OnGuildhall), Thousandfold(OnPerch));
        estimate.Value.ShouldBe(0.273056583232797, 1e-6);
        estimate.Error.ShouldBe(0.09155512, 1e-6);
    }

    /// <summary>The same with three more posts on the one channel alone and two on the other; R as above.</summary>
    [Fact]
    public void A_partly_paired_split_has_it_too()
    {
        var estimate = Ratio(Thousandfold([.. OnGuildhall, 60, 10, 75, 0, 0]), Thousandfold([.. OnPerch, 0, 0, 0, 44, 90]));
        estimate.Value.ShouldBe(0.237924286528681, 1e-6);
        estimate.Error.ShouldBe(0.2044013, 1e-5);
    }

    /// <summary>Reference: clubSandwich 0.5.8, CR2 of <c>lm(y ~ 0 + channel)</c> clustered by post, by the delta method on the logarithm of the ratio
    /// of both means.</summary>
    [Theory]
    [InlineData(true, 0.273056583232802, 0.088096741461484)]
    [InlineData(false, 0.254001539674115, 0.400302243207425)]
    public void Clicks_per_post_have_the_error_of_the_reference_implementation(bool isPaired, double log, double error)
    {
        long[] others = isPaired ? OnPerch : [0, 0, 0, 0, 0, 0, 0, 0, 61, 17, 140, 38, 95];
        var estimate = Ratio(Thousandfold(OnGuildhall), Thousandfold(others), isPerPost: true);
        estimate.Value.ShouldBe(log, 1e-6);
        estimate.Error.ShouldBe(error, 1e-6);
    }

    [Fact]
    public void What_a_post_brings_to_both_cancels_out() =>
        Gen.Int[100, 5000]
            .Array[4, 40]
            .Sample(success =>
            {
                // Twice as much on one as on the other, however successful: nothing is left but that clicks are whole.
                var estimate = Ratio([.. success.Select(s => 2L * s)], [.. success.Select(s => (long)s)]);
                estimate.Value.ShouldBe(Math.Log(2), 0.01);
                estimate.Error.ShouldBe(Math.Sqrt(1 / (2.0 * success.Sum() + 0.5) + 1 / (success.Sum() + 0.5)), 1e-3);
            });

    [Fact]
    public void The_ratio_turned_round_is_as_sure() =>
        Gen.Select(Gen.Int[0, 300].Array[6], Gen.Int[0, 300].Array[6])
            .Where((a, b) => a.Sum() > 0 && b.Sum() > 0)
            .Sample(
                (a, b) =>
                {
                    var (there, back) = (Ratio(Long(a), Long(b)), Ratio(Long(b), Long(a)));
                    back.Value.ShouldBe(-there.Value, 1e-12);
                    back.Error.ShouldBe(there.Error, 1e-12);
                    back.Chance.ShouldBe(there.Chance, 1e-12);
                }
            );

    [Fact]
    public void One_great_post_among_many_small_ones_counts_as_what_it_is()
    {
        long[] alike = [.. Enumerable.Repeat(20L, 30)];
        Ratio(alike, alike).Freedom.ShouldBe(29, 1e-9);
        Ratio([.. alike.SkipLast(1), 20_000], alike).Freedom.ShouldBeLessThan(3);
    }

    [Fact]
    public void Channels_with_posts_of_their_own_are_surer_if_they_post_by_the_calendar()
    {
        long[] clicks = [40, 60, 50, 70, 30, 55, 45, 50, 65, 35];
        double ErrorOf(Func<int, int> dayOf)
        {
            var days = Enumerable.Range(0, 20).Select(i => dayOf(i / 2)).ToArray();
            UnitCount[] Of(int first) => [.. clicks.Select((c, i) => new UnitCount(2 * i + first, c, true))];
            var units = new ClickUnits(UnitKind.Post, days, false, new Dictionary<string, UnitCount[]>());
            return ClusteredEstimate.OfRatio(Of(0), Of(1), units).Error;
        }

        var (byTheCalendar, atRandom) = (ErrorOf(i => 7 * i), ErrorOf(i => i < 9 ? i : 100));
        byTheCalendar.ShouldBeLessThan(0.8 * atRandom);
        ErrorOf(_ => 3).ShouldBe(atRandom, 1e-9, "posts of one day have no rhythm");
    }

    /// <summary>No cliffs: whatever one click more or less, or one post more, changes the interval by little.</summary>
    [Fact]
    public void A_click_or_a_post_more_never_makes_the_interval_leap() =>
        Gen.Select(Gen.Int[5, 200].Array[10, 60], Gen.Int[5, 200].Array[60], Gen.Int[0, 59], Gen.Int[1, 3].Array[62])
            .Sample(
                (a, bs, place, gaps) =>
                {
                    var b = bs[..a.Length];
                    var days = gaps.Select((_, i) => gaps[..i].Sum()).ToArray();
                    var before = Width(Ratio(Long(a), Long(b), days: days));
                    var more = a.ToArray();
                    more[place % a.Length]++;
                    Math.Abs(Math.Log(Width(Ratio(Long(more), Long(b), days: days)) / before)).ShouldBeLessThan(0.1, "a click more");

                    // A post with what posts bring on average says nothing new, and makes the answer a little surer.
                    var (meanA, meanB) = (a.Sum() / a.Length, b.Sum() / b.Length);
                    var withPost = Width(Ratio([.. Long(a), meanA], [.. Long(b), meanB], days: days));
                    Math.Abs(Math.Log(withPost / before)).ShouldBeLessThan(4.0 / a.Length, "a post more");
                },
                iter: 2000
            );

    private static double Width(ClusteredEstimate estimate) => estimate.Interval() is var (low, high) ? Math.Log(high / low) : 0;

    private static long[] Thousandfold(long[] clicks) => [.. clicks.Select(c => 1000 * c)];

    private static long[] Long(int[] clicks) => [.. clicks.Select(c => (long)c)];

    /// <summary>Where nothing else is said, all posts are of one day, which has no rhythm.</summary>
    private static ClusteredEstimate Ratio(long[] one, long[] other, bool isPerPost = false, int[]? days = null)
    {
        var units = new ClickUnits(UnitKind.Post, days ?? new int[70], false, new Dictionary<string, UnitCount[]>());
        return ClusteredEstimate.OfRatio(Posts.Of(one), Posts.Of(other), units, isPerPost);
    }
}
