using Cursus.Core.Clicks;
using NodaTime;
using Npgsql;
using NpgsqlTypes;

namespace Cursus.Data.Clicks;

/// <summary>Keeps <c>link_days</c>: reads the days that a batch of clicks falls into, adds to them, writes them back. The caller holds the transaction and is alone in writing.</summary>
internal static class DayRollUp
{
    private static readonly string[] Kinds = ["clicks", "team", "machines", "previews", "prefetches", "repeats", "heads"];

    private static readonly string Columns = string.Join(", ", Kinds) + ", hours, visitors, "
        + string.Join(", ", DayCounts.Dimensions.Select(d => $"{d}_values, {d}_counts"));

    /// <summary>Adds clicks to their days. Clicks of links that don't exist any more count nowhere.</summary>
    public static async Task Add(NpgsqlConnection connection, IReadOnlyCollection<StoredClick> clicks, CancellationToken cancel)
    {
        var zones = await Zones(connection, [.. clicks.Select(c => c.LinkId).Distinct()], cancel);
        var days = new Dictionary<(Guid, LocalDate), DayCounts>();
        foreach (var (linkId, at, told) in clicks)
        {
            if (zones.TryGetValue(linkId, out var zone))
            {
                var local = at.InZone(zone);
                DayOf(days, (linkId, local.Date)).Add(told, local.Hour);
            }
        }

        await foreach (var (link, day, counts) in Read(connection, "where (link_id, day) in (select * from unnest($1, $2))", [.. days.Keys], cancel))
        {
            days[(link, day)].Add(counts);
        }

        await Write(connection, days, cancel);
    }

    private static DayCounts DayOf(Dictionary<(Guid, LocalDate), DayCounts> days, (Guid, LocalDate) key)
    {
        if (!days.TryGetValue(key, out var counts))
        {
            days[key] = counts = new DayCounts();
        }

        return counts;
    }

    /// <summary>Writes days, those that are there already anew.</summary>
    public static async Task Write(NpgsqlConnection connection, IReadOnlyDictionary<(Guid Link, LocalDate Day), DayCounts> days, CancellationToken cancel)
    {
        await Run(connection, "create temporary table if not exists arriving_days (like link_days) on commit drop", cancel);
        await using (var copy = await connection.BeginBinaryImportAsync($"copy arriving_days (link_id, day, {Columns}) from stdin (format binary)", cancel))
        {
            foreach (var ((link, day), counts) in days)
            {
                await copy.StartRowAsync(cancel);
                await copy.WriteAsync(link, NpgsqlDbType.Uuid, cancel);
                await copy.WriteAsync(day, NpgsqlDbType.Date, cancel);
                for (var kind = 0; kind < Kinds.Length; kind++)
                {
                    await copy.WriteAsync(counts.Of((ClickKind)kind), NpgsqlDbType.Integer, cancel);
                }

                await copy.WriteAsync(counts.Hours.ToArray(), NpgsqlDbType.Array | NpgsqlDbType.Integer, cancel);
                await copy.WriteAsync(counts.Visitors.ToBytes(), NpgsqlDbType.Bytea, cancel);
                foreach (var dimension in DayCounts.Dimensions)
                {
                    var tally = counts.Tally(dimension).ToList();
                    await copy.WriteAsync(tally.Select(t => t.Key).ToArray(), NpgsqlDbType.Array | NpgsqlDbType.Text, cancel);
                    await copy.WriteAsync(tally.Select(t => t.Value).ToArray(), NpgsqlDbType.Array | NpgsqlDbType.Integer, cancel);
                }
            }

            await copy.CompleteAsync(cancel);
        }

        await Run(connection, $"""
            insert into link_days (link_id, day, {Columns}) select link_id, day, {Columns} from arriving_days
            on conflict (link_id, day) do update set ({Columns}) = row({string.Join(", ", Columns.Split(", ").Select(c => "excluded." + c))});
            truncate arriving_days;
            """, cancel);
    }

    /// <summary>Days as they are stored.</summary>
    /// <param name="where">Condition and order; <c>$1</c> and <c>$2</c> are the links and days of <paramref name="keys"/>.</param>
    public static async IAsyncEnumerable<(Guid Link, LocalDate Day, DayCounts Counts)> Read(
        NpgsqlConnection connection, string where, IReadOnlyCollection<(Guid Link, LocalDate Day)> keys,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand($"select link_id, day, {Columns} from link_days {where}", connection);
        if (keys.Count > 0)
        {
            command.Parameters.Add(new() { Value = keys.Select(k => k.Link).ToArray() });
            command.Parameters.Add(new() { Value = keys.Select(k => k.Day).ToArray() });
        }

        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            yield return (reader.GetGuid(0), reader.GetFieldValue<LocalDate>(1), Read(reader));
        }
    }

    private static DayCounts Read(NpgsqlDataReader reader)
    {
        var first = 2 + Kinds.Length;
        return DayCounts.Read(
            [.. Kinds.Select((_, kind) => reader.GetInt32(2 + kind))],
            reader.GetFieldValue<int[]>(first),
            reader.GetFieldValue<byte[]>(first + 1),
            [.. DayCounts.Dimensions.Select((_, place) => (reader.GetFieldValue<string[]>(first + 2 + 2 * place), reader.GetFieldValue<int[]>(first + 3 + 2 * place)))]);
    }

    private static async Task<Dictionary<Guid, DateTimeZone>> Zones(NpgsqlConnection connection, Guid[] links, CancellationToken cancel)
    {
        var zones = new Dictionary<Guid, DateTimeZone>();
        await using var command = new NpgsqlCommand("select l.id, w.time_zone from links l join workspaces w on w.id = l.workspace_id where l.id = any($1)", connection)
        {
            Parameters = { new() { Value = links } },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            zones[reader.GetGuid(0)] = DateTimeZoneProviders.Tzdb[reader.GetString(1)];
        }

        return zones;
    }

    private static async Task Run(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
