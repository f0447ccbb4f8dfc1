using System.Diagnostics;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using NodaTime;

namespace Cursus.Web.Clicks;

/// <summary>Moves clicks from the journal into PostgreSQL, giving way to visitors (<see cref="ShippingPace"/>). While the database is away they wait in the journal.</summary>
internal sealed class ClickShipper(ClickJournal journal, ClickStore store, ShippingState state, LiveClicks live, ILogger<ClickShipper> log) : BackgroundService
{
    private const int BatchSize = 20_000;
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
        state.Begin(from);
        var (lastBatch, lastEnd) = (Duration.Zero, 0L);
        while (true)
        {
            if (journal.OldestAt(from) is not { } oldest)
            {
                state.Take(null);
                await journal.WaitForClicks(LongestWait, cancel);
                await Task.Delay(Gathering, cancel);
                continue;
            }

            state.Take(oldest);
            if (journal.End != lastEnd)
            {
                await GiveWay(lastBatch, cancel);
            }

            lastEnd = journal.End;
            var began = Stopwatch.GetTimestamp();
            var batch = journal.Read(from, BatchSize, out var next);
            var stored = await store.Ship(id, batch, next, cancel);
            journal.Forget(next);
            state.Done(batch.Count, next);
            live.Tell(stored);
            from = next;
            lastBatch = Duration.FromTimeSpan(Stopwatch.GetElapsedTime(began));
        }
    }

    /// <summary>Waits while visitors need the processors.</summary>
    private async Task GiveWay(Duration lastBatch, CancellationToken cancel)
    {
        Duration rest;
        var rested = Duration.Zero;
        do
        {
            var (began, used) = (Stopwatch.GetTimestamp(), Environment.CpuUsage.TotalTime);
            await Task.Delay(ShippingPace.Look.ToTimeSpan(), cancel);
            var took = Stopwatch.GetElapsedTime(began);
            var busy = (Environment.CpuUsage.TotalTime - used) / (took * Environment.ProcessorCount);
            rested += Duration.FromTimeSpan(took);
            rest = ShippingPace.Rest(busy, state.OldestWaiting, journal.Fullness, lastBatch);
        }
        while (rested < rest);
    }
}
