using Cursus.Core.Routing;

namespace Cursus.Core.Tests.Routing;

public sealed class SplitCheckTests
{
    /// <summary>Mendel's peas, 315, 101, 108 and 32 of four kinds that are expected as 9:3:3:1, have a chi-square of 0.47 (R. A. Fisher, "Has
    /// Mendel's work been rediscovered?", Annals of Science 1, 1936, from memory); in whole percent the ratios are 56, 19, 19 and 6.</summary>
    [Fact]
    public void What_differs_by_chance_is_as_set() => SplitCheck.Of([(56, 315), (19, 101), (19, 108), (6, 32)]).ShouldBe(SplitCall.AsSet);

    /// <summary>The chi-square distribution with one degree of freedom is 10.828 at 0.1 % (NIST/SEMATECH e-Handbook of Statistical Methods, section
    /// 1.3.6.7.4). With 1,000 people over two pages, the distance is (2d)² / 1,000 where one has d too many: 52 are within, 53 beyond.</summary>
    [Theory]
    [InlineData(552, SplitCall.AsSet)]
    [InlineData(553, SplitCall.Off)]
    [InlineData(448, SplitCall.AsSet)]
    [InlineData(447, SplitCall.Off)]
    public void The_bound_lies_where_tables_have_it(int first, SplitCall call) => SplitCheck.Of([(50, first), (50, 1000 - first)]).ShouldBe(call);

    /// <summary>With two degrees of freedom it is 13.816.</summary>
    [Theory]
    [InlineData(560, 254, 186, SplitCall.Off)]
    [InlineData(555, 258, 187, SplitCall.AsSet)]
    public void Three_pages_have_a_bound_of_their_own(int first, int second, int third, SplitCall call) =>
        SplitCheck.Of([(50, first), (30, second), (20, third)]).ShouldBe(call);

    [Fact]
    public void Few_people_tell_nothing_and_how_many_are_needed_follows_the_smallest_share()
    {
        SplitCheck.Of([(90, 49), (10, 0)]).ShouldBe(SplitCall.TooFew);
        SplitCheck.Of([(90, 50), (10, 0)]).ShouldBe(SplitCall.AsSet);
        SplitCheck.Of([(90, 300), (10, 0)]).ShouldBe(SplitCall.Off);
        SplitCheck.Needed([(90, 0), (10, 0)]).ShouldBe(50);
        SplitCheck.Needed([(99, 0), (1, 0), (0, 0)]).ShouldBe(500);
    }

    [Fact]
    public void A_page_with_no_share_gets_nobody_and_one_with_all_gets_everybody()
    {
        SplitCheck.Of([(100, 500), (0, 0)]).ShouldBe(SplitCall.AsSet);
        SplitCheck.Of([(100, 500), (0, 1)]).ShouldBe(SplitCall.Off);
        SplitCheck.Of([(100, 0), (0, 0)]).ShouldBe(SplitCall.TooFew);
    }
}
