using Cursus.Core.Reports;
using NodaTime;

namespace Cursus.Core.Tests.Reports;

public class PostAgeTests
{
    private static readonly LocalDate Day = new(2026, 3, 10);

    [Theory]
    [InlineData(null, "before")]
    [InlineData(-1, "before")]
    [InlineData(0, "hour")]
    [InlineData(1, "day")]
    [InlineData(23, "day")]
    [InlineData(24, "week")]
    [InlineData(167, "week")]
    [InlineData(168, "month")]
    [InlineData(719, "month")]
    [InlineData(720, "later")]
    public void A_click_belongs_to_the_band_of_its_hours(int? hours, string key) => PostAge.All[PostAge.PlaceOf(hours)].Key.ShouldBe(key);

    [Fact]
    public void A_post_went_out_with_its_first_click_from_its_day_on() =>
        PostAge.WentOut(Day, null, Day.At(new LocalTime(9, 40))).ShouldBe(Day.At(new LocalTime(9, 40)));

    [Fact]
    public void A_link_that_opened_later_went_out_then() =>
        PostAge.WentOut(Day, Day.At(new LocalTime(12, 0)), Day.At(new LocalTime(9, 40))).ShouldBe(Day.At(new LocalTime(12, 0)));

    [Fact]
    public void A_link_that_opened_before_its_post_s_day_did_not_go_out_then() =>
        PostAge.WentOut(Day, Day.PlusDays(-3).AtMidnight(), Day.At(new LocalTime(9, 40))).ShouldBe(Day.At(new LocalTime(9, 40)));

    [Fact]
    public void A_post_that_nobody_clicked_never_went_out() => PostAge.WentOut(Day, Day.AtMidnight(), null).ShouldBeNull();
}
