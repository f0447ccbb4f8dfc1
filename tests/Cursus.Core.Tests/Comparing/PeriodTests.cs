using NodaTime;
using Period = Cursus.Core.Comparing.Period;

namespace Cursus.Core.Tests.Comparing;

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
        week.BeforeUpToNow(London, now).ShouldBe(new Interval(Instant.FromUtc(2026, 11, 10, 0, 0), Instant.FromUtc(2026, 11, 16, 15, 30)));
    }

    [Fact]
    public void Across_a_clock_change_as_much_means_the_same_time_of_day()
    {
        var week = new Period(new LocalDate(2026, 10, 26), new LocalDate(2026, 11, 1));
        var now = Instant.FromUtc(2026, 10, 27, 9, 0);
        week.BeforeUpToNow(London, now).End.ShouldBe(Instant.FromUtc(2026, 10, 20, 8, 0));
    }

    [Fact]
    public void A_finished_period_is_compared_with_the_whole_one_before()
    {
        var week = new Period(new LocalDate(2026, 11, 2), new LocalDate(2026, 11, 8));
        week.BeforeUpToNow(London, Instant.FromUtc(2026, 11, 23, 15, 30)).ShouldBe(week.Before.In(London));
    }

    [Theory]
    [InlineData(2026, 11, 23, 2026, 11, 22, "period-reversed")]
    [InlineData(2010, 1, 1, 2026, 11, 22, "period-too-long")]
    public void A_period_that_makes_no_sense_is_refused(int y1, int m1, int d1, int y2, int m2, int d2, string code) =>
        Period.Check(new LocalDate(y1, m1, d1), new LocalDate(y2, m2, d2))!.Code.ShouldBe(code);
}
