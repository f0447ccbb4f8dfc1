using Cursus.Data;
using Cursus.Data.Schema;
using Cursus.Web.Hosting;
using Quartz;

namespace Cursus.Web.Background;

/// <summary>Runs the scheduler of background work, whose plan is in the database, as soon as that answers.</summary>
internal sealed class BackgroundSchedule(ISchedulerFactory factory, IEnumerable<RegularWork> all, Prepared prepared, ILogger<BackgroundSchedule> log)
    : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(5);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        IScheduler? scheduler = null;
        try
        {
            await prepared.WhenDone(stoppingToken);
            while (scheduler?.Status != SchedulerStatus.Running)
            {
                try
                {
                    scheduler = await factory.GetScheduler(stoppingToken);
                    await Plan(scheduler, stoppingToken);
                    await scheduler.Start(stoppingToken);
                }
                catch (Exception e) when (e is SchedulerException || DatabaseTrouble.IsAway(e))
                {
                    log.LogWarning("Background work could not begin and tries again in a moment: {Reason}", e.Message);
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

    /// <summary>Puts all work that there is into the plan, and takes out what there is no more.</summary>
    private async Task Plan(IScheduler scheduler, CancellationToken cancel)
    {
        foreach (var job in (await scheduler.QueryJobs(new JobQuery(), cancel)).Items.Select(j => j.Key))
        {
            if (all.All(w => w.Key != job.Name))
            {
                await scheduler.DeleteJob(job, cancel);
            }
        }

        foreach (var work in all)
        {
            await scheduler.ScheduleJob(
                JobBuilder.Create<RegularWorkJob>().WithIdentity(work.Key).WithDescription(work.Name).Build(),
                TriggerBuilder.Create().WithIdentity(work.Key).WithSimpleSchedule(work.Every).Build(),
                new ScheduleJobOptions { Replace = true },
                cancel
            );
        }
    }
}
