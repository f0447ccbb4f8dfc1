using System.Runtime.CompilerServices;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Tallies;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks.Sums;

/// <summary>Counts days of links anew from the clicks themselves.</summary>
internal static class Recount
{
    private const int ClicksAtOnce = 20_000;

    private const string Columns =
        "c.link_id, w.time_zone, w.clicks_kept_from, c.at, c.kind, c.visitor, c.country, u.device, u.browser, u.os, c.language, c.referrer_host, c.code, c.page, c.rule";

    private const string Homes =
        "links l on l.id = c.link_id join workspaces w on w.id = l.workspace_id join user_agents u on u.id = c.user_agent_id";

    private readonly record struct CountedClick(Guid Link, LocalDate Day, int Hour, EnrichedClick Told);

    /// <summary>All days, by month, link and day.</summary>
    /// <param name="workspace">Only those of its links; null for all.</param>
    /// <param name="zone">By whose clock days are cut; the workspace's where null.</param>
    /// <param name="progress">Told how many clicks have been counted so far.</param>
    public static async IAsyncEnumerable<(Guid Link, LocalDate Day, DayCounts Counts)> Days(
        NpgsqlConnection connection,
        Guid? workspace,
        [EnumeratorCancellation] CancellationToken cancel,
        DateTimeZone? zone = null,
        IProgress<int>? progress = null
    )
    {
        (Guid Link, LocalDate Day, DayCounts Counts)? current = null;
        await foreach (var (link, day, hour, told) in Clicks(connection, workspace, zone, progress, cancel))
        {
            if (current is { } last && (last.Link, last.Day) != (link, day))
            {
                yield return last;
                current = null;
            }

            current ??= (link, day, new DayCounts());
            current.Value.Counts.Add(told, hour);
        }

        if (current is { } final)
        {
            yield return final;
        }
    }

    /// <summary>Some days. Those without clicks are left out.</summary>
    public static async Task<Dictionary<(Guid Link, LocalDate Day), DayCounts>> Of(
        NpgsqlConnection connection,
        IReadOnlyCollection<(Guid Link, LocalDate Day)> asked,
        CancellationToken cancel
    )
    {
        var days = new Dictionary<(Guid, LocalDate), DayCounts>();
        var wanted = asked.ToHashSet();
        await using var command = new NpgsqlCommand(
            $"""
            select {Columns} from (select distinct link_id, day from unnest($1, $2) as asked (link_id, days), lateral (values (days - 1), (days), (days + 1)) as around (day)) as asked
                join clicks c on c.link_id = asked.link_id and c.at >= asked.day::timestamp at time zone 'UTC' and c.at < (asked.day + 1)::timestamp at time zone 'UTC'
                join {Homes}
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = asked.Select(a => a.Link).ToArray() },
                new() { Value = asked.Select(a => a.Day).ToArray() },
            },
            CommandTimeout = 0,
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var (link, day, hour, told) = Read(reader);
            if (!wanted.Contains((link, day)))
            {
                continue;
            }

            if (!days.TryGetValue((link, day), out var counts))
            {
                days[(link, day)] = counts = new DayCounts();
            }

            counts.Add(told, hour);
        }

        return days;
    }

    /// <summary>All clicks of links that exist, by month, link and time. A cursor, so that days can be written between two reads on the same
    /// connection.</summary>
    private static async IAsyncEnumerable<CountedClick> Clicks(
        NpgsqlConnection connection,
        Guid? workspace,
        DateTimeZone? zone,
        IProgress<int>? progress,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var homes = zone is null
            ? Homes
            : Homes.Replace("workspaces w", $"(select id, '{zone.Id}' as time_zone, clicks_kept_from from workspaces) w", StringComparison.Ordinal);
        await connection.Run(
            $"""
            declare recount no scroll cursor for
            select {Columns} from clicks c join {homes} {await ZoneOffsets.Join(connection, zone, cancel)}
            {(workspace is { } id ? $"where w.id = '{id}'" : "")}
            order by greatest(date_trunc('month', c.at at time zone 'UTC' + make_interval(secs => z.seconds)), w.clicks_kept_from::timestamp), c.link_id, c.at
            """,
            cancel
        );
        var counted = 0;
        var clicks = new List<CountedClick>(ClicksAtOnce);
        do
        {
            clicks.Clear();
            await using (var fetch = new NpgsqlCommand($"fetch {ClicksAtOnce} from recount", connection) { CommandTimeout = 0 })
            await using (var reader = await fetch.ExecuteReaderAsync(cancel))
            {
                while (await reader.ReadAsync(cancel))
                {
                    clicks.Add(Read(reader));
                }
            }

            foreach (var click in clicks)
            {
                yield return click;
            }

            progress?.Report(counted += clicks.Count);
        } while (clicks.Count == ClicksAtOnce);
        await connection.Run("close recount", cancel);
    }

    /// <summary>A click with its day. What a workspace keeps of the last hours before the first day of which it has clicks, since its clock was east
    /// of the present one, counts for that day: each click counts once.</summary>
    private static CountedClick Read(NpgsqlDataReader row)
    {
        var local = row.GetFieldValue<Instant>(3).InZone(DateTimeZoneProviders.Tzdb[row.GetString(1)]);
        var day = row.IsDBNull(2) ? local.Date : LocalDate.Max(local.Date, row.GetFieldValue<LocalDate>(2));
        return new(
            row.GetGuid(0),
            day,
            local.Hour,
            new EnrichedClick(
                (ClickKind)row.GetInt16(4),
                row.GetInt64(5),
                row.GetString(6),
                row.GetString(7),
                row.GetString(8),
                row.GetString(9),
                row.GetString(10),
                row.GetString(11),
                (byte)row.GetInt16(12),
                (byte)row.GetInt16(13),
                (byte)row.GetInt16(14)
            )
        );
    }
}
