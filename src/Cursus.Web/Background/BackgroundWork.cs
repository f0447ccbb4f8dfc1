using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using Quartz;
using Quartz.Extensibility;

namespace Cursus.Web.Background;

/// <summary>GET /background-work: what the installation does by itself, when it did so last, and what came of it.</summary>
public static class BackgroundWork
{
    /// <param name="IsOn">False if this process takes no part in background work, so that nothing is known.</param>
    public sealed record Response(bool IsOn, IReadOnlyList<Work> Items);

    /// <param name="What">What it does.</param>
    /// <param name="EverySeconds">From one run to the next.</param>
    /// <param name="LastRanAt">When the last run began; null before the first.</param>
    /// <param name="TookMilliseconds">How long it took.</param>
    /// <param name="NextAt">When the next run begins; null if none is planned.</param>
    /// <param name="FailedTimes">How many runs in a row have failed, up to the last; 0 if that went well.</param>
    /// <param name="Failure">Why the last run failed; null if it went well.</param>
    /// <param name="LastSucceededAt">When the last good run began.</param>
    public sealed record Work(
        string Key,
        string Name,
        string What,
        int EverySeconds,
        Instant? LastRanAt,
        long? TookMilliseconds,
        Instant? NextAt,
        int FailedTimes,
        string? Failure,
        Instant? LastSucceededAt
    );

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/background-work", Handle).ForOwners().WithSummary("What runs in the background, and how it went");

    private static async Task<Ok<Response>> Handle(IEnumerable<RegularWork> all, IServiceProvider services, CancellationToken cancel)
    {
        if (services.GetService<ISchedulerFactory>() is not { } factory || services.GetService<IExecutionHistoryStore>() is not { } history)
        {
            return TypedResults.Ok(new Response(false, []));
        }

        var scheduler = await factory.GetScheduler(cancel);
        var works = new List<Work>();
        foreach (var work in all)
        {
            var status = await history.GetJobRunStatus(scheduler.SchedulerName, new JobKey(work.Key), cancel);
            var trigger = await scheduler.GetTrigger(new TriggerKey(work.Key), cancel);
            works.Add(Of(work, status, trigger?.NextFireTimeUtc));
        }

        return TypedResults.Ok(new Response(true, works));
    }

    private static Work Of(RegularWork work, JobRunStatus? status, DateTimeOffset? next) =>
        new(
            work.Key,
            work.Name,
            work.What,
            (int)work.Every.TotalSeconds,
            At(status?.LastFiredAtUtc),
            (long?)status?.LastDuration.TotalMilliseconds,
            At(next),
            status?.ConsecutiveFailures ?? 0,
            status is { ConsecutiveFailures: > 0 } ? status.LastFailureMessage : null,
            At(status?.LastSucceededAtUtc)
        );

    private static Instant? At(DateTimeOffset? time) => time is { } at ? Instant.FromDateTimeOffset(at) : null;
}
