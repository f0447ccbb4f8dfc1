using System.Globalization;
using Cursus.Core.Reports;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Data.Reports.Counts;

/// <summary>Cuts single clicks by the same clock as everything else: offsets come from NodaTime's time zones and never from the database's own, which
/// may be of another year.</summary>
internal static class LocalTimeSql
{
    /// <summary>An expression of the local time, a <c>timestamp</c>, of a <c>timestamptz</c>.</summary>
    /// <param name="column">The moment; between <paramref name="from"/> and <paramref name="until"/>, beyond which the nearest offset is
    /// taken.</param>
    public static string Of(string column, DateTimeZone zone, Instant from, Instant until)
    {
        var intervals = zone.GetZoneIntervals(from, until).ToList();
        var cases = string.Concat(intervals.SkipLast(1).Select(i => $" when {column} < {Moment(i.End)} then {Seconds(i.WallOffset)}"));
        var seconds = intervals.Count == 1 ? Seconds(intervals[0].WallOffset) : $"case{cases} else {Seconds(intervals[^1].WallOffset)} end";
        return $"({column} at time zone 'UTC' + make_interval(secs => {seconds}))";
    }

    /// <summary>The local time of <c>clicks c</c> during a range.</summary>
    public static string During(DateRange range, DateTimeZone zone)
    {
        var (start, end) = Around(range, zone);
        return Of("c.at", zone, start, end);
    }

    /// <summary>A range with a day on either side.</summary>
    public static (Instant Start, Instant End) Around(DateRange range, DateTimeZone zone)
    {
        var last = LocalDate.Max(range.Last, range.Rest?.End.InZone(zone).Date ?? range.Last);
        return (zone.AtStartOfDay(range.First.PlusDays(-1)).ToInstant(), zone.AtStartOfDay(last.PlusDays(2)).ToInstant());
    }

    public static string Moment(Instant at) => $"timestamptz '{InstantPattern.ExtendedIso.Format(at)}'";

    private static string Seconds(Offset offset) => offset.Seconds.ToString(CultureInfo.InvariantCulture);
}
