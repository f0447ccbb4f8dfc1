using CsCheck;
using Cursus.Web.Comparing;
using NodaTime;
using Period = Cursus.Core.Comparing.Period;

namespace Cursus.Web.Tests.Comparing;

public class StretchTests
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    private static readonly HashSet<LocalDate> Sealed = Enumerable.Range(0, 20).Select(m => new LocalDate(2025, 3, 1).PlusMonths(m)).Where(m => m.Month != 5).ToHashSet();

    private static readonly Gen<Period> Periods = Gen.Select(Gen.Int[0, 800], Gen.Int[0, 500], (start, days) =>
        new Period(new LocalDate(2025, 1, 1).PlusDays(start), new LocalDate(2025, 1, 1).PlusDays(start + days)));

    [Fact]
    public void Months_and_days_are_the_period_without_gap_or_overlap() => Periods.Sample(period =>
    {
        var stretch = Stretch.Of(period, Sealed);
        stretch.Rest.ShouldBeNull();
        DaysOf(stretch).Order().ShouldBe(Enumerable.Range(0, period.Days).Select(period.From.PlusDays));
        stretch.Months.ShouldAllBe(m => Sealed.Contains(m));
    }, iter: 300);

    [Fact]
    public void Whole_sealed_months_are_never_read_day_by_day() => Periods.Sample(period =>
    {
        var stretch = Stretch.Of(period, Sealed);
        Sealed.Where(m => m >= period.From && m.PlusMonths(1).PlusDays(-1) <= period.To).ShouldBe(stretch.Months, ignoreOrder: true);
        stretch.Days.Count.ShouldBeLessThanOrEqualTo(stretch.Months.Count + 1);
    }, iter: 300);

    [Fact]
    public void A_part_of_a_day_is_left_to_the_clicks()
    {
        var stretch = Stretch.Of(new LocalDate(2026, 3, 28), Instant.FromUtc(2026, 3, 29, 14, 30), London, Sealed);
        DaysOf(stretch).ShouldBe([new LocalDate(2026, 3, 28)]);
        stretch.Rest.ShouldBe(new Interval(Instant.FromUtc(2026, 3, 29, 0, 0), Instant.FromUtc(2026, 3, 29, 14, 30)));
    }

    [Fact]
    public void Nothing_is_left_where_it_ends_with_a_day_or_has_not_begun()
    {
        Stretch.Of(new LocalDate(2026, 3, 28), Instant.FromUtc(2026, 3, 29, 0, 0), London, Sealed).Rest.ShouldBeNull();
        var none = Stretch.Of(new LocalDate(2026, 3, 28), Instant.FromUtc(2026, 3, 28, 0, 0), London, Sealed);
        (none.Months.Count, none.Days.Count, none.Rest).ShouldBe((0, 0, null));
    }

    private static IEnumerable<LocalDate> DaysOf(Stretch stretch) => stretch.Months
        .SelectMany(m => Enumerable.Range(0, m.Calendar.GetDaysInMonth(m.Year, m.Month)).Select(m.PlusDays))
        .Concat(stretch.Days.SelectMany(d => Enumerable.Range(0, NodaTime.Period.DaysBetween(d.First, d.Last) + 1).Select(d.First.PlusDays)));
}
