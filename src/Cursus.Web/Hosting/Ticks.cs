namespace Cursus.Web.Hosting;

/// <summary>What services that work in rounds wait for.</summary>
internal static class Ticks
{
    /// <summary>Waits for the next round; false, and no exception, where there is none because the service ends.</summary>
    public static Task<bool> Next(this PeriodicTimer timer, CancellationToken end) =>
        timer.WaitForNextTickAsync(end).AsTask().ContinueWith(t => !t.IsCanceled && t.Result, TaskScheduler.Default);
}
