using System.Runtime.InteropServices;
using Cursus.Core.Clicks.Tallies;
using Cursus.Core.Retargeting;
using Cursus.Data.Clicks;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Retargeting;

/// <summary>Keeps <c>pixel_days</c>: adds what became of pixels to the days it fell into. The caller holds the transaction and is alone in writing.
/// Single reports are not kept.</summary>
public static class PixelRollUp
{
    /// <summary>What one pixel came to on one day of one link.</summary>
    private sealed class Counts
    {
        public int[] Of { get; } = new int[Enum.GetValues<HandoffOutcome>().Length];

        public VisitorSketch Visitors { get; } = new();
    }

    /// <summary>Stores reports beside which there are no others; the caller holds the transaction.</summary>
    public static Task Store(NpgsqlConnection connection, IEnumerable<HandoffReport> reports, CancellationToken cancel) =>
        Add(connection, new LinkHomes(), reports, cancel);

    /// <summary>Adds reports. Those of links or pixels that don't exist any more count nowhere.</summary>
    internal static async Task Add(NpgsqlConnection connection, LinkHomes homes, IEnumerable<HandoffReport> reports, CancellationToken cancel)
    {
        var all = reports.ToList();
        if (all.Count == 0)
        {
            return;
        }

        await homes.Learn(connection, all.Select(r => r.LinkId), cancel);
        var days = new Dictionary<(Guid Pixel, Guid Link, LocalDate Day), Counts>();
        foreach (var report in all)
        {
            if (homes.Of(report.LinkId) is { } home)
            {
                var day = report.At.InZone(home.Zone).Date;
                foreach (var (pixel, outcome) in report.Pixels)
                {
                    var counts = CollectionsMarshal.GetValueRefOrAddDefault(days, (pixel, report.LinkId, day), out _) ??= new Counts();
                    counts.Of[(int)outcome]++;
                    if (outcome == HandoffOutcome.Fired)
                    {
                        counts.Visitors.Add(report.Visitor);
                    }
                }
            }
        }

        await AddStoredVisitors(connection, days, cancel);
        await Write(connection, days, cancel);
    }

    private static async Task AddStoredVisitors(
        NpgsqlConnection connection,
        Dictionary<(Guid Pixel, Guid Link, LocalDate Day), Counts> days,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            select d.pixel_id, d.link_id, d.day, d.visitor_sketch from pixel_days d
            join unnest($1::uuid[], $2::uuid[], $3::date[]) as asked (pixel_id, link_id, day) using (pixel_id, link_id, day)
            """,
            connection
        );
        AddKeys(command, days);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            days[(reader.GetGuid(0), reader.GetGuid(1), reader.GetFieldValue<LocalDate>(2))]
                .Visitors.Add(VisitorSketch.OfBytes(reader.GetFieldValue<byte[]>(3)));
        }
    }

    private static async Task Write(
        NpgsqlConnection connection,
        Dictionary<(Guid Pixel, Guid Link, LocalDate Day), Counts> days,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            insert into pixel_days (pixel_id, link_id, day, fired, missed, declined, opted_out, visitor_sketch)
            select a.* from unnest($1::uuid[], $2::uuid[], $3::date[], $4::int[], $5::int[], $6::int[], $7::int[], $8::bytea[])
                as a (pixel_id, link_id, day, fired, missed, declined, opted_out, visitor_sketch)
            join links l on l.id = a.link_id join pixels p on p.id = a.pixel_id and p.workspace_id = l.workspace_id
            on conflict (pixel_id, link_id, day) do update set
                fired = pixel_days.fired + excluded.fired, missed = pixel_days.missed + excluded.missed,
                declined = pixel_days.declined + excluded.declined, opted_out = pixel_days.opted_out + excluded.opted_out,
                visitor_sketch = excluded.visitor_sketch
            """,
            connection
        );
        AddKeys(command, days);
        foreach (var outcome in Enum.GetValues<HandoffOutcome>())
        {
            command.Parameters.Add(new() { Value = days.Values.Select(c => c.Of[(int)outcome]).ToArray() });
        }

        command.Parameters.Add(new() { Value = days.Values.Select(c => c.Visitors.ToBytes()).ToArray() });
        await command.ExecuteNonQueryAsync(cancel);
    }

    private static void AddKeys(NpgsqlCommand command, Dictionary<(Guid Pixel, Guid Link, LocalDate Day), Counts> days)
    {
        command.Parameters.Add(new() { Value = days.Keys.Select(k => k.Pixel).ToArray() });
        command.Parameters.Add(new() { Value = days.Keys.Select(k => k.Link).ToArray() });
        command.Parameters.Add(new() { Value = days.Keys.Select(k => k.Day).ToArray() });
    }
}
