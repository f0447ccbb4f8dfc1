using System.Runtime.CompilerServices;
using Cursus.Core.Clicks;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>Counts days of links anew from the clicks themselves.</summary>
internal static class Recount
{
    private const int ClicksAtOnce = 20_000;

    private const string Columns = "c.link_id, w.time_zone, c.at, c.kind, c.visitor, c.country, u.device, u.browser, u.os, c.language, c.referrer_host, c.code";

    private const string Homes = "links l on l.id = c.link_id join workspaces w on w.id = l.workspace_id join user_agents u on u.id = c.user_agent_id";

    private readonly record struct CountedClick(Guid Link, DateTimeZone Zone, Instant At, ToldClick Told);

    /// <summary>All days, by month, link and day.</summary>
    /// <param name="workspace">Only those of its links; null for all.</param>
    public static async IAsyncEnumerable<(Guid Link, LocalDate Day, DayCounts Counts)> Days(
        NpgsqlConnection connection, Guid? workspace, [EnumeratorCancellation] CancellationToken cancel)
    {
        (Guid Link, LocalDate Day, DayCounts Counts)? current = null;
        await foreach (var (link, zone, at, told) in Clicks(connection, workspace, cancel))
        {
            var local = at.InZone(zone);
            if (current is { } last && (last.Link, last.Day) != (link, local.Date))
            {
                yield return last;
                current = null;
            }

            current ??= (link, local.Date, new DayCounts());
            current.Value.Counts.Add(told, local.Hour);
        }

        if (current is { } final)
        {
            yield return final;
        }
    }

    /// <summary>Some days. Those without clicks are left out.</summary>
    public static async Task<Dictionary<(Guid Link, LocalDate Day), DayCounts>> Of(
        NpgsqlConnection connection, IReadOnlyCollection<(Guid Link, LocalDate Day)> asked, CancellationToken cancel)
    {
        var days = new Dictionary<(Guid, LocalDate), DayCounts>();
        var wanted = asked.ToHashSet();
        await using var command = new NpgsqlCommand(
            $"""
            select {Columns} from (select distinct link_id, day from unnest($1, $2) as asked (link_id, days), lateral (values (days - 1), (days), (days + 1)) as around (day)) as asked
                join clicks c on c.link_id = asked.link_id and c.at >= asked.day::timestamp at time zone 'UTC' and c.at < (asked.day + 1)::timestamp at time zone 'UTC'
                join {Homes}
            """,
            connection)
        {
            Parameters = { new() { Value = asked.Select(a => a.Link).ToArray() }, new() { Value = asked.Select(a => a.Day).ToArray() } },
            CommandTimeout = 0,
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var (link, zone, at, told) = Read(reader);
            var local = at.InZone(zone);
            if (!wanted.Contains((link, local.Date)))
            {
                continue;
            }

            if (!days.TryGetValue((link, local.Date), out var counts))
            {
                days[(link, local.Date)] = counts = new DayCounts();
            }

            counts.Add(told, local.Hour);
        }

        return days;
    }

    /// <summary>All clicks of links that exist and of days whose clicks are kept, by month, link and time. A cursor, so that days can be written between two reads on the same connection.</summary>
    private static async IAsyncEnumerable<CountedClick> Clicks(NpgsqlConnection connection, Guid? workspace, [EnumeratorCancellation] CancellationToken cancel)
    {
        await connection.Run($"""
            declare recount no scroll cursor for
            select {Columns} from clicks c join {Homes} {await ZoneOffsets.Join(connection, cancel)} 
            where (w.clicks_kept_from is null or (c.at at time zone 'UTC' + make_interval(secs => z.seconds))::date >= w.clicks_kept_from) {(workspace is { } id ? $"and w.id = '{id}'" : "")}
            order by date_trunc('month', c.at at time zone 'UTC' + make_interval(secs => z.seconds)), c.link_id, c.at
            """, cancel);
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
        }
        while (clicks.Count == ClicksAtOnce);
        await connection.Run("close recount", cancel);
    }

    private static CountedClick Read(NpgsqlDataReader row) => new(row.GetGuid(0), DateTimeZoneProviders.Tzdb[row.GetString(1)], row.GetFieldValue<Instant>(2), new ToldClick(
        (ClickKind)row.GetInt16(3), row.GetInt64(4), row.GetString(5), row.GetString(6), row.GetString(7), row.GetString(8),
        row.GetString(9), row.GetString(10), (byte)row.GetInt16(11)));
}
