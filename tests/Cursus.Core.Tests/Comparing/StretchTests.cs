using Cursus.Core.Comparing;
using NodaTime;
using Period = Cursus.Core.Comparing.Period;

namespace Cursus.Core.Tests.Comparing;

public class StretchTests
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    [Fact]
    public void A_part_of_a_day_is_left_to_the_clicks() =>
        Stretch.Of(new LocalDate(2026, 3, 28), Instant.FromUtc(2026, 3, 29, 14, 30), London).ShouldBe(
            new Stretch(new LocalDate(2026, 3, 28), new LocalDate(2026, 3, 28), new Interval(Instant.FromUtc(2026, 3, 29, 0, 0), Instant.FromUtc(2026, 3, 29, 14, 30))));

    [Fact]
    public void Nothing_is_left_where_it_ends_with_a_day() => Stretch.Of(new LocalDate(2026, 3, 28), Instant.FromUtc(2026, 3, 29, 0, 0), London).Rest.ShouldBeNull();

    [Fact]
    public void What_has_not_begun_has_no_day()
    {
        var none = Stretch.Of(new LocalDate(2026, 3, 28), Instant.FromUtc(2026, 3, 28, 0, 0), London);
        (none.Last, none.Rest).ShouldBe((new LocalDate(2026, 3, 27), null));
        none.Months.ShouldBeEmpty();
    }

    [Fact]
    public void Its_months_are_those_that_its_days_lie_in() =>
        Stretch.Of(new Period(new LocalDate(2025, 12, 31), new LocalDate(2026, 2, 1))).Months.ShouldBe([new LocalDate(2025, 12, 1), new LocalDate(2026, 1, 1), new LocalDate(2026, 2, 1)]);
}
