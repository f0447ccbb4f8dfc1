using System.Diagnostics;
using Cursus.Core.Clicks;
using Cursus.Data;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Journaling;
using Cursus.Data.Schema;
using Nito.AsyncEx;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>Moves clicks from the journal into PostgreSQL, giving way to visitors (<see cref="Backpressure"/>). While the database is away they wait
/// in the journal.</summary>
internal sealed class ClickShipper(
    ClickJournal journal,
    ClickStore store,
    ShippingState state,
    LiveClicks live,
    Prepared prepared,
    ILogger<ClickShipper> log
) : BackgroundService
{
    private static readonly TimeSpan Gathering = TimeSpan.FromMilliseconds(50);
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(5);

    // On a machine with one processor the pool has one thread as well, and every visitor would wait while a batch is counted on it.
    private readonly AsyncContextThread thread = new();

    private readonly Queue<double> looks = [];
    private int size = Backpressure.LargestBatch;

    public override void Dispose()
    {
        thread.Dispose();
        base.Dispose();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var pause = TimeSpan.FromMilliseconds(100);
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await prepared.WhenDone(stoppingToken);
                await thread.Factory.Run(() => ShipAll(stoppingToken));
                return;
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception e) when (DatabaseTrouble.IsOfDatabase(e))
            {
                log.LogWarning("Clicks are waiting in the journal because the database doesn’t accept them: {Reason}", e.Message);
                await Task.Delay(pause, stoppingToken).ContinueWith(_ => { }, TaskScheduler.Default);
                pause = TimeSpan.FromTicks(Math.Min(pause.Ticks * 2, LongestWait.Ticks));
            }
        }
    }

    /// <summary>Runs until it is cancelled or the database fails; then it is begun anew from what the database says was shipped.</summary>
    private async Task ShipAll(CancellationToken cancel)
    {
        var (id, next) = await store.Register(journal.Key, cancel);
        state.Begin(next);
        var (lastBatch, lastEnd) = (Duration.Zero, 0L);
        Task<ReadBatch>? ahead = null;
        try
        {
            while (true)
            {
                var oldest = journal.Read(next, 1).Oldest;
                state.Take(oldest);
                if (oldest is null)
                {
                    looks.Clear();
                    await journal.WaitForClicks(LongestWait, cancel);
                    await Task.Delay(Gathering, cancel);
                    continue;
                }

                if (journal.End != lastEnd)
                {
                    await HoldBack(lastBatch, cancel);
                }

                lastEnd = journal.End;
                var began = Stopwatch.GetTimestamp();
                var batch = await (ahead ?? Read(id, next, cancel));

                // While the database stores this batch the next is read, where enough waits to make another one as large.
                ahead = journal.End - batch.Next >= batch.Next - next ? Read(id, batch.Next, cancel) : null;
                var stored = await store.Ship(batch, cancel);
                next = batch.Next;
                lastBatch = Duration.FromTimeSpan(Stopwatch.GetElapsedTime(began));
                size = Backpressure.NextSize(size, lastBatch);
                state.Done(batch.Count, next);
                live.Tell(stored);
                await (ahead ?? Task.CompletedTask);
                journal.Forget(next);
            }
        }
        finally
        {
            // Whoever begins anew must be the journal's only reader.
            await (ahead ?? Task.CompletedTask).ContinueWith(_ => { }, TaskScheduler.Default);
        }
    }

    /// <summary>Begins as soon as the thread has nothing else to do.</summary>
    private async Task<ReadBatch> Read(int journalId, long from, CancellationToken cancel)
    {
        await Task.Yield();
        return await store.Read(journalId, journal.Read(from, size), cancel);
    }

    /// <summary>Waits while visitors need the processors.</summary>
    private async Task HoldBack(Duration lastBatch, CancellationToken cancel)
    {
        Duration rest;
        var rested = Duration.Zero;
        do
        {
            var (began, used) = (Stopwatch.GetTimestamp(), Environment.CpuUsage.TotalTime);
            await Task.Delay(Backpressure.Look.ToTimeSpan(), cancel);
            var took = Stopwatch.GetElapsedTime(began);
            if (looks.Count == Backpressure.Looks)
            {
                looks.Dequeue();
            }

            looks.Enqueue((Environment.CpuUsage.TotalTime - used) / (took * Environment.ProcessorCount));
            rested += Duration.FromTimeSpan(took);
            rest = Backpressure.Rest(Backpressure.BusyBy(looks), state.OldestWaiting, journal.Fullness, lastBatch);
        } while (rested < rest);
    }
}
