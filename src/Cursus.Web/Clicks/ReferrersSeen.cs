using Cursus.Web.Access;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Clicks;

/// <summary>GET /referrers: the hosts that visitors came from in the last 90 days, most clicks first, with what is known of each.</summary>
public static class ReferrersSeen
{
    private const int Days = 90;
    private const int Most = 100;

    /// <param name="Clicks">People's clicks from there in the last 90 days.</param>
    /// <param name="Network">The network it belongs to by the list that everybody shares; null where it knows none.</param>
    /// <param name="Channel">Key of the channel that those clicks came over; null where nobody knows.</param>
    /// <param name="IsOwn">True for the organisation's own sites and short domains.</param>
    /// <param name="Rule">The workspace's rule that says so; null where none does.</param>
    public sealed record Response(string Host, long Clicks, string? Network, string? Channel, bool IsOwn, Guid? Rule);

    public static void Map(IEndpointRouteBuilder api) => api.MapGet("/referrers", Handle).ForViewers().WithSummary("Hosts that visitors came from, and what is known of them");

    private static async Task<IReadOnlyList<Response>> Handle(CurrentMember member, NpgsqlDataSource database, IClock clock, CancellationToken cancel)
    {
        await using var command = database.CreateCommand("""
            select s.host, s.clicks, nullif(r.network, s.host), coalesce(rc.key, case when rule.id is null then nc.key end), od.id is not null or (rule.id is not null and rule.channel_id is null), rule.id
            from (
                select t.host, sum(t.clicks) as clicks
                from link_days ld join links l on l.id = ld.link_id, unnest(ld.referrer_values, ld.referrer_counts) as t (host, clicks)
                where l.workspace_id = $1 and ld.day > $2 and t.host <> ''
                group by 1 order by 2 desc, 1 limit $3
            ) s
            join referrers r on r.host = s.host
            left join lateral (
                select rr.id, rr.channel_id from referrer_rules rr
                where rr.workspace_id = $1 and (rr.host = s.host or right(s.host, length(rr.host) + 1) = '.' || rr.host)
                order by length(rr.host) desc limit 1
            ) rule on true
            left join channels rc on rc.id = rule.channel_id
            left join channels nc on nc.workspace_id = $1 and lower(nc.name) = lower(r.network)
            left join domains od on od.workspace_id = $1 and od.name = s.host
            order by s.clicks desc, s.host
            """);
        command.Parameters.Add(new() { Value = member.WorkspaceId });
        command.Parameters.Add(new() { Value = clock.GetCurrentInstant().InZone(member.Zone).Date.PlusDays(-Days) });
        command.Parameters.Add(new() { Value = Most });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var seen = new List<Response>();
        while (await reader.ReadAsync(cancel))
        {
            seen.Add(new Response(
                reader.GetString(0), reader.GetInt64(1), reader.IsDBNull(2) ? null : reader.GetString(2), reader.IsDBNull(3) ? null : reader.GetString(3),
                reader.GetBoolean(4), reader.IsDBNull(5) ? null : reader.GetGuid(5)));
        }

        return seen;
    }
}
