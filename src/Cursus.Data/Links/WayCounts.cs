using NodaTime;
using Npgsql;

namespace Cursus.Data.Links;

/// <summary>What came by one way of a link: the rule of its route that decided, and the page.</summary>
/// <param name="Rule">0 for everyone else.</param>
/// <param name="People">How many different ones; whoever comes on two days counts twice.</param>
/// <param name="PeopleOfFullestDay">The same on the one day on which the most people came by the rule; each counts once.</param>
internal readonly record struct WayCount(Guid Link, byte Rule, byte Page, int Clicks, int People, int PeopleOfFullestDay);

/// <summary>Counts the ways that people took from the clicks themselves.</summary>
internal static class WayCounts
{
    /// <param name="links">Each with the moment from which on it is counted.</param>
    /// <param name="zone">By whose days visitors are told apart.</param>
    public static async Task<List<WayCount>> Of(
        NpgsqlDataSource source,
        IReadOnlyCollection<(Guid Link, Instant Since)> links,
        DateTimeZone zone,
        CancellationToken cancel
    )
    {
        await using var command = source.CreateCommand(
            """
            with by_day as (
                select c.link_id, c.rule, c.page, (c.at at time zone $3)::date as day, count(*) as clicks, count(distinct c.visitor) as people
                from unnest($1, $2) as asked (link_id, since) join clicks c on c.link_id = asked.link_id and c.at >= asked.since
                where c.kind = 0 group by 1, 2, 3, 4),
            fullest as (
                select distinct on (link_id, rule) link_id, rule, day from by_day group by link_id, rule, day order by link_id, rule, sum(people) desc, day)
            select d.link_id, d.rule, d.page, sum(d.clicks)::int, sum(d.people)::int, coalesce(sum(d.people) filter (where d.day = f.day), 0)::int
            from by_day d join fullest f on f.link_id = d.link_id and f.rule = d.rule group by 1, 2, 3
            """
        );
        command.Parameters.Add(new() { Value = links.Select(l => l.Link).ToArray() });
        command.Parameters.Add(new() { Value = links.Select(l => l.Since).ToArray() });
        command.Parameters.Add(new() { Value = zone.Id });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var counts = new List<WayCount>();
        while (await reader.ReadAsync(cancel))
        {
            counts.Add(
                new(reader.GetGuid(0), (byte)reader.GetInt16(1), (byte)reader.GetInt16(2), reader.GetInt32(3), reader.GetInt32(4), reader.GetInt32(5))
            );
        }

        return counts;
    }

    /// <summary>Destinations of links' routes that are known to be dead.</summary>
    public static async Task<HashSet<string>> DeadPages(NpgsqlDataSource source, Guid[] links, CancellationToken cancel)
    {
        await using var command = source.CreateCommand(
            """
            select p.destination from routed_pages p join links l on l.id = p.link_id
                join checked_pages c on c.workspace_id = l.workspace_id and c.key = p.page_key
            where p.link_id = any($1) and p.is_used and is_dead(c.verdict, c.ignored_until)
            """
        );
        command.Parameters.Add(new() { Value = links });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var dead = new HashSet<string>();
        while (await reader.ReadAsync(cancel))
        {
            dead.Add(reader.GetString(0));
        }

        return dead;
    }
}
