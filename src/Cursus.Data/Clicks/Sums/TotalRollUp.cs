using System.Runtime.InteropServices;
using Cursus.Core.Clicks;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks.Sums;

/// <summary>Keeps <c>link_totals</c>. The caller holds the transaction and is alone in writing.</summary>
internal static class TotalRollUp
{
    /// <summary>By the clicks that there are, and by the days whose clicks have been deleted: of these, the total itself knows best when the last one
    /// was.</summary>
    private static string ByTheClicks(string links) =>
        $"""
            select link_id, sum(clicks)::bigint as clicks, coalesce(max(last_click_at), max(last_of_deleted)) as last_click_at from (
                select link_id, count(*) as clicks, max(at) as last_click_at, null::timestamptz as last_of_deleted from clicks d where kind = {(int)
                ClickKind.Person} {links} group by link_id
                union all
                select d.link_id, sum(d.clicks), null, (select least(t.last_click_at, max(d.day + 2)::timestamp at time zone 'UTC') from link_totals t where t.link_id = d.link_id)
                from link_days d where d.clicks > 0 and {ClickRetention.IsAlone("day")} {links} group by d.link_id) parts
            group by link_id
            """;

    /// <summary>Adds people's clicks. Those on links that don't exist any more count nowhere.</summary>
    public static async Task Add(NpgsqlConnection connection, IEnumerable<ReadClick> clicks, CancellationToken cancel)
    {
        var totals = new Dictionary<Guid, (long Clicks, Instant Last)>();
        foreach (var click in clicks)
        {
            if (click.Told.Kind == ClickKind.Person)
            {
                ref var total = ref CollectionsMarshal.GetValueRefOrAddDefault(totals, click.Click.LinkId, out var isKnown);
                total = (total.Clicks + 1, isKnown ? Instant.Max(total.Last, click.Click.At) : click.Click.At);
            }
        }

        if (totals.Count == 0)
        {
            return;
        }

        await using var command = new NpgsqlCommand(
            """
            with added as (select * from unnest($1, $2, $3) as a (link_id, clicks, last_click_at)),
                changed as (
                    update link_totals t set clicks = t.clicks + a.clicks, last_click_at = greatest(t.last_click_at, a.last_click_at) from added a where t.link_id = a.link_id
                    returning t.link_id)
            insert into link_totals (link_id, clicks, last_click_at)
            select a.link_id, a.clicks, a.last_click_at from added a join links l on l.id = a.link_id where a.link_id not in (select link_id from changed)
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = totals.Keys.ToArray() },
                new() { Value = totals.Values.Select(t => t.Clicks).ToArray() },
                new() { Value = totals.Values.Select(t => t.Last).ToArray() },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Makes the totals of some links anew from their clicks.</summary>
    public static Task CountAnew(NpgsqlConnection connection, Guid[] links, CancellationToken cancel) => Make(connection, links, cancel);

    /// <summary>Makes all totals anew from the clicks.</summary>
    public static Task Rebuild(NpgsqlConnection connection, CancellationToken cancel) => Make(connection, null, cancel);

    private static async Task Make(NpgsqlConnection connection, Guid[]? links, CancellationToken cancel)
    {
        var (ofDay, ofTotal) = links is null ? ("", "") : ("and d.link_id = any($1)", "where link_id = any($1)");
        foreach (
            var sql in new[]
            {
                "create temporary table counted_totals (like link_totals) on commit drop",
                $"insert into counted_totals (link_id, clicks, last_click_at) {ByTheClicks(ofDay)}",
                $"delete from link_totals {ofTotal}",
                "insert into link_totals (link_id, clicks, last_click_at) select c.link_id, c.clicks, c.last_click_at from counted_totals c join links l on l.id = c.link_id",
                "drop table counted_totals",
            }
        )
        {
            await using var command = new NpgsqlCommand(sql, connection) { CommandTimeout = 0 };
            if (links is not null && sql.Contains("$1", StringComparison.Ordinal))
            {
                command.Parameters.Add(new() { Value = links });
            }

            await command.ExecuteNonQueryAsync(cancel);
        }
    }

    /// <summary>Links whose total is not what their clicks come to.</summary>
    public static async Task<IReadOnlyList<Guid>> Differences(NpgsqlConnection connection, CancellationToken cancel)
    {
        var differing = new List<Guid>();
        await using var command = new NpgsqlCommand(
            $"""
            select coalesce(t.link_id, c.link_id)
            from link_totals t full join (select c.* from ({ByTheClicks("")}) c join links l on l.id = c.link_id) c on c.link_id = t.link_id
            where (t.clicks, t.last_click_at) is distinct from (c.clicks, c.last_click_at)
            """,
            connection
        )
        {
            CommandTimeout = 0,
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            differing.Add(reader.GetGuid(0));
        }

        return differing;
    }
}
