using System.Diagnostics;
using System.Net;
using System.Text.Json;
using Cursus.Core.Checking;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Edge.Handoff;
using Cursus.Edge.Routing;
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
    FirstPeople people,
    VisitorSalts salts,
    ForgetConnections forgetConnections,
    ILogger<LinkFeed> log
) : BackgroundService
{
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
        return await EdgeLinks.At(dataSource, domain.Id, slugKey, cancel) is { } link ? Record(link, domain.Number) : null;
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

        var numbers = domains.All.ToDictionary(d => d.Id, d => d.Number);
        await Put(EdgeLinks.Changed(connection, horizon, begun, CancellationToken.None), numbers);
        if (begun.Length > 0)
        {
            await Put(EdgeLinks.Of(connection, begun, CancellationToken.None), numbers);
        }

        await foreach (var (domain, slugKey) in EdgeLinks.Removed(connection, horizon, CancellationToken.None))
        {
            if (numbers.TryGetValue(domain, out var number))
            {
                links.Remove(number, slugKey);
            }
        }

        await people.Read(connection, horizon, CancellationToken.None);
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
        foreach (var domain in await EdgeLinks.Domains(connection, cancel))
        {
            if (!known.TryGetValue(domain.Id, out var before) || !IsLoaded)
            {
                begun.Add(domain.Id);
            }

            read.Add(
                new DomainEntry(
                    domain.Id,
                    before?.Number ?? ++lastDomainNumber,
                    domain.WorkspaceId,
                    domain.Name,
                    salts.Of(domain.TimeZone),
                    [.. domain.OfficeNetworks.Select(IPNetwork.Parse)],
                    domain.BarePage,
                    domain.UnknownPage,
                    domain.EndedPage
                )
            );
        }

        domains.Replace(read);
        return [.. begun];
    }

    private async Task Put(IAsyncEnumerable<EdgeLink> read, Dictionary<Guid, int> numbers)
    {
        await foreach (var link in read)
        {
            links.Put(Record(link, numbers[link.DomainId]));
        }
    }

    private byte[] Record(in EdgeLink link, int domain)
    {
        var schedule = new LinkSchedule(link.OpensAt, link.EndsAt);
        return LinkEntry.Write(
            link.Id,
            link.SlugKey,
            link.Location,
            new(domain, pixels.NumberOf(link.CampaignId), pixels.NumberOf(link.ChannelId)),
            new(
                link.Redirect,
                link.PassQuery,
                link.Referrer,
                link.HidesFromSearch,
                link.HandoffDeadline,
                link.Pixels.Length == 0 ? [] : [.. link.Pixels.Take(HandoffReport.MostPixels).Select(p => pixels.NumberOf(p))]
            )
            {
                Schedule = schedule,
                IsDead = link.IsDead,
                Route = link.Location is { } location && link.Route is { } route ? Finished(route, location, link.DeadPages) : null,
                EndedText = link.Location is null || schedule.EndsAt is not null ? link.EndedText : null,
                Fallback =
                    link.Location is not null
                    && (link.IsDead || link.DeadPages.Length > 0 || !schedule.IsAlways)
                    && LinkInheritance.Fallback(link.Fallback, link.FallbackOfCampaign, link.FallbackOfWorkspace) is { } fallback
                        ? FallbackDestination.For(fallback, link.Location)
                        : null,
            }
        );
    }

    /// <summary>A route as it is followed: its pages are counted as the link's own. One that can't be read keeps no other link from its
    /// visitors.</summary>
    private Route? Finished(string route, string location, short[] dead)
    {
        try
        {
            return RoutePages.With(RouteText.Read(route), p =>
                p with
                {
                    Name = null,
                    Destination = FallbackDestination.For(p.Destination, location),
                    IsDead = dead.Contains(p.Number),
                }
            );
        }
        catch (JsonException e)
        {
            log.LogWarning("The rules of a link can’t be read, so it leads everybody to its destination: {Reason}", e.Message);
            return null;
        }
    }

    /// <summary>A connection that the other side has closed may be disposed of already.</summary>
    private static bool IsOfDatabase(Exception e) => e is ObjectDisposedException || DatabaseTrouble.IsOfDatabase(e);
}
