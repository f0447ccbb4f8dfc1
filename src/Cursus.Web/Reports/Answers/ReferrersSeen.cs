using Cursus.Data.Clicks;
using Cursus.Web.Access;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Reports.Answers;

/// <summary>GET /referrers: the hosts that visitors came from in the last 90 days, most clicks first, with what is known of each.</summary>
public static class ReferrersSeen
{
    private const int Days = 90;
    private const int Most = 100;

    /// <param name="Clicks">People's clicks from there in the last 90 days.</param>
    /// <param name="Network">The network it belongs to in the shipped list; null if it isn't there.</param>
    /// <param name="Channel">Key of the channel those clicks came from; null if unknown.</param>
    /// <param name="IsOwn">True for the organisation's own sites and short domains.</param>
    /// <param name="Rule">The workspace's rule that decided this; null if none did.</param>
    public sealed record Response(string Host, long Clicks, string? Network, string? Channel, bool IsOwn, Guid? Rule);

    public static void Map(IEndpointRouteBuilder api) => api.MapGet("/referrers", Handle).ForViewers().WithSummary("Hosts that visitors came from");

    private static async Task<IReadOnlyList<Response>> Handle(
        CurrentMember member,
        NpgsqlDataSource database,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        var clicks = await counting.ByKey(QuestionReader.OfLastDays("referrer", Days, member, clock.GetCurrentInstant()), cancel);
        var hosts = clicks
            .Where(c => c.Key.Length > 0)
            .OrderByDescending(c => c.Value)
            .ThenBy(c => c.Key, StringComparer.Ordinal)
            .Take(Most)
            .ToList();
        await using var command = database.CreateCommand(
            $"""
            select c.referrer_host, c.clicks, nullif(r.network, c.referrer_host), rc.key, {ReferrerOrigin.IsOwnSite}, rule.id
            from unnest(@hosts, @clicks) as c (referrer_host, clicks) {ReferrerOrigin.Join}
            order by c.clicks desc, c.referrer_host
            """
        );
        command.Parameters.AddWithValue("workspace", member.WorkspaceId);
        command.Parameters.AddWithValue("hosts", hosts.Select(h => h.Key).ToArray());
        command.Parameters.AddWithValue("clicks", hosts.Select(h => h.Value).ToArray());
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var seen = new List<Response>();
        while (await reader.ReadAsync(cancel))
        {
            seen.Add(
                new Response(
                    reader.GetString(0),
                    reader.GetInt64(1),
                    reader.IsDBNull(2) ? null : reader.GetString(2),
                    reader.IsDBNull(3) ? null : reader.GetString(3),
                    reader.GetBoolean(4),
                    reader.IsDBNull(5) ? null : reader.GetGuid(5)
                )
            );
        }

        return seen;
    }
}
