using Cursus.Core.Reports;
using MathNet.Numerics.Distributions;

namespace Cursus.Core.Tests.Reports;

/// <summary>What a verdict promises, on drawn posts with fixed seeds; bench/verdict goes through many more habits and periods.</summary>
public class VerdictErrorTests
{
    private const int Times = 4000;

    [Theory]
    [InlineData(true, 8)]
    [InlineData(true, 20)]
    [InlineData(false, 12)]
    [InlineData(false, 40)]
    public void Equal_channels_are_called_clear_in_at_most_six_percent_of_simulations(bool areSame, int posts) =>
        (Clear(areSame, posts, better: 1) / (double)Times).ShouldBeLessThanOrEqualTo(0.06);

    [Fact]
    public void A_channel_that_brings_half_as_much_again_is_mostly_found_over_forty_posts() =>
        (Clear(areSame: true, 40, better: 1.5) / (double)Times).ShouldBeGreaterThan(0.9);

    /// <summary>In how many draws a lead is clear.</summary>
    /// <param name="areSame">Whether the posts go to both channels, or each has posts of its own.</param>
    private static int Clear(bool areSame, int posts, double better)
    {
        var random = new Random(posts);
        var clear = 0;
        for (var draw = 0; draw < Times; draw++)
        {
            var days = new int[2 * posts];
            var (one, other) = (new List<UnitCount>(), new List<UnitCount>());
            for (var post = 0; post < (areSame ? posts : 2 * posts); post++)
            {
                days[post] = (int)(0.5 * post * random.NextDouble() * 2) is var day && post > 0 ? Math.Max(day, days[post - 1]) : 0;
                var luck = Math.Exp(Normal.Sample(random, 0, 0.55));
                if (areSame || random.Next(2) == 0)
                {
                    one.Add(Count(post, 60 * luck * better));
                }

                if (areSame || one.Count == 0 || one[^1].Unit != post)
                {
                    other.Add(Count(post, 60 * luck));
                }
            }

            var units = new ClickUnits(UnitKind.Post, days, false, new Dictionary<string, UnitCount[]>());
            var (first, second) = ((UnitCount[])[.. one], (UnitCount[])[.. other]);
            var verdict =
                first.Sum(u => u.Clicks) >= second.Sum(u => u.Clicks) ? Verdict.Between(first, second, units) : Verdict.Between(second, first, units);
            clear += verdict.Call == VerdictCall.Clear ? 1 : 0;
        }

        return clear;

        UnitCount Count(int post, double mean) => new(post, Poisson.Sample(random, mean * Math.Exp(Normal.Sample(random, 0, 0.3))), true);
    }
}
