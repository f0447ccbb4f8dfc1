using CsCheck;
using Cursus.Core.Comparing;
using MathNet.Numerics.Distributions;

namespace Cursus.Core.Tests.Comparing;

public class PoissonIntervalTests
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

    /// <summary>Its definition: behind the upper bound so few clicks, behind the lower one so many, come in one of forty cases each.</summary>
    [Fact]
    public void Beyond_its_bounds_a_count_comes_in_one_of_forty_cases() => Gen.OneOf(Gen.Int[1, 100], Gen.Int[1, 10_000], Gen.Int[1, 5_000_000]).Sample(ComesInOneOfFortyCases, iter: 300);

    [Fact]
    public void That_holds_for_each_single_count_up_to_a_thousand()
    {
        for (var clicks = 1; clicks <= 1_000; clicks++)
        {
            ComesInOneOfFortyCases(clicks);
        }
    }

    private static void ComesInOneOfFortyCases(int clicks)
    {
        var (low, high) = PoissonInterval.Of(clicks);
        new Poisson(high).CumulativeDistribution(clicks).ShouldBe(0.025, 1e-6, $"{clicks} clicks");
        (1 - new Poisson(low).CumulativeDistribution(clicks - 1)).ShouldBe(0.025, 1e-6, $"{clicks} clicks");
    }
}
