using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Tallies;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks.Sums;

/// <summary>Keeps <c>open_days</c>: reads the days that a batch of clicks falls into, adds to them, writes them back. The caller holds the
/// transaction and is alone in writing.</summary>
internal static class DayRollUp
{
    private static readonly string Columns =
        string.Join(", ", DayOfLink.Counted)
        + ", hours, visitor_sketch, "
        + string.Join(", ", DayTally.All.Select(t => $"{t.Name}_values, {t.Name}_counts"));

    private static readonly string Update = string.Join(", ", Columns.Split(", ").Select(c => $"{c} = a.{c}"));

    /// <summary>What a batch of clicks comes to: days that were known before with the clicks added, days of which only these clicks are known, and
    /// sealed days, to which nothing can be added.</summary>
    public sealed record Added(
        Dictionary<(Guid Link, LocalDate Day), DayCounts> Changed,
        Dictionary<(Guid Link, LocalDate Day), DayCounts> Unknown,
        HashSet<(Guid Link, LocalDate Day)> Late
    );

    /// <summary>Adds clicks to their days, in memory. Clicks of links that don't exist any more count nowhere.</summary>
    /// <param name="sealedUntil">The first day that isn't sealed.</param>
    public static Added Add(RecentDays recent, LinkHomes homes, LocalDate sealedUntil, List<ReadClick> clicks)
    {
        var added = new Added([], [], []);
        for (var i = 0; i < clicks.Count; i++)
        {
            Backpressure.YieldAfter(i);
            var read = clicks[i];
            if (homes.Of(read.Click.LinkId) is { } home)
            {
                var local = read.Click.At.InZone(home.Zone);
                if (local.Date < sealedUntil)
                {
                    added.Late.Add((read.Click.LinkId, local.Date));
                }
                else
                {
                    DayOf(added, recent, (read.Click.LinkId, local.Date)).Add(read.Told, local.Hour);
                }
            }
        }

        return added;
    }

    /// <summary>Writes what was added. Asks for those days that were not known.</summary>
    public static async Task Write(NpgsqlConnection connection, RecentDays recent, Added added, CancellationToken cancel)
    {
        var (changed, unknown, late) = added;
        if (unknown.Count > 0)
        {
            await foreach (
                var (link, day, counts) in Read(
                    connection,
                    "join unnest($1, $2) as asked (link_id, day) using (link_id, day)",
                    [unknown.Keys.Select(k => k.Link).ToArray(), unknown.Keys.Select(k => k.Day).ToArray()],
                    cancel
                )
            )
            {
                unknown.Remove((link, day), out var alone);
                counts.Add(alone!);
                changed[(link, day)] = counts;
            }
        }

        await Insert(connection, unknown, cancel);
        if (changed.Count > 0)
        {
            await Change(connection, changed, cancel);
        }

        await SealedRollUp.CountAnew(connection, late, cancel);
        recent.Remember(changed);
        recent.Remember(unknown);
    }

    /// <summary>Counts days anew of which stored clicks have become others.</summary>
    public static async Task CountAnew(
        NpgsqlConnection connection,
        RecentDays recent,
        LocalDate sealedUntil,
        IReadOnlyCollection<(Guid Link, LocalDate Day)> days,
        CancellationToken cancel
    )
    {
        var open = await Recount.Of(connection, [.. days.Where(d => d.Day >= sealedUntil)], cancel);
        if (open.Count > 0)
        {
            await Change(connection, open, cancel);
            recent.Remember(open);
        }

        await SealedRollUp.CountAnew(connection, [.. days.Where(d => d.Day < sealedUntil)], cancel);
    }

    /// <summary>Writes days that are not there yet.</summary>
    public static Task Insert(
        NpgsqlConnection connection,
        IReadOnlyDictionary<(Guid Link, LocalDate Day), DayCounts> days,
        CancellationToken cancel
    ) => Copy(connection, "open_days", days, cancel);

    private static async Task Change(NpgsqlConnection connection, Dictionary<(Guid Link, LocalDate Day), DayCounts> days, CancellationToken cancel)
    {
        await connection.Run("create temporary table if not exists changed_days (like open_days) on commit drop", cancel);
        await Copy(connection, "changed_days", days, cancel);
        await connection.Run(
            $"update open_days d set {Update} from changed_days a where d.link_id = a.link_id and d.day = a.day; truncate changed_days",
            cancel
        );
    }

    private static Task Copy(
        NpgsqlConnection connection,
        string table,
        IReadOnlyDictionary<(Guid Link, LocalDate Day), DayCounts> days,
        CancellationToken cancel
    )
    {
        if (days.Count == 0)
        {
            return Task.CompletedTask;
        }

        var rows = new CopyRows();
        foreach (var ((link, day), counts) in days)
        {
            rows.Row((short)(5 + DayOfLink.Kinds.Count + 2 * DayTally.All.Count)).Add(link).Add(day);
            for (var kind = 0; kind < DayOfLink.Kinds.Count; kind++)
            {
                rows.Add(counts.Of((ClickKind)kind));
            }

            rows.Add(counts.People).Add(counts.Hours).Add(counts.Visitors.ToBytes());
            foreach (var tally in DayTally.All)
            {
                rows.Add(counts.Tally(tally.Name));
            }
        }

        return rows.Send(connection, $"{table} (link_id, day, {Columns})", cancel);
    }

    private static DayCounts DayOf(Added added, RecentDays recent, (Guid, LocalDate) key)
    {
        if (recent.TryGet(key, out var known))
        {
            added.Changed[key] = known;
            return known;
        }

        return CollectionsMarshal.GetValueRefOrAddDefault(added.Unknown, key, out _) ??= new DayCounts();
    }

    /// <summary>Days as they are stored.</summary>
    /// <param name="which">Joins, conditions and order; <c>$1</c> and so on are the <paramref name="parameters"/>.</param>
    public static async IAsyncEnumerable<(Guid Link, LocalDate Day, DayCounts Counts)> Read(
        NpgsqlConnection connection,
        string which,
        IReadOnlyCollection<object> parameters,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand($"select link_id, day, {Columns} from open_days {which}", connection) { CommandTimeout = 0 };
        foreach (var value in parameters)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            yield return (reader.GetGuid(0), reader.GetFieldValue<LocalDate>(1), Read(reader));
        }
    }

    private static DayCounts Read(NpgsqlDataReader reader)
    {
        var first = 3 + DayOfLink.Kinds.Count;
        return DayCounts.Read(
            [.. DayOfLink.Kinds.Select((_, kind) => reader.GetInt32(2 + kind))],
            reader.GetFieldValue<int[]>(first),
            reader.GetFieldValue<byte[]>(first + 1),
            [
                .. DayTally.All.Select(
                    (_, place) => (reader.GetFieldValue<string[]>(first + 2 + 2 * place), reader.GetFieldValue<int[]>(first + 3 + 2 * place))
                ),
            ]
        );
    }
}
