namespace Cursus.Web.Hosting;

/// <summary>
/// Computes what members ask for on as many threads as there are processors, from a queue of its own. Else a visitor, who is answered on the thread
/// pool as well, would wait behind all that members have asked for before.
/// </summary>
internal static class MemberThreads
{
    public static void UseMemberThreads(this IApplicationBuilder app)
    {
        // The pool must not hesitate to give visitors a thread while members hold theirs.
        ThreadPool.GetMinThreads(out var workers, out var completion);
        ThreadPool.SetMinThreads(Math.Max(workers, 2 * Environment.ProcessorCount), completion);
        var members = new ConcurrentExclusiveSchedulerPair(TaskScheduler.Default, Environment.ProcessorCount).ConcurrentScheduler;
        app.Use((context, next) => Task.Factory.StartNew(() => next(context), CancellationToken.None, TaskCreationOptions.None, members).Unwrap());
    }
}
