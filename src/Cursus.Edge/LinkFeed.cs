using System.Diagnostics;
using System.Net;
using Cursus.Core.Addresses;
using Cursus.Core.Checking;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Edge.Handoff;
using NodaTime;
using Npgsql;

namespace Cursus.Edge;

/// <summary>
/// Keeps what the edge knows as the database has it: everything at the start, then whatever was changed since, by this process or another.
/// Each link carries the transaction that changed it last (<c>links.changed_in</c>). Each round reads what was changed since the oldest transaction
/// that the round before could not see yet, so that none is missed however late it commits; rounds run one after the other, so that an older state
/// never follows a newer one. Notifications (<c>edge</c>) only make a round come sooner; without them it comes within seconds.
/// </summary>
public sealed class LinkFeed(
    [FromKeyedServices(EdgeSetup.Database)] NpgsqlDataSource dataSource,
    LinkTable links,
    DomainTable domains,
    PixelTable pixels,
    PixelFeed pixelFeed,
    VisitorSalts salts,
    ForgetConnections forgetConnections,
    ILogger<LinkFeed> log
) : BackgroundService
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
        left join campaigns ofcampaign on (dead.key is not null or l.opens_at is not null or l.ends_at is not null) and ofcampaign.id = l.campaign_id
        left join link_check_settings ofworkspace on (dead.key is not null or l.opens_at is not null or l.ends_at is not null) and ofworkspace.workspace_id = l.workspace_id
        """;

    private static readonly TimeSpan RoundAtLeastEach = TimeSpan.FromSeconds(5);
    private static readonly TimeSpan PauseAfterFailure = TimeSpan.FromMilliseconds(500);

    private readonly Lock queueing = new();
    private Task current = Task.CompletedTask;
    private Task? following;
    private ulong horizon;
    private int lastDomainNumber;
    private bool isRestored;

    /// <summary>True once everything that the database had at the start is known.</summary>
    public bool IsLoaded { get; private set; }

    /// <summary>How long the first reading of everything took; null while it goes on.</summary>
    public TimeSpan? LoadedIn { get; private set; }

    /// <summary>True where the last round could not reach the database.</summary>
    public bool IsDatabaseAway { get; private set; }

    /// <summary>Completes when the edge knows everything that was committed before the call. Fails never: where the database is away, the edge learns
    /// of it later.</summary>
    public Task CatchUp()
    {
        lock (queueing)
        {
            // A round that runs already may have read past what the caller has just committed, the one after it can't.
            return following ??= RunAfter(current);
        }
    }

    /// <summary>Reads the short domains before the first visitor comes.</summary>
    public async Task LoadDomains(CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await ReadDomains(connection, cancel);
        await pixelFeed.Read(connection, cancel);
    }

    /// <summary>Everything that is known beside the links.</summary>
    internal LinkSnapshot.Knowledge Knowledge =>
        new(
            [
                .. domains
                    .All.Select(d => new LinkSnapshot.Domain(
                        d.Id,
                        d.Number,
                        d.WorkspaceId,
                        d.Name,
                        d.Salts.Zone.Id,
                        [.. d.OfficeNetworks.Select(n => n.ToString())],
                        d.BarePage,
                        d.UnknownPage,
                        d.EndedPage
                    ))
                    .OrderBy(d => d.Number),
            ],
            pixels.Numbers.OrderBy(n => n.Value).ToDictionary(),
            pixelFeed.Rows,
            salts.Known
        );

    /// <summary>Goes by a snapshot until the database answers.</summary>
    internal void Restore(LinkSnapshot.Knowledge knowledge)
    {
        isRestored = true;
        salts.Restore(knowledge.Salts);
        pixels.Restore(knowledge.Numbers);
        pixelFeed.Take(knowledge.Pixels);
        lastDomainNumber = knowledge.Domains.Select(d => d.Number).DefaultIfEmpty().Max();
        domains.Replace(
            knowledge.Domains.Select(d => new DomainEntry(
                d.Id,
                d.Number,
                d.WorkspaceId,
                d.Name,
                salts.Of(d.TimeZone),
                [.. d.OfficeNetworks.Select(n => IPNetwork.Parse(n))],
                d.BarePage,
                d.UnknownPage,
                d.EndedPage
            ))
        );
    }

    /// <summary>The record of one link straight from the database, for visitors who come before everything is loaded; null where there is
    /// none.</summary>
    public async Task<byte[]?> Ask(DomainEntry domain, string slugKey, CancellationToken cancel)
    {
        await using var command = dataSource.CreateCommand(
            $"{Select(("addresses a join links l on l.id = a.target_id", "a", true), PixelsOfFew)} where a.domain_id = $1 and a.slug_key = $2"
        );
        command.Parameters.Add(new() { Value = domain.Id });
        command.Parameters.Add(new() { Value = slugKey });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        return await reader.ReadAsync(cancel) ? Record(reader, domain.Number) : null;
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await Listen(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (IsOfDatabase(e))
            {
                IsDatabaseAway = true;
                await Task.Delay(PauseAfterFailure, stoppingToken).ContinueWith(_ => { }, TaskScheduler.Default);
            }
        }
    }

    private async Task Listen(CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        // Whoever has not heard of a removal for a week has been started anew since, or must be.
        await using (
            var listen = new NpgsqlCommand("delete from removed_links where removed_at < now() - interval '7 days'; listen edge", connection)
        )
        {
            await listen.ExecuteNonQueryAsync(cancel);
        }

        while (true)
        {
            await CatchUp();
            await connection.WaitAsync(RoundAtLeastEach, cancel);
            if (IsDatabaseAway)
            {
                // The connection that listens may have been cut without a word.
                return;
            }
        }
    }

    private async Task RunAfter(Task before)
    {
        // Leaves the caller's lock, so that this task is known as the following one before it becomes the current one.
        await Task.Yield();
        await before;
        lock (queueing)
        {
            (current, following) = (following!, null);
        }

        try
        {
            await Round();
            if (IsDatabaseAway)
            {
                forgetConnections();
            }

            IsDatabaseAway = false;
        }
        catch (Exception e) when (IsOfDatabase(e))
        {
            if (!IsDatabaseAway)
            {
                log.LogWarning("The edge goes on with the links it knows, the database does not answer: {Reason}", e.Message);
            }

            IsDatabaseAway = true;
        }
    }

    private async Task Round()
    {
        var began = Stopwatch.GetTimestamp();
        await using var connection = await dataSource.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead);
        await using var snapshot = new NpgsqlCommand("select pg_snapshot_xmin(pg_current_snapshot())", connection);
        var next = (ulong)(await snapshot.ExecuteScalarAsync())!;
        var begun = await ReadDomains(connection, CancellationToken.None);
        await pixelFeed.Read(connection, CancellationToken.None);
        if (isRestored)
        {
            // Visitors go on with the snapshot until all is read: what was removed since it was written is in nothing that could be read.
            links.BeginAnew();
        }

        await ReadLinks(connection, "l.changed_in >= $1::text::xid8 and not d.id = any($2)", PixelsOfFew, horizon, begun);
        if (begun.Length > 0)
        {
            await ReadLinks(connection, "$1::text is not null and d.id = any($2)", PixelsOfMany, horizon, begun);
        }

        await ReadRemovals(connection);
        links.EndAnew();
        isRestored = false;
        horizon = next;
        LoadedIn ??= Stopwatch.GetElapsedTime(began);
        IsLoaded = true;
    }

    /// <summary>Reads all verified domains; returns those that begin to answer.</summary>
    private async Task<Guid[]> ReadDomains(NpgsqlConnection connection, CancellationToken cancel)
    {
        var known = domains.All.ToDictionary(d => d.Id);
        var (read, begun) = (new List<DomainEntry>(), new List<Guid>());
        await using var command = new NpgsqlCommand(
            """
            select d.id, d.workspace_id, d.name, w.time_zone, w.office_networks, d.bare_page, d.unknown_page, d.ended_page
            from domains d join workspaces w on w.id = d.workspace_id where d.verified_at is not null
            """,
            connection
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var id = reader.GetGuid(0);
            if (!known.TryGetValue(id, out var before) || !IsLoaded)
            {
                begun.Add(id);
            }

            read.Add(
                new DomainEntry(
                    id,
                    before?.Number ?? ++lastDomainNumber,
                    reader.GetGuid(1),
                    reader.GetString(2),
                    salts.Of(reader.GetString(3)),
                    [.. reader.GetFieldValue<string[]>(4).Select(IPNetwork.Parse)],
                    Text(reader, 5),
                    Text(reader, 6),
                    Text(reader, 7)
                )
            );
        }

        domains.Replace(read);
        return [.. begun];
    }

    private async Task ReadLinks(NpgsqlConnection connection, string which, string ownPixels, ulong since, Guid[] begun)
    {
        var numbers = domains.All.ToDictionary(d => d.Id, d => d.Number);
        foreach (var address in Addresses)
        {
            await using var command = new NpgsqlCommand(
                $"{Select(address, ownPixels)} where {which} and d.verified_at is not null and l.slug_freed_at is null",
                connection
            )
            {
                Parameters =
                {
                    new() { Value = since.ToString(System.Globalization.CultureInfo.InvariantCulture) },
                    new() { Value = begun },
                },
            };
            await using var reader = await command.ExecuteReaderAsync();
            while (await reader.ReadAsync())
            {
                links.Put(Record(reader, numbers[reader.GetGuid(1)]));
            }
        }
    }

    private static string Select((string Tables, string Address, bool AreFew) at, string ownPixels) =>
        $"""
            select l.id, d.id, {at.Address}.slug_key, case when l.deleted_at is null then l.final_url end, l.redirect, l.options_pass_query, l.options_referrer, l.options_hide_from_search,
                l.campaign_id, l.channel_id, l.options_handoff_deadline, own.pixels, l.fallback as of_link, ofcampaign.fallback as of_campaign, ofworkspace.fallback as of_workspace,
                dead.key is not null as is_dead, l.opens_at, l.ends_at
            from {at.Tables} join domains d on d.id = {at.Address}.domain_id {(at.AreFew ? PixelsOfFew : ownPixels)} {Fallbacks}
            """;

    private async Task ReadRemovals(NpgsqlConnection connection)
    {
        var numbers = domains.All.ToDictionary(d => d.Id, d => d.Number);
        await using var command = new NpgsqlCommand(
            "select domain_id, slug_key from removed_links r where changed_in >= $1::text::xid8"
                + " and not exists (select from addresses a where a.domain_id = r.domain_id and a.slug_key = r.slug_key)",
            connection
        )
        {
            Parameters = { new() { Value = horizon.ToString(System.Globalization.CultureInfo.InvariantCulture) } },
        };
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            if (numbers.TryGetValue(reader.GetGuid(0), out var number))
            {
                links.Remove(number, reader.GetString(1));
            }
        }
    }

    private byte[] Record(NpgsqlDataReader reader, int domain)
    {
        var (location, isDead, schedule) = (Text(reader, 3), reader.GetBoolean(15), new LinkSchedule(Time(reader, 16), Time(reader, 17)));
        return LinkEntry.Write(
            reader.GetGuid(0),
            reader.GetString(2),
            location,
            new(domain, pixels.NumberOf(Id(reader, 8)), pixels.NumberOf(Id(reader, 9))),
            new(
                reader.GetInt16(4),
                (QueryPassing)reader.GetInt16(5),
                (ReferrerPassing)reader.GetInt16(6),
                reader.GetBoolean(7),
                reader.IsDBNull(10) ? null : reader.GetInt16(10),
                reader.IsDBNull(11) ? [] : [.. reader.GetFieldValue<Guid[]>(11).Take(HandoffReport.MostPixels).Select(p => pixels.NumberOf(p))]
            )
            {
                Schedule = schedule,
                IsDead = isDead,
                Fallback =
                    location is not null
                    && (isDead || !schedule.IsAlways)
                    && LinkInheritance.Fallback(Text(reader, 12), Text(reader, 13), Text(reader, 14)) is { } fallback
                        ? FallbackDestination.For(fallback, location)
                        : null,
            }
        );
    }

    private static Instant? Time(NpgsqlDataReader reader, int column) => reader.IsDBNull(column) ? null : reader.GetFieldValue<Instant>(column);

    private static Guid? Id(NpgsqlDataReader reader, int column) => reader.IsDBNull(column) ? null : reader.GetGuid(column);

    private static string? Text(NpgsqlDataReader reader, int column) => reader.IsDBNull(column) ? null : reader.GetString(column);

    /// <summary>A connection that the other side has closed may be disposed of already.</summary>
    private static bool IsOfDatabase(Exception e) => e is ObjectDisposedException || DatabaseTrouble.IsOfDatabase(e);
}
