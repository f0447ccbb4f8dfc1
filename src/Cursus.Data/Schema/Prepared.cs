namespace Cursus.Data.Schema;

/// <summary>Whether the database has been brought up to date since the start. Until then members are asked to wait, and nothing works on the database
/// but the edge, which only reads.</summary>
public sealed class Prepared
{
    private readonly TaskCompletionSource done = new(TaskCreationOptions.RunContinuationsAsynchronously);

    /// <summary>Whether it has.</summary>
    public bool IsDone => done.Task.IsCompletedSuccessfully;

    /// <summary>Completes when it has.</summary>
    public Task WhenDone(CancellationToken cancel) => done.Task.WaitAsync(cancel);

    /// <summary>It has.</summary>
    public void Done() => done.TrySetResult();
}
