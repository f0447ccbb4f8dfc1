using Cursus.Core.Reports;
using NodaTime;
using Period = Cursus.Core.Reports.Period;

namespace Cursus.Core.Tests.Reports;

public class PeriodTests
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    [Fact]
    public void The_last_seven_days_include_today() =>
        Period.Last(7, new LocalDate(2026, 11, 23)).ShouldBe(new Period(new LocalDate(2026, 11, 17), new LocalDate(2026, 11, 23)));

    [Fact]
    public void The_period_before_has_equal_length_and_ends_the_day_before()
    {
        var before = new Period(new LocalDate(2026, 10, 27), new LocalDate(2026, 11, 23)).Before;
        (before.From, before.To, before.Days).ShouldBe((new LocalDate(2026, 9, 29), new LocalDate(2026, 10, 26), 28));
    }

    [Theory]
    [InlineData(2026, 3, 29, 23)]
    [InlineData(2026, 10, 25, 25)]
    [InlineData(2026, 6, 1, 24)]
    public void A_day_of_a_clock_change_has_23_or_25_hours(int year, int month, int day, int hours)
    {
        var date = new LocalDate(year, month, day);
        new Period(date, date).In(London).Duration.ShouldBe(Duration.FromHours(hours));
    }

    /// <summary>Samoa went from 29 to 31 December 2011 overnight (IANA time zone database, file australasia).</summary>
    [Fact]
    public void A_day_that_the_zone_left_out_is_empty()
    {
        var apia = DateTimeZoneProviders.Tzdb["Pacific/Apia"];
        var skipped = new LocalDate(2011, 12, 30);
        new Period(skipped, skipped).In(apia).Duration.ShouldBe(Duration.Zero);
        new Period(skipped.PlusDays(-1), skipped.PlusDays(1)).In(apia).Duration.ShouldBe(Duration.FromHours(48));
    }

    [Fact]
    public void Days_are_cut_in_the_zone_of_the_workspace()
    {
        var kiritimati = DateTimeZoneProviders.Tzdb["Pacific/Kiritimati"];
        var day = new LocalDate(2026, 1, 1);
        new Period(day, day).In(kiritimati).Start.ShouldBe(Instant.FromUtc(2025, 12, 31, 10, 0));
    }

    [Fact]
    public void An_unfinished_period_is_compared_with_as_much_of_the_one_before()
    {
        var week = new Period(new LocalDate(2026, 11, 17), new LocalDate(2026, 11, 23));
        var now = Instant.FromUtc(2026, 11, 23, 15, 30);
        week.UpToNow(week.Before, London, now).ShouldBe(new Interval(Instant.FromUtc(2026, 11, 10, 0, 0), Instant.FromUtc(2026, 11, 16, 15, 30)));
    }

    [Fact]
    public void Across_a_clock_change_as_much_means_the_same_time_of_day()
    {
        var week = new Period(new LocalDate(2026, 10, 26), new LocalDate(2026, 11, 1));
        var now = Instant.FromUtc(2026, 10, 27, 9, 0);
        week.UpToNow(week.Before, London, now).End.ShouldBe(Instant.FromUtc(2026, 10, 20, 8, 0));
    }

    [Fact]
    public void A_finished_period_is_compared_with_the_whole_one_before()
    {
        var week = new Period(new LocalDate(2026, 11, 2), new LocalDate(2026, 11, 8));
        week.UpToNow(week.Before, London, Instant.FromUtc(2026, 11, 23, 15, 30)).ShouldBe(week.Before.In(London));
    }

    [Theory]
    [InlineData(2026, 11, 23, 2026, 11, 22, "period-reversed")]
    [InlineData(2010, 1, 1, 2026, 11, 22, "period-too-long")]
    public void A_period_that_makes_no_sense_is_refused(int y1, int m1, int d1, int y2, int m2, int d2, string code) =>
        Period.Check(new LocalDate(y1, m1, d1), new LocalDate(y2, m2, d2))!.Code.ShouldBe(code);

    [Theory]
    [InlineData("today", "2026-11-25", "2026-11-25")]
    [InlineData("yesterday", "2026-11-24", "2026-11-24")]
    [InlineData("last-7", "2026-11-19", "2026-11-25")]
    [InlineData("last-28", "2026-10-29", "2026-11-25")]
    [InlineData("last-30", "2026-10-27", "2026-11-25")]
    [InlineData("last-90", "2026-08-28", "2026-11-25")]
    [InlineData("this-week", "2026-11-23", "2026-11-29")]
    [InlineData("last-week", "2026-11-16", "2026-11-22")]
    [InlineData("this-month", "2026-11-01", "2026-11-30")]
    [InlineData("last-month", "2026-10-01", "2026-10-31")]
    [InlineData("this-quarter", "2026-10-01", "2026-12-31")]
    [InlineData("last-quarter", "2026-07-01", "2026-09-30")]
    [InlineData("this-year", "2026-01-01", "2026-12-31")]
    [InlineData("last-year", "2025-01-01", "2025-12-31")]
    public void A_named_period_means_what_people_mean(string name, string from, string to) =>
        NamedPeriod.Of(name, new LocalDate(2026, 11, 25), IsoDayOfWeek.Monday).ShouldBe(new Period(Day(from), Day(to)));

    [Theory]
    [InlineData(IsoDayOfWeek.Monday, "2026-11-29", "2026-11-23")]
    [InlineData(IsoDayOfWeek.Saturday, "2026-11-29", "2026-11-28")]
    [InlineData(IsoDayOfWeek.Saturday, "2026-11-27", "2026-11-21")]
    [InlineData(IsoDayOfWeek.Sunday, "2026-11-29", "2026-11-29")]
    [InlineData(IsoDayOfWeek.Sunday, "2026-11-28", "2026-11-22")]
    public void This_week_is_the_week_that_begins_on_the_workspaces_day(IsoDayOfWeek start, string today, string first)
    {
        NamedPeriod.Of("this-week", Day(today), start).ShouldBe(new Period(Day(first), Day(first).PlusDays(6)));
        NamedPeriod.Of("last-week", Day(today), start).ShouldBe(new Period(Day(first).PlusDays(-7), Day(first).PlusDays(-1)));
    }

    [Theory]
    [InlineData("last-month", "2026-01-15", "2025-12-01..2025-12-31")]
    [InlineData("last-quarter", "2026-02-28", "2025-10-01..2025-12-31")]
    [InlineData("last-week", "2026-01-01", "2025-12-22..2025-12-28")]
    public void Named_periods_reach_over_the_turn_of_the_year(string name, string today, string period) =>
        NamedPeriod.Of(name, Day(today), IsoDayOfWeek.Monday)!.ToString().ShouldBe(period);

    [Fact]
    public void Every_name_means_something_and_no_other_does()
    {
        NamedPeriod.Names.ShouldAllBe(name => NamedPeriod.Of(name, new LocalDate(2028, 2, 29), IsoDayOfWeek.Monday) != null);
        NamedPeriod.Of("last-5", new LocalDate(2026, 11, 25), IsoDayOfWeek.Monday).ShouldBeNull();
    }

    [Theory]
    [InlineData("2026-03-01", "2026-03-31", "2026-02-01..2026-02-28", "2025-03-01..2025-03-31")]
    [InlineData("2026-10-01", "2026-12-31", "2026-07-01..2026-09-30", "2025-10-01..2025-12-31")]
    [InlineData("2026-01-01", "2026-12-31", "2025-01-01..2025-12-31", "2025-01-01..2025-12-31")]
    [InlineData("2028-02-01", "2028-02-29", "2028-01-01..2028-01-31", "2027-02-01..2027-02-28")]
    [InlineData("2028-02-10", "2028-02-29", "2028-01-21..2028-02-09", "2027-02-10..2027-02-28")]
    public void Whole_months_are_held_against_whole_months_and_a_year_ago_against_the_same_days(
        string from,
        string to,
        string before,
        string yearBefore
    )
    {
        var period = new Period(Day(from), Day(to));
        period.Earlier(Comparison.PeriodBefore)!.ToString().ShouldBe(before);
        period.Earlier(Comparison.YearBefore)!.ToString().ShouldBe(yearBefore);
        period.Earlier(Comparison.None).ShouldBeNull();
    }

    [Fact]
    public void An_unfinished_month_is_held_against_as_many_days_of_the_month_before()
    {
        var march = new Period(new LocalDate(2026, 3, 1), new LocalDate(2026, 3, 31));
        march.UpToNow(march.Before, London, Instant.FromUtc(2026, 3, 10, 12, 0)).End.ShouldBe(Instant.FromUtc(2026, 2, 10, 12, 0));
        march.UpToNow(march.Before, London, Instant.FromUtc(2026, 3, 30, 12, 0)).End.ShouldBe(Instant.FromUtc(2026, 3, 1, 0, 0));
    }

    private static LocalDate Day(string text) => NodaTime.Text.LocalDatePattern.Iso.Parse(text).Value;
}
