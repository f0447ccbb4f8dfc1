using Cursus.Data.Clicks;

namespace Cursus.Web.Clicks;

/// <summary>Moves clicks from the journal into PostgreSQL. While the database is away they wait in the journal.</summary>
internal sealed class ClickShipper(ClickJournal journal, ClickStore store, ILogger<ClickShipper> log) : BackgroundService
{
    private const int BatchSize = 5000;
    private static readonly TimeSpan Gathering = TimeSpan.FromMilliseconds(50);
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(5);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var pause = TimeSpan.FromMilliseconds(100);
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await ShipAll(stoppingToken);
                return;
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (e is Npgsql.NpgsqlException or IOException or TimeoutException)
            {
                log.LogWarning("Clicks wait in the journal, the database does not take them: {Reason}", e.Message);
                await Task.Delay(pause, stoppingToken).ContinueWith(_ => { }, TaskScheduler.Default);
                pause = TimeSpan.FromTicks(Math.Min(pause.Ticks * 2, LongestWait.Ticks));
            }
        }
    }

    /// <summary>Runs until it is cancelled or the database fails; then it is begun anew from what the database says was shipped.</summary>
    private async Task ShipAll(CancellationToken cancel)
    {
        var (id, from) = await store.Register(journal.Key, cancel);
        while (true)
        {
            var batch = journal.Read(from, BatchSize, out var next);
            if (batch.Count == 0)
            {
                await journal.WaitForClicks(LongestWait, cancel);
                await Task.Delay(Gathering, cancel);
                continue;
            }

            await store.Ship(id, batch, next, cancel);
            journal.Forget(next);
            from = next;
        }
    }
}
