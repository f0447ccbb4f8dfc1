using Cursus.Data.Clicks;
using Cursus.Web.Hosting;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>Puts each day of each link into its month once it has ended in every time zone, so that long questions read months instead of days.</summary>
internal sealed class DaySealing(RollUps rollUps, IClock clock, Prepared prepared, ILogger<DaySealing> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromMinutes(10);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause);
        do
        {
            try
            {
                await prepared.WhenDone(stoppingToken);
                await rollUps.SealDays(clock.GetCurrentInstant(), stoppingToken);
            }
            catch (Exception e) when (e is Npgsql.NpgsqlException or TimeoutException)
            {
                // Reports read the days until it succeeds.
                log.LogWarning("Days could not be put into their months; trying again in ten minutes: {Reason}", e.Message);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
        }
        while (await timer.Next(stoppingToken));
    }
}
