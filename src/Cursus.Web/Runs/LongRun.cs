namespace Cursus.Web.Runs;

/// <summary>Something that takes a while and is done whole or not at all, while it goes on.</summary>
/// <param name="workspaceId">Whose it is.</param>
/// <param name="subject">What it is about, for whoever looks later.</param>
internal sealed class LongRun(Guid workspaceId, int total, string? subject, CancellationTokenSource cancellation) : IProgress<int>
{
    private readonly TaskCompletionSource over = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private volatile int done;

    public Guid WorkspaceId => workspaceId;

    /// <summary>How many links or clicks it is about.</summary>
    public int Total => total;

    public string? Subject => subject;

    /// <summary>How many are written; they count only when all are.</summary>
    public int Done => done;

    public bool IsOver => over.Task.IsCompleted;

    /// <summary>Why nothing was saved; null while it goes on, or where it went well.</summary>
    public string? Failure { get; set; }

    public CancellationToken Cancelled => cancellation.Token;

    public void Report(int value) => done = value;

    public void Cancel() => cancellation.Cancel();

    public void End() => over.TrySetResult();

    /// <summary>Completes when it is over, or after a while.</summary>
    public Task Over(TimeSpan atMost) => Task.WhenAny(over.Task, Task.Delay(atMost));
}
