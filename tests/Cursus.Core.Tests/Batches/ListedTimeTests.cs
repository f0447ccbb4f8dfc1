using Cursus.Core.Batches;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Core.Tests.Batches;

/// <summary>Days and times as lists of other programs have them.</summary>
public class ListedTimeTests
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    private static string? Read(string text, DayOrder order = DayOrder.DayFirst) =>
        ListedTime.Read(text, order, London) is { } at ? InstantPattern.General.Format(at) : null;

    [Theory]
    [InlineData("2026-03-24", "2026-03-24T00:00:00Z")]
    [InlineData("2026-03-24 18:20", "2026-03-24T18:20:00Z")]
    [InlineData("2026/3/24 18:20:05", "2026-03-24T18:20:05Z")]
    [InlineData("2026-06-24", "2026-06-23T23:00:00Z")]
    [InlineData("2026-06-24T18:20:05.123Z", "2026-06-24T18:20:05Z")]
    [InlineData("2026-06-24T18:20:05+02:00", "2026-06-24T16:20:05Z")]
    [InlineData("2026-06-24 18:20:05 UTC", "2026-06-24T18:20:05Z")]
    public void A_day_written_by_ISO_8601_needs_no_choice_and_is_of_the_workspaces_zone_where_it_names_none(string text, string expected)
    {
        Read(text, DayOrder.DayFirst).ShouldBe(expected);
        Read(text, DayOrder.MonthFirst).ShouldBe(expected);
    }

    // Common practice, no source: who writes a last day means the day whole.
    [Theory]
    [InlineData("2026-03-29", "2026-03-29T23:00:00Z")]
    [InlineData("24/06/2023", "2023-06-24T23:00:00Z")]
    [InlineData("31 Dec 2026", "2027-01-01T00:00:00Z")]
    [InlineData("2026-03-24 18:20", "2026-03-24T18:20:00Z")]
    [InlineData("1795888800", "2026-11-28T18:00:00Z")]
    public void What_ends_with_a_day_is_over_with_the_next(string text, string expected) =>
        InstantPattern.General.Format(ListedTime.ReadEnd(text, DayOrder.DayFirst, London)!.Value).ShouldBe(expected);

    // RFC 3339, section 5.8.
    [Theory]
    [InlineData("1985-04-12T23:20:50.52Z", "1985-04-12T23:20:50Z")]
    [InlineData("1996-12-19T16:39:57-08:00", "1996-12-20T00:39:57Z")]
    [InlineData("1937-01-01T12:00:27.87+00:20", "1937-01-01T11:40:27Z")]
    public void The_examples_of_RFC_3339_are_read(string text, string expected) => Read(text).ShouldBe(expected);

    // RFC 5322, appendix A.1.1 and A.6.2 (without its obsolete zone).
    [Theory]
    [InlineData("Fri, 21 Nov 1997 09:55:06 -0600", "1997-11-21T15:55:06Z")]
    [InlineData("21 Nov 1997", "1997-11-21T00:00:00Z")]
    public void The_dates_of_e_mail_are_read(string text, string expected) => Read(text).ShouldBe(expected);

    [Theory]
    [InlineData("3/4/2026", "2026-04-02T23:00:00Z", "2026-03-04T00:00:00Z")]
    [InlineData("03-04-2026 2:05 PM", "2026-04-03T13:05:00Z", "2026-03-04T14:05:00Z")]
    [InlineData("3/4/2026 12:30 am", "2026-04-02T23:30:00Z", "2026-03-04T00:30:00Z")]
    public void Numbers_alone_are_read_in_the_chosen_order(string text, string dayFirst, string monthFirst)
    {
        Read(text, DayOrder.DayFirst).ShouldBe(dayFirst);
        Read(text, DayOrder.MonthFirst).ShouldBe(monthFirst);
    }

    // Common practice, no source; the order with dots is that of DIN 5008, from memory.
    [Theory]
    [InlineData("4.12.2026", "2026-12-04T00:00:00Z")]
    [InlineData("24 March 2026", "2026-03-24T00:00:00Z")]
    [InlineData("Mar 24, 2026", "2026-03-24T00:00:00Z")]
    [InlineData("Tuesday, March 24th, 2026 at 6:20 p.m.", "2026-03-24T18:20:00Z")]
    [InlineData("24-Mar-2026", "2026-03-24T00:00:00Z")]
    [InlineData("1774376400", "2026-03-24T18:20:00Z")]
    [InlineData("1774376400123", "2026-03-24T18:20:00Z")]
    public void Other_ways_to_write_a_day_need_no_choice_either(string text, string expected) => Read(text, DayOrder.MonthFirst).ShouldBe(expected);

    [Theory]
    [InlineData("24/3/26")]
    [InlineData("2026-02-29")]
    [InlineData("31/4/2026")]
    [InlineData("2026-03-24 25:00")]
    [InlineData("3/4/2026 13:00 pm")]
    [InlineData("2026-03/24")]
    [InlineData("24 Smarch 2026")]
    [InlineData("March 2026")]
    [InlineData("yesterday")]
    [InlineData("2026")]
    [InlineData("")]
    public void What_is_no_day_or_not_a_whole_one_is_not_guessed_at(string text) => Read(text).ShouldBeNull();

    [Fact]
    public void Every_day_of_four_years_is_read_back_however_it_is_written()
    {
        string[] patterns = ["uuuu-MM-dd", "uuuu/M/d", "d'.'M'.'uuuu", "d MMMM uuuu", "MMM d, uuuu", "dd-MMM-uuuu"];
        for (var day = new LocalDate(2023, 1, 1); day.Year < 2027; day = day.PlusDays(1))
        {
            foreach (var pattern in patterns.Append("dd/MM/uuuu"))
            {
                ListedTime
                    .Read(LocalDatePattern.CreateWithInvariantCulture(pattern).Format(day), DayOrder.DayFirst, London)!
                    .Value.InZone(London)
                    .Date.ShouldBe(day, pattern);
            }

            ListedTime
                .Read(LocalDatePattern.CreateWithInvariantCulture("M/d/uuuu").Format(day), DayOrder.MonthFirst, London)!
                .Value.InZone(London)
                .Date.ShouldBe(day);
        }
    }

    [Theory]
    [InlineData(DayOrder.DayFirst, "3/4/2026", "24/3/2026")]
    [InlineData(DayOrder.MonthFirst, "3/4/2026", "3/24/2026 10:00")]
    public void One_day_after_the_twelfth_tells_the_order_of_the_whole_column(DayOrder expected, params string[] texts)
    {
        ListedTime.TryTellOrder(texts, out var order).ShouldBeTrue();
        order.ShouldBe(expected);
    }

    [Theory]
    [InlineData(false, "3/4/2026", "5/6/2026")]
    [InlineData(false, "24/3/2026", "3/24/2026")]
    [InlineData(true, "2026-03-04", "4.3.2026", "Mar 4, 2026", "nothing")]
    [InlineData(true, "4/4/2026")]
    public void A_column_that_does_not_tell_must_be_asked_about_unless_it_makes_no_difference(bool isTold, params string[] texts) =>
        ListedTime.TryTellOrder(texts, out _).ShouldBe(isTold);
}
