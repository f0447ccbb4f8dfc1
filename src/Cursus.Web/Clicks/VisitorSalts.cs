using System.Collections.Concurrent;
using Cursus.Data;
using Cursus.Data.Clicks;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>
/// The keys of visitor hashes. Each day of each workspace's time zone has its own, kept in the database until the day has ended there, so that a restart doesn't count
/// a visitor twice and nobody can compute yesterday's hashes again. Tomorrow's is agreed on an hour ahead, so that at midnight nobody asks the database.
/// </summary>
public sealed class VisitorSalts(IServiceScopeFactory scopes, IClock clock, ILogger<VisitorSalts> log) : BackgroundService
{
    private static readonly Duration Ahead = Duration.FromHours(1);

    private readonly ConcurrentDictionary<string, ZoneSalts> zones = new();

    /// <summary>The keys of a time zone, which is looked after from now on.</summary>
    public ZoneSalts Of(string timeZone) => zones.GetOrAdd(timeZone, static name => new ZoneSalts(DateTimeZoneProviders.Tzdb[name]));

    /// <summary>Agrees with all other processes on the keys that are needed now and deletes those that have passed.</summary>
    public async Task Renew(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        var now = clock.GetCurrentInstant();
        foreach (var zone in zones.Values)
        {
            foreach (var at in new[] { now, now + Ahead }.DistinctBy(at => at.InZone(zone.Zone).Date))
            {
                zone.Take(await Agree(db, zone.Zone.Id, zone.Draw(at), cancel), now);
            }
        }

        await db.VisitorSalts.Where(s => s.EndsAt <= now).ExecuteDeleteAsync(cancel);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromSeconds(20));
        do
        {
            try
            {
                await Renew(stoppingToken);
            }
            catch (Exception e) when (e is Npgsql.NpgsqlException or InvalidOperationException or TimeoutException)
            {
                // Visitors are still told apart by the key in memory; the agreed one is fetched when the database is back.
                log.LogWarning("The keys of visitor hashes could not be fetched; trying again: {Reason}", e.Message);
            }
        }
        while (await timer.WaitForNextTickAsync(stoppingToken).AsTask().ContinueWith(t => !t.IsCanceled && t.Result, TaskScheduler.Default));
    }

    private static async Task<ZoneSalts.DaySalt> Agree(CursusDb db, string timeZone, ZoneSalts.DaySalt offer, CancellationToken cancel)
    {
        await db.Database.ExecuteSqlAsync(
            $"insert into visitor_salts (time_zone, day, ends_at, salt) values ({timeZone}, {offer.Day}, {offer.End}, {offer.Salt}) on conflict do nothing", cancel);
        VisitorSalt agreed = await db.VisitorSalts.AsNoTracking().SingleAsync(s => s.TimeZone == timeZone && s.Day == offer.Day, cancel);
        return offer with { Salt = agreed.Salt };
    }
}
