namespace Cursus.Web.Hosting;

/// <summary>Whether the database has been brought up to date since the start. Until then members are asked to wait, and nothing works on the database
/// but the edge, which only reads.</summary>
public sealed class Prepared
{
    private readonly TaskCompletionSource done = new(TaskCreationOptions.RunContinuationsAsynchronously);

    public bool IsDone => done.Task.IsCompletedSuccessfully;

    public Task WhenDone(CancellationToken cancel) => done.Task.WaitAsync(cancel);

    internal void Done() => done.TrySetResult();
}
