using System.Globalization;
using System.Runtime.CompilerServices;
using Cursus.Core.Addresses;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Links;

/// <summary>A link at one of its addresses, with all that decides what its visitors are answered.</summary>
/// <param name="Location">Where it leads; null where it was deleted.</param>
/// <param name="Pixels">Its own and its post's; those of campaign, channel and domain are read by themselves.</param>
/// <param name="IsDead">Whether its page is known to be dead.</param>
/// <param name="Route">See <see cref="Core.Routing.RouteText"/>.</param>
/// <param name="DeadPages">Numbers of the pages of its route that are known to be dead.</param>
internal readonly record struct EdgeLink(
    Guid Id,
    Guid DomainId,
    string SlugKey,
    string? Location,
    short Redirect,
    QueryPassing PassQuery,
    ReferrerPassing Referrer,
    bool HidesFromSearch,
    Guid? CampaignId,
    Guid? ChannelId,
    short? HandoffDeadline,
    Guid[] Pixels,
    string? Fallback,
    string? FallbackOfCampaign,
    string? FallbackOfWorkspace,
    bool IsDead,
    Instant? OpensAt,
    Instant? EndsAt,
    string? EndedText,
    string? Route,
    short[] DeadPages
);

/// <summary>A short domain that answers, with what decides there.</summary>
internal sealed record EdgeDomain(
    Guid Id,
    Guid WorkspaceId,
    string Name,
    string TimeZone,
    string[] OfficeNetworks,
    string? BarePage,
    string? UnknownPage,
    string? EndedPage
);

/// <summary>Reads links as the edge knows them. Each carries the transaction that changed it last, by which it is found again.</summary>
internal static class EdgeLinks
{
    /// <summary>Where the addresses of links are: their own, and those that they had before, which are few.</summary>
    private static readonly (string Tables, string Address, bool AreFew)[] Addresses =
    [
        ("links l", "l", false),
        ("link_aliases a join links l on l.id = a.link_id", "a", true),
    ];

    /// <summary>The pixels of links and their posts, gathered once where many links are read. Those of campaigns, channels and domains are read by
    /// themselves, so that attaching one changes no link.</summary>
    private const string PixelsOfMany = """
        left join (
            select link_id, array_agg(distinct pixel_id) as pixels from pixels_of_links where place in ('link', 'post') group by link_id
        ) own on own.link_id = l.id
        """;

    /// <summary>The same, looked up for each link where few are read.</summary>
    private const string PixelsOfFew = """
        left join lateral (
            select array_agg(distinct pixel_id) as pixels from pixels_of_links where link_id = l.id and place in ('link', 'post')
        ) own on true
        """;

    /// <summary>Where visitors go instead, for the few links whose page is dead, or that open or end.</summary>
    private const string Fallbacks = """
        left join checked_pages dead on dead.workspace_id = l.workspace_id and dead.key = l.page_key and is_dead(dead.verdict, dead.ignored_until)
        left join lateral (
            select array_agg(p.number) as dead_pages from routed_pages p join checked_pages c on c.workspace_id = l.workspace_id and c.key = p.page_key
            where l.route is not null and p.link_id = l.id and p.is_used and is_dead(c.verdict, c.ignored_until)
        ) routed on l.route is not null
        left join campaigns ofcampaign on (dead.key is not null or routed.dead_pages is not null or l.opens_at is not null or l.ends_at is not null) and ofcampaign.id = l.campaign_id
        left join link_check_settings ofworkspace on (dead.key is not null or routed.dead_pages is not null or l.opens_at is not null or l.ends_at is not null) and ofworkspace.workspace_id = l.workspace_id
        """;

    /// <summary>Links that were changed in a transaction or since, but for those of some domains.</summary>
    public static IAsyncEnumerable<EdgeLink> Changed(NpgsqlConnection connection, ulong since, Guid[] otherThan, CancellationToken cancel) =>
        Read(connection, "l.changed_in >= $1::text::xid8 and not d.id = any($2)", PixelsOfFew, [Text(since), otherThan], cancel);

    /// <summary>All links of some domains.</summary>
    public static IAsyncEnumerable<EdgeLink> Of(NpgsqlConnection connection, Guid[] domains, CancellationToken cancel) =>
        Read(connection, "d.id = any($1)", PixelsOfMany, [domains], cancel);

