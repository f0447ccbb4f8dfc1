using Cursus.Data.Clicks;
using Cursus.Web.Hosting;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>Every hour deletes what is kept of visitors for a time only: single clicks as long as their workspace wants, and the texts of user agents.</summary>
internal sealed class Retention(ClickRetention clicks, UserAgentRetention agents, IClock clock, Prepared prepared, ILogger<Retention> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromHours(1);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Pause);
        do
        {
            try
            {
                await prepared.WhenDone(stoppingToken);
                await clicks.Keep(clock.GetCurrentInstant(), stoppingToken);
                await agents.Keep(clock.GetCurrentInstant(), stoppingToken);
            }
            catch (Exception e) when (e is Npgsql.NpgsqlException or TimeoutException)
            {
                log.LogWarning("What is to be kept for a time only could not be deleted; trying again in an hour: {Reason}", e.Message);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
        }
        while (await timer.Next(stoppingToken));
    }
}
