using CsCheck;
using Cursus.Core.Reports;

namespace Cursus.Core.Tests.Reports;

public class WilsonIntervalTests
{
    /// <summary>The score interval (method 3) of Newcombe 1998, "Two-sided confidence intervals for the single proportion", Statistics in Medicine
    /// 17, table I (values from memory; R's prop.test without correction agrees).</summary>
    [Theory]
    [InlineData(81, 263, 0.2553, 0.3662)]
    [InlineData(15, 148, 0.0624, 0.1605)]
    [InlineData(0, 20, 0.0000, 0.1611)]
    [InlineData(1, 29, 0.0061, 0.1718)]
    public void How_sure_a_share_is_follows_Wilson_1927(long part, long whole, double low, double high)
    {
        var interval = WilsonInterval.Of(part, whole);
        interval.Low.ShouldBe(low, 0.00006);
        interval.High.ShouldBe(high, 0.00006);
    }

    [Fact]
    public void A_share_of_clicks_that_come_four_at_once_is_as_sure_as_that_of_a_quarter_of_them() =>
        WilsonInterval.Of(40, 100, dispersion: 4).ShouldBe(WilsonInterval.Of(10, 25));

    [Fact]
    public void It_holds_the_share_and_stays_within_nothing_and_all() =>
        Gen.Select(Gen.Long[0, 100_000], Gen.Long[0, 100_000], Gen.Double[1, 50])
            .Sample(
                (part, rest, dispersion) =>
                {
                    var (low, high) = WilsonInterval.Of(part, part + rest, dispersion: dispersion);
                    var share = part + rest == 0 ? 0.5 : (double)part / (part + rest);
                    low.ShouldBeInRange(0, share + 1e-12);
                    high.ShouldBeInRange(share - 1e-12, 1);
                }
            );
}
