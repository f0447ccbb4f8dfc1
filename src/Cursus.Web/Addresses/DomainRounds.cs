using Cursus.Data;
using Cursus.Web.Hosting;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>Goes round the short domains whose next check is due.</summary>
internal sealed class DomainRounds(IServiceScopeFactory scopes, IClock clock, Prepared prepared, ILogger<DomainRounds> log) : BackgroundService
{
    private const int AtOnce = 20;

    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(5);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await prepared.WhenDone(stoppingToken);
                await Round(stoppingToken);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                log.LogWarning("Short domains could not be checked and will be at the next round: {Reason}", e.Message);
            }
        }
    }

    private async Task Round(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<CursusDb>();
        var now = clock.GetCurrentInstant();
        foreach (var domain in await db.Domains.Where(d => d.NextCheckAt <= now).OrderBy(d => d.NextCheckAt).Take(AtOnce).ToListAsync(cancel))
        {
            await scope.ServiceProvider.GetRequiredService<DomainCheck>().Run(domain, cancel);
        }
    }
}
