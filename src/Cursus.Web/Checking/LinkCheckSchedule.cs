using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Quartz;

namespace Cursus.Web.Checking;

/// <summary>Runs the link check's scheduler, whose plan is in the database, as soon as that answers.</summary>
internal sealed class LinkCheckSchedule(ISchedulerFactory factory, Prepared prepared, ILogger<LinkCheckSchedule> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(5);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        IScheduler? scheduler = null;
        try
        {
            await prepared.WhenDone(stoppingToken);
            while (scheduler is null)
            {
                try
                {
                    scheduler = await factory.GetScheduler(stoppingToken);
                    await scheduler.Start(stoppingToken);
                }
                catch (Exception e) when (e is SchedulerException || DatabaseTrouble.IsAway(e))
                {
                    log.LogWarning("The link check could not begin and tries again in a moment: {Reason}", e.Message);
                    await Task.Delay(Pause, stoppingToken);
                }
            }

            await Task.Delay(Timeout.Infinite, stoppingToken);
        }
        catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
        {
            await (scheduler?.Shutdown(waitForJobsToComplete: false, CancellationToken.None) ?? ValueTask.CompletedTask);
        }
    }
}
