using Cursus.Web.Problems;

namespace Cursus.Web.Hosting;

/// <summary>Work that is done again and again in the background, from when the database is ready. Where the database fails, it is done the next
/// time.</summary>
/// <param name="pause">From one time to the next.</param>
/// <param name="failure">What to say in the log where it could not be done.</param>
internal abstract class RegularWork(TimeSpan pause, string failure, Prepared prepared, ILogger log) : BackgroundService
{
    /// <summary>Does the work once.</summary>
    protected abstract Task Work(CancellationToken cancel);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(pause);
        do
        {
            try
            {
                await prepared.WhenDone(stoppingToken);
                await Work(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (DatabaseTrouble.IsOfDatabase(e))
            {
                log.LogWarning("{Failure}; trying again in {Minutes} minutes: {Reason}", failure, pause.TotalMinutes, e.Message);
            }
        } while (await timer.Next(stoppingToken));
    }
}
