using System.Runtime.InteropServices;
using Cursus.Core.Clicks;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>Keeps <c>link_totals</c>. The caller holds the transaction and is alone in writing.</summary>
internal static class TotalRollUp
{
    private const string ByTheClicks = "select link_id, count(*) as clicks, max(at) as last_click_at from clicks where kind = 0 group by link_id";

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

        await using var command = new NpgsqlCommand("""
            with added as (select * from unnest($1, $2, $3) as a (link_id, clicks, last_click_at)),
                changed as (
                    update link_totals t set clicks = t.clicks + a.clicks, last_click_at = greatest(t.last_click_at, a.last_click_at) from added a where t.link_id = a.link_id
                    returning t.link_id)
            insert into link_totals (link_id, clicks, last_click_at)
            select a.link_id, a.clicks, a.last_click_at from added a join links l on l.id = a.link_id where a.link_id not in (select link_id from changed)
            """, connection)
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
    public static async Task CountAnew(NpgsqlConnection connection, Guid[] links, CancellationToken cancel)
    {
        await using var delete = new NpgsqlCommand("delete from link_totals where link_id = any($1)", connection) { Parameters = { new() { Value = links } } };
        await delete.ExecuteNonQueryAsync(cancel);
        await using var insert = new NpgsqlCommand(
            $"insert into link_totals (link_id, clicks, last_click_at) select link_id, count(*), max(at) from clicks where kind = {(int)ClickKind.Person} and link_id = any($1) group by link_id", connection)
        {
            Parameters = { new() { Value = links } },
            CommandTimeout = 0,
        };
        await insert.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>Makes all totals anew from the clicks.</summary>
    public static Task Rebuild(NpgsqlConnection connection, CancellationToken cancel) => connection.RunLong(
        $"delete from link_totals; insert into link_totals (link_id, clicks, last_click_at) select c.link_id, c.clicks, c.last_click_at from ({ByTheClicks}) c join links l on l.id = c.link_id", cancel);

    /// <summary>Links whose total is not what their clicks come to.</summary>
    public static async Task<IReadOnlyList<Guid>> Differences(NpgsqlConnection connection, CancellationToken cancel)
    {
        var differing = new List<Guid>();
        await using var command = new NpgsqlCommand($"""
            select coalesce(t.link_id, c.link_id)
            from link_totals t full join (select c.* from ({ByTheClicks}) c join links l on l.id = c.link_id) c on c.link_id = t.link_id
            where (t.clicks, t.last_click_at) is distinct from (c.clicks, c.last_click_at)
            """, connection) { CommandTimeout = 0 };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            differing.Add(reader.GetGuid(0));
        }

        return differing;
    }
}
