using Cursus.Core.Clicks;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>Keeps <c>link_totals</c>. The caller holds the transaction and is alone in writing.</summary>
internal static class TotalRollUp
{
    private const string ByTheClicks = "select link_id, count(*) as clicks, max(at) as last_click_at from clicks where kind = 0 group by link_id";

    /// <summary>Adds people's clicks. Those on links that don't exist any more count nowhere.</summary>
    public static async Task Add(NpgsqlConnection connection, IEnumerable<ReadClick> clicks, CancellationToken cancel)
    {
        var totals = clicks.Where(c => c.Told.Kind == ClickKind.Person).GroupBy(c => c.Click.LinkId)
            .Select(l => (Link: l.Key, Clicks: l.LongCount(), Last: l.Max(c => c.Click.At))).OrderBy(l => l.Link).ToList();
        if (totals.Count == 0)
        {
            return;
        }

        await using var command = new NpgsqlCommand("""
            insert into link_totals as t (link_id, clicks, last_click_at)
            select a.link_id, a.clicks, a.last_click_at from unnest($1, $2, $3) as a (link_id, clicks, last_click_at) join links l on l.id = a.link_id
            on conflict (link_id) do update set clicks = t.clicks + excluded.clicks, last_click_at = greatest(t.last_click_at, excluded.last_click_at)
            """, connection)
        {
            Parameters =
            {
                new() { Value = totals.Select(t => t.Link).ToArray() },
                new() { Value = totals.Select(t => t.Clicks).ToArray() },
                new() { Value = totals.Select(t => t.Last).ToArray() },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
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