    /// <summary>The link at one address, whether its domain answers or not; null where there is none.</summary>
    public static async Task<EdgeLink?> At(NpgsqlDataSource source, Guid domain, string slugKey, CancellationToken cancel)
    {
        await using var command = source.CreateCommand(
            $"{Select(("addresses a join links l on l.id = a.target_id", "a", true), PixelsOfFew)} where a.domain_id = $1 and a.slug_key = $2"
        );
        command.Parameters.Add(new() { Value = domain });
        command.Parameters.Add(new() { Value = slugKey });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        return await reader.ReadAsync(cancel) ? Row(reader) : null;
    }

    /// <summary>Addresses that lead nowhere any more, left in a transaction or since.</summary>
    public static async IAsyncEnumerable<(Guid Domain, string SlugKey)> Removed(
        NpgsqlConnection connection,
        ulong since,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            select domain_id, slug_key from removed_links r where changed_in >= $1::text::xid8
                and not exists (select from addresses a where a.domain_id = r.domain_id and a.slug_key = r.slug_key)
            """,
            connection
        )
        {
            Parameters = { new() { Value = Text(since) } },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            yield return (reader.GetGuid(0), reader.GetString(1));
        }
    }

    /// <summary>All short domains that answer.</summary>
    public static async Task<List<EdgeDomain>> Domains(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            select d.id, d.workspace_id, d.name, w.time_zone, w.office_networks, d.bare_page, d.unknown_page, d.ended_page
            from domains d join workspaces w on w.id = d.workspace_id where d.verified_at is not null
            """,
            connection
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var domains = new List<EdgeDomain>();
        while (await reader.ReadAsync(cancel))
        {
            domains.Add(
                new EdgeDomain(
                    reader.GetGuid(0),
                    reader.GetGuid(1),
                    reader.GetString(2),
                    reader.GetString(3),
                    reader.GetFieldValue<string[]>(4),
                    Optional(reader, 5),
                    Optional(reader, 6),
                    Optional(reader, 7)
                )
            );
        }

        return domains;
    }

    private static async IAsyncEnumerable<EdgeLink> Read(
        NpgsqlConnection connection,
        string which,
        string ownPixels,
        object[] parameters,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        foreach (var address in Addresses)
        {
            await using var command = new NpgsqlCommand(
                $"{Select(address, ownPixels)} where {which} and d.verified_at is not null and l.slug_freed_at is null",
                connection
            );
            foreach (var parameter in parameters)
            {
                command.Parameters.Add(new() { Value = parameter });
            }

            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                yield return Row(reader);
            }
        }
    }

    private static string Select((string Tables, string Address, bool AreFew) at, string ownPixels) =>
        $"""
            select l.id, d.id, {at.Address}.slug_key, case when l.deleted_at is null then l.final_url end, l.redirect, l.options_pass_query, l.options_referrer, l.options_hide_from_search,
                l.campaign_id, l.channel_id, l.options_handoff_deadline, own.pixels, l.fallback as of_link, ofcampaign.fallback as of_campaign, ofworkspace.fallback as of_workspace,
                dead.key is not null as is_dead, l.opens_at, l.ends_at, l.options_ended_text, l.route, routed.dead_pages
            from {at.Tables} join domains d on d.id = {at.Address}.domain_id {(at.AreFew ? PixelsOfFew : ownPixels)} {Fallbacks}
            """;

    private static EdgeLink Row(NpgsqlDataReader reader) =>
        new(
            reader.GetGuid(0),
            reader.GetGuid(1),
            reader.GetString(2),
            Optional(reader, 3),
            reader.GetInt16(4),
            (QueryPassing)reader.GetInt16(5),
            (ReferrerPassing)reader.GetInt16(6),
            reader.GetBoolean(7),
            Id(reader, 8),
            Id(reader, 9),
            reader.IsDBNull(10) ? null : reader.GetInt16(10),
            reader.IsDBNull(11) ? [] : reader.GetFieldValue<Guid[]>(11),
            Optional(reader, 12),
            Optional(reader, 13),
            Optional(reader, 14),
            reader.GetBoolean(15),
            Time(reader, 16),
            Time(reader, 17),
            Optional(reader, 18),
            Optional(reader, 19),
            reader.IsDBNull(20) ? [] : reader.GetFieldValue<short[]>(20)
        );

    private static string Text(ulong transaction) => transaction.ToString(CultureInfo.InvariantCulture);

    private static Instant? Time(NpgsqlDataReader reader, int column) => reader.IsDBNull(column) ? null : reader.GetFieldValue<Instant>(column);

    private static Guid? Id(NpgsqlDataReader reader, int column) => reader.IsDBNull(column) ? null : reader.GetGuid(column);

    private static string? Optional(NpgsqlDataReader reader, int column) => reader.IsDBNull(column) ? null : reader.GetString(column);
}
