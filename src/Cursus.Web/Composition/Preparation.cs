using Cursus.Data;
using Cursus.Data.Clicks.Sums;
using Cursus.Data.Schema;
using Cursus.Edge;
using Cursus.Web.Demo;
using Cursus.Web.Hosting;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Composition;

/// <summary>
/// What happens before the first request: the database is brought up to date and filled where it is empty and a demo is configured, and the edge
/// learns its domains. Where the database does not answer, the edge begins with what it knew before, and the rest follows when the database is back.
/// </summary>
internal sealed class Preparation(IServiceProvider services, CursusOptions options, Prepared prepared, IClock clock, ILogger<Preparation> log)
    : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan LongPause = TimeSpan.FromSeconds(30);

    /// <summary>Prepares everything, or only what goes without a database.</summary>
    public async Task Begin(CancellationToken cancel)
    {
        try
        {
            await PrepareDatabase(cancel);
            await services.GetRequiredService<LinkFeed>().LoadDomains(cancel);
            await services.GetRequiredService<VisitorSalts>().Renew(cancel);
            prepared.Done();
        }
        catch (Exception e) when (DatabaseTrouble.IsAway(e))
        {
            log.LogWarning("The database isn’t responding: {Reason}. Short links still work; everything else waits.", e.Message);
            BeginWithoutDatabase();
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (!prepared.IsDone && !stoppingToken.IsCancellationRequested)
        {
            try
            {
                await Task.Delay(Pause, stoppingToken);
                await PrepareDatabase(stoppingToken);
                prepared.Done();
                log.LogInformation("The database is responding.");
            }
            catch (Exception e) when (DatabaseTrouble.IsAway(e))
            {
                // It was said at the start, and /readyz says it all the time.
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e)
            {
                // Whatever it is, visitors are led on meanwhile.
                log.LogError(e, "The database is responding but couldn’t be migrated. Trying again shortly.");
                await Task.Delay(LongPause, stoppingToken).ContinueWith(_ => { }, TaskScheduler.Default);
            }
        }
    }

    private void BeginWithoutDatabase()
    {
        var (feed, links) = (services.GetRequiredService<LinkFeed>(), services.GetRequiredService<LinkTable>());
        try
        {
            if (LinkSnapshot.Read(options.SnapshotFile, links.Put) is { } knowledge)
            {
                feed.Restore(knowledge);
                log.LogWarning(
                    "Short links are served from {File} of {Time:u}: {Count} links.",
                    options.SnapshotFile,
                    File.GetLastWriteTimeUtc(options.SnapshotFile),
                    links.Count
                );
            }
        }
        catch (Exception e) when (e is IOException or InvalidDataException or UnauthorizedAccessException)
        {
            log.LogError("{File}, which would serve short links without a database, can’t be used: {Reason}.", options.SnapshotFile, e.Message);
        }
    }

    private async Task PrepareDatabase(CancellationToken cancel)
    {
        await using var scope = services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        await SchemaUpdate.Run(db, cancel);
        var pool = services.GetRequiredService<NpgsqlDataSource>();
        foreach (
            var error in new[]
            {
                await DatabasePools.ErrorOf(pool, options.Limits, cancel),
                await DatabasePools.TooManyRights(pool, cancel),
            }.OfType<string>()
        )
        {
            log.LogWarning("{Error}", error);
        }

        await Access.KeyFile.EncryptOld(
            db,
            services.GetRequiredService<System.Security.Cryptography.X509Certificates.X509Certificate2>(),
            services.GetRequiredService<ILoggerFactory>(),
            cancel
        );

        if (await services.GetRequiredService<RollUps>().BringUpToDate(clock.GetCurrentInstant(), cancel))
        {
            Console.WriteLine("  The clicks were read anew by the present lists");
        }

        if (
            options is { DemoFolder: null or "" }
            && services.GetRequiredService<Access.SetupCode>() is { IsDrawn: true } code
            && !await db.Workspaces.AnyAsync(cancel)
        )
        {
            log.LogWarning("There are no accounts yet. The set-up code for the first owner is {Code}.", code.Text);
        }

        if (options is { DemoFolder.Length: > 0 } && !await db.Workspaces.AnyAsync(cancel))
        {
            Console.WriteLine("  Loading the demo scenario");
            var loaded = await scope.ServiceProvider.GetRequiredService<DemoLoader>().Load(DemoScenario.Read(options.DemoFolder), cancel);
            Console.WriteLine($"  Demo: {loaded.Posts} posts, {loaded.Links} links, {loaded.Clicks} clicks");
        }
    }
}
