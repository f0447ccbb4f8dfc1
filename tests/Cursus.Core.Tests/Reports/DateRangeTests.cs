using Cursus.Core.Reports;
using NodaTime;
using Period = Cursus.Core.Reports.Period;

namespace Cursus.Core.Tests.Reports;

public class DateRangeTests
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    [Fact]
    public void A_part_of_a_day_is_left_to_the_clicks() =>
        DateRange
            .Of(new LocalDate(2026, 3, 28), Instant.FromUtc(2026, 3, 29, 14, 30), London)
            .ShouldBe(
                new DateRange(
                    new LocalDate(2026, 3, 28),
                    new LocalDate(2026, 3, 28),
                    new Interval(Instant.FromUtc(2026, 3, 29, 0, 0), Instant.FromUtc(2026, 3, 29, 14, 30))
                )
            );

    [Fact]
    public void Nothing_is_left_where_it_ends_with_a_day() =>
        DateRange.Of(new LocalDate(2026, 3, 28), Instant.FromUtc(2026, 3, 29, 0, 0), London).Rest.ShouldBeNull();

    [Fact]
    public void What_has_not_begun_has_no_day()
    {
        var none = DateRange.Of(new LocalDate(2026, 3, 28), Instant.FromUtc(2026, 3, 28, 0, 0), London);
        (none.Last, none.Rest).ShouldBe((new LocalDate(2026, 3, 27), null));
        none.Months.ShouldBeEmpty();
    }

    [Fact]
    public void Its_months_are_those_that_its_days_lie_in() =>
        DateRange
            .Of(new Period(new LocalDate(2025, 12, 31), new LocalDate(2026, 2, 1)))
            .Months.ShouldBe([new LocalDate(2025, 12, 1), new LocalDate(2026, 1, 1), new LocalDate(2026, 2, 1)]);

    [Theory]
    [InlineData(1, 31, true)]
    [InlineData(1, 30, false)]
    [InlineData(2, 31, false)]
    [InlineData(-5, 0, true)]
    [InlineData(-5, 1, false)]
    [InlineData(32, 40, true)]
    [InlineData(-5, 40, true)]
    public void It_is_told_whether_a_month_lies_in_it_whole_or_not_at_all(int first, int last, bool isAllOrNone)
    {
        var before = new LocalDate(2026, 2, 28);
        new DateRange(before.PlusDays(first), before.PlusDays(last), null)
            .IsAllOrNoneOf(new LocalDate(2026, 3, 1), new LocalDate(2026, 4, 1))
            .ShouldBe(isAllOrNone);
    }
}
