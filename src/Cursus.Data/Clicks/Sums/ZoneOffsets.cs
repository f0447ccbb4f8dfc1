using System.Globalization;
using NodaTime;
using NodaTime.Text;
using Npgsql;

namespace Cursus.Data.Clicks.Sums;

/// <summary>NodaTime's offsets as a table of SQL, so that clicks are cut into months by the same clock everywhere; the database's own time zones may
/// be of another year.</summary>
internal static class ZoneOffsets
{
    private static readonly Instant First = Instant.FromUtc(2000, 1, 1, 0, 0);
    private static readonly Instant Last = Instant.FromUtc(2100, 1, 1, 0, 0);

    /// <summary>A join of <c>zone_offsets z</c> to <c>workspaces w</c> and <c>clicks c</c>: <c>z.seconds</c> is the click's offset from
    /// UTC.</summary>
    /// <param name="also">A zone that may be no workspace's yet.</param>
    public static async Task<string> Join(NpgsqlConnection connection, DateTimeZone? also, CancellationToken cancel)
    {
        var zones = new HashSet<string>(also is null ? [] : [also.Id]);
        await using (var command = new NpgsqlCommand("select distinct time_zone from workspaces", connection))
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                zones.Add(reader.GetString(0));
            }
        }

        var rows = zones
            .SelectMany(
                id => DateTimeZoneProviders.Tzdb[id].GetZoneIntervals(First, Last),
                (id, interval) =>
                    string.Create(CultureInfo.InvariantCulture, $"('{id}', {From(interval)}, {Until(interval)}, {interval.WallOffset.Seconds})")
            )
            .DefaultIfEmpty("('UTC', '-infinity'::timestamptz, 'infinity'::timestamptz, 0)");
        return $"join (values {string.Join(", ", rows)}) as z (zone, since, until, seconds) on z.zone = w.time_zone and c.at >= z.since and c.at < z.until";
    }

    private static string From(NodaTime.TimeZones.ZoneInterval interval) =>
        interval.HasStart && interval.Start > First ? Moment(interval.Start) : "'-infinity'::timestamptz";

    private static string Until(NodaTime.TimeZones.ZoneInterval interval) =>
        interval.HasEnd && interval.End < Last ? Moment(interval.End) : "'infinity'::timestamptz";

    private static string Moment(Instant at) => $"'{InstantPattern.General.Format(at)}'::timestamptz";
}
