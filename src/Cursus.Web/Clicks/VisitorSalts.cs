using System.Security.Cryptography;
using Cursus.Data;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>
/// The key of today's visitor hashes. A new one is drawn each UTC day and kept in the database, so that a restart doesn't count a visitor twice;
/// earlier ones are deleted, so that nobody can compute yesterday's hashes again.
/// </summary>
public sealed class VisitorSalts(IServiceScopeFactory scopes, IClock clock, ILogger<VisitorSalts> log) : BackgroundService
{
    private LocalDate day;
    private byte[] salt = RandomNumberGenerator.GetBytes(32);

    /// <summary>32 bytes.</summary>
    public ReadOnlySpan<byte> Today => Volatile.Read(ref salt);

    public override async Task StartAsync(CancellationToken cancellationToken)
    {
        await Renew(cancellationToken);
        await base.StartAsync(cancellationToken);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromSeconds(5));
        while (await timer.WaitForNextTickAsync(stoppingToken).AsTask().ContinueWith(t => !t.IsCanceled && t.Result, TaskScheduler.Default))
        {
            await Renew(stoppingToken);
        }
    }

    private async Task Renew(CancellationToken cancel)
    {
        var today = clock.GetCurrentInstant().InUtc().Date;
        if (today == day)
        {
            return;
        }

        try
        {
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
            await db.Database.ExecuteSqlAsync(
                $"insert into visitor_salts (day, salt) values ({today}, {RandomNumberGenerator.GetBytes(32)}) on conflict (day) do nothing", cancel);
            await db.VisitorSalts.Where(s => s.Day < today).ExecuteDeleteAsync(cancel);
            Volatile.Write(ref salt, (await db.VisitorSalts.SingleAsync(s => s.Day == today, cancel)).Salt);
            day = today;
        }
        catch (Exception e) when (e is Npgsql.NpgsqlException or InvalidOperationException or TimeoutException)
        {
            // Visitors are still told apart by the salt in memory; the day's own is fetched when the database is back.
            log.LogWarning(e, "Today's visitor salt could not be fetched; trying again");
        }
    }
}
