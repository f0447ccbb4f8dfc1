using Cursus.Core.Routing;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Core.Tests.Routing;

public class WeekHoursTests
{
    private static readonly DateTimeZone London = DateTimeZoneProviders.Tzdb["Europe/London"];

    [Theory]
    [InlineData("2026-12-04T21:59", false)]
    [InlineData("2026-12-04T22:00", true)]
    [InlineData("2026-12-05T02:00", true)]
    [InlineData("2026-12-05T06:00", false)]
    [InlineData("2026-12-05T23:00", false)]
    [InlineData("2026-12-04T02:00", false)]
    public void Hours_that_cross_midnight_belong_to_the_day_on_which_they_begin(string local, bool holds) =>
        Of("22:00-06:00", IsoDayOfWeek.Friday).Holds(At(local)).ShouldBe(holds, "2026-12-04 is a Friday");

    [Theory]
    [InlineData("2026-12-05T12:00", false)]
    [InlineData("2026-12-07T07:59", false)]
    [InlineData("2026-12-07T08:00", true)]
    [InlineData("2026-12-07T17:59", true)]
    [InlineData("2026-12-07T18:00", false)]
    public void Days_and_hours_hold_together(string local, bool holds) =>
        Of("08:00-18:00", IsoDayOfWeek.Monday, IsoDayOfWeek.Tuesday).Holds(At(local)).ShouldBe(holds);

    /// <summary>On 29 March 2026 clocks in London go from 01:00 to 02:00, on 25 October from 02:00 back to 01:00.</summary>
    [Fact]
    public void Both_clock_changes_are_as_the_clock_shows()
    {
        var hour = Of("01:00-02:00");
        Seconds(hour, "2026-03-29").ShouldBe(0, "the hour is left out");
        Seconds(hour, "2026-10-25").ShouldBe(7200, "the hour comes twice");
        Seconds(hour, "2026-06-01").ShouldBe(3600);
        Seconds(Of("00:30-02:30"), "2026-03-29").ShouldBe(3600);
    }

    [Fact]
    public void Far_east_of_greenwich_it_is_another_weekday()
    {
        var kiritimati = DateTimeZoneProviders.Tzdb["Pacific/Kiritimati"];
        var sunday = Instant.FromUtc(2026, 12, 6, 11, 0);
        kiritimati.GetUtcOffset(sunday).ShouldBe(Offset.FromHours(14));
        new WeekHours([IsoDayOfWeek.Monday]).Holds(sunday.InZone(kiritimati).LocalDateTime).ShouldBeTrue();
        new WeekHours([IsoDayOfWeek.Sunday]).Holds(sunday.InZone(kiritimati).LocalDateTime).ShouldBeFalse();
    }

    [Theory]
    [InlineData("22:00-06:00", 1320, 360)]
    [InlineData("00:00-24:00", 0, 1440)]
    [InlineData("18:30 - 24:00", 1110, 1440)]
    public void Hours_are_read(string text, int from, int to)
    {
        WeekHours.TryReadHours(text, out var begin, out var end, out _).ShouldBeTrue();
        (begin, end).ShouldBe((from, to));
        new WeekHours([], begin, end).HoursText.ShouldBe(text.Replace(" ", "", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("")]
    [InlineData("8-18")]
    [InlineData("08:00")]
    [InlineData("08:00-08:00")]
    [InlineData("24:00-06:00")]
    [InlineData("08:60-09:00")]
    [InlineData("08:00-24:01")]
    [InlineData("-1:00-06:00")]
    [InlineData("08:00-18:00-20:00")]
    public void What_is_no_hours_is_told(string text)
    {
        WeekHours.TryReadHours(text, out _, out _, out var error).ShouldBeFalse();
        error!.Code.ShouldBe("hours");
    }

    private static WeekHours Of(string hours, params IsoDayOfWeek[] days)
    {
        WeekHours.TryReadHours(hours, out var from, out var to, out _).ShouldBeTrue();
        return new(days, from, to);
    }

    private static LocalDateTime At(string local) => LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm").Parse(local).Value;

    /// <summary>For how many seconds of a day in London it holds.</summary>
    private static int Seconds(WeekHours hours, string day)
    {
        var date = LocalDatePattern.Iso.Parse(day).Value;
        var (from, to) = (London.AtStartOfDay(date).ToInstant(), London.AtStartOfDay(date.PlusDays(1)).ToInstant());
        var held = 0;
        for (var at = from; at < to; at += Duration.FromMinutes(1))
        {
            held += hours.Holds(at.InZone(London).LocalDateTime) ? 60 : 0;
        }

        return held;
    }
}
