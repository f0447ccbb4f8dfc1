using System.Collections.Concurrent;
using Cursus.Data;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Runs;

/// <summary>Does long things beside the requests that began them, each in one transaction. What a stop of the server interrupts is rolled
/// back.</summary>
internal sealed class LongRuns(IServiceScopeFactory scopes, IHostApplicationLifetime lifetime, ILogger<LongRuns> log)
{
    private readonly ConcurrentDictionary<Guid, LongRun> runs = new();

    public LongRun? Find(Guid id) => runs.GetValueOrDefault(id);

    public void Forget(Guid id) => runs.TryRemove(id, out _);

    /// <summary>Begins a run; null where one goes on already.</summary>
    /// <param name="nothing">What is told of a run that failed, such as “no link was made”.</param>
    /// <param name="make">Answers why nothing was saved, or null.</param>
    /// <param name="subject">What it is about, for whoever looks later.</param>
    public LongRun? Start(
        Guid id,
        Guid workspaceId,
        int total,
        string nothing,
        Func<IServiceProvider, LongRun, Task<string?>> make,
        string? subject = null
    )
    {
        var run = new LongRun(workspaceId, total, subject, CancellationTokenSource.CreateLinkedTokenSource(lifetime.ApplicationStopping));
        var current = runs.AddOrUpdate(id, run, (_, before) => before.IsOver ? run : before);
        if (current != run)
        {
            return null;
        }

        _ = Task.Run(() => Go(id, run, nothing, make), CancellationToken.None);
        return run;
    }

    private async Task Go(Guid id, LongRun run, string nothing, Func<IServiceProvider, LongRun, Task<string?>> make)
    {
        try
        {
            await using var scope = scopes.CreateAsyncScope();

            // Nobody waits for an answer: a statement about all of the links may take as long as it takes, and is cancelled with the run.
            scope.ServiceProvider.GetRequiredService<CursusDb>().Database.SetCommandTimeout(0);
            run.Failure = await make(scope.ServiceProvider, run);
        }
        catch (OperationCanceledException)
        {
            run.Failure = $"It was cancelled; {nothing}.";
        }
        catch (Exception e) when (DatabaseTrouble.IsMadeMeanwhile(e))
        {
            run.Failure = $"Someone else created the same thing at the same moment, and {nothing}. Try again.";
        }
        catch (Exception e)
        {
            log.LogError(e, "The run {Run} failed", id);
            run.Failure = run.Cancelled.IsCancellationRequested
                ? $"It was cancelled; {nothing}."
                : $"Something went wrong on the server and {nothing}. Try again. If it keeps happening, check the server log.";
        }
        finally
        {
            run.End();
        }
    }
}
