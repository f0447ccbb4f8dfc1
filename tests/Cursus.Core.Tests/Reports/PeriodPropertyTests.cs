using CsCheck;
using NodaTime;
using Period = Cursus.Core.Reports.Period;

namespace Cursus.Core.Tests.Reports;

/// <summary>What must hold for every period in every zone, clock changes and skipped days included.</summary>
public class PeriodPropertyTests
{
    private static readonly string[] ZoneIds =
    [
        "Europe/London",
        "America/New_York",
        "Pacific/Kiritimati",
        "Pacific/Apia",
        "Asia/Kathmandu",
        "Australia/Lord_Howe",
        "America/Sao_Paulo",
        "Africa/Casablanca",
        "UTC",
    ];

    private static readonly Gen<(Period Period, DateTimeZone Zone)> Periods = Gen.Select(
        Gen.Int[0, 9000],
        Gen.Int[1, 400],
        Gen.Int[0, ZoneIds.Length - 1],
        (start, days, zone) =>
            (
                new Period(new LocalDate(2005, 1, 1).PlusDays(start), new LocalDate(2005, 1, 1).PlusDays(start + days - 1)),
                DateTimeZoneProviders.Tzdb[ZoneIds[zone]]
            )
    );

    [Fact]
    public void The_period_before_ends_where_this_one_begins_and_is_as_long_in_days_or_in_whole_months() =>
        Periods.Sample(
            (period, zone) =>
            {
                period.Before.In(zone).End.ShouldBe(period.In(zone).Start);
                var isWholeMonths = period.From.Day == 1 && period.To.PlusDays(1).Day == 1;
                (period.Before.Days == period.Days || (isWholeMonths && period.Before.From.Day == 1)).ShouldBeTrue();
            }
        );

    [Fact]
    public void Its_days_one_by_one_make_up_the_whole_without_gap_or_overlap() =>
        Periods.Sample(
            (period, zone) =>
            {
                var at = period.In(zone).Start;
                for (var day = period.From; day <= period.To; day = day.PlusDays(1))
                {
                    var one = new Period(day, day).In(zone);
                    one.Start.ShouldBe(at);
                    at = one.End;
                }

                at.ShouldBe(period.In(zone).End);
            },
            iter: 60
        );

    [Fact]
    public void What_an_unfinished_period_is_compared_with_never_reaches_into_it() =>
        Gen.Select(Periods, Gen.Double[0, 1])
            .Sample(
                (asked, passed) =>
                {
                    var (period, zone) = asked;
                    var whole = period.In(zone);
                    var before = period.UpToNow(period.Before, zone, whole.Start + whole.Duration * passed);
                    before.Start.ShouldBe(period.Before.In(zone).Start);
                    before.End.ShouldBeLessThanOrEqualTo(whole.Start);
                    before.End.ShouldBeGreaterThanOrEqualTo(before.Start);
                }
            );

    [Fact]
    public void It_is_written_as_its_two_days() => new Period(new(2026, 10, 1), new(2026, 11, 3)).ToString().ShouldBe("2026-10-01..2026-11-03");

    [Fact]
    public void The_last_days_end_today_and_are_as_many_as_asked() =>
        Gen.Select(Gen.Int[1, 3000], Gen.Int[0, 9000])
            .Sample(
                (days, start) =>
                {
                    var today = new LocalDate(2005, 1, 1).PlusDays(start);
                    var last = Period.Last(days, today);
                    (last.To, last.Days).ShouldBe((today, days));
                }
            );
}
