using System.Collections.Concurrent;

namespace Cursus.Web.Batches;

/// <summary>The making of one batch's links, while it goes on.</summary>
internal sealed class BatchRun(int total, CancellationTokenSource cancellation) : IProgress<int>
{
    private volatile int done;

    /// <summary>Links to be made.</summary>
    public int Total => total;

    /// <summary>Links written; they count only when all are.</summary>
    public int Done => done;

    public bool IsOver { get; set; }

    /// <summary>Why nothing was saved; null while it goes on, or where it went well.</summary>
    public string? Failure { get; set; }

    public CancellationToken Cancelled => cancellation.Token;

    public void Report(int value) => done = value;

    public void Cancel() => cancellation.Cancel();
}

/// <summary>Makes batches beside the requests that began them. What a stop of the server interrupts is rolled back, so the batch waits as it did before.</summary>
internal sealed class BatchRuns(IServiceScopeFactory scopes, IHostApplicationLifetime lifetime, ILogger<BatchRuns> log)
{
    private readonly ConcurrentDictionary<Guid, BatchRun> runs = new();

    public BatchRun? Find(Guid batchId) => runs.GetValueOrDefault(batchId);

    public void Forget(Guid batchId) => runs.TryRemove(batchId, out _);

    /// <summary>Begins a run; null where one goes on already. <paramref name="make"/> answers why nothing was saved, or null.</summary>
    public BatchRun? Start(Guid batchId, int total, Func<IServiceProvider, BatchRun, Task<string?>> make)
    {
        var run = new BatchRun(total, CancellationTokenSource.CreateLinkedTokenSource(lifetime.ApplicationStopping));
        var current = runs.AddOrUpdate(batchId, run, (_, before) => before.IsOver ? run : before);
        if (current != run)
        {
            return null;
        }

        _ = Task.Run(() => Go(batchId, run, make), CancellationToken.None);
        return run;
    }

    private async Task Go(Guid batchId, BatchRun run, Func<IServiceProvider, BatchRun, Task<string?>> make)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            run.Failure = await make(scope.ServiceProvider, run);
        }
        catch (OperationCanceledException)
        {
            run.Failure = "It was cancelled; no link was made.";
        }
        catch (Exception e)
        {
            log.LogError(e, "The links of batch {Batch} could not be made", batchId);
            run.Failure = run.Cancelled.IsCancellationRequested
                ? "It was cancelled; no link was made."
                : "Something failed on our side and no link was made. Try again; if it stays, look into the server's log.";
        }
        finally
        {
            run.IsOver = true;
        }
    }
}
