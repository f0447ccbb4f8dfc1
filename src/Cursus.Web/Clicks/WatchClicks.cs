using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using Cursus.Web.Access;
using Microsoft.AspNetCore.Http.HttpResults;
using Npgsql;

namespace Cursus.Web.Clicks;

/// <summary>
/// GET /clicks/live: server-sent events (HTML Standard, section 9.2). <c>recent</c> says how many people clicked in the last ten minutes, again every
/// quarter of a minute, so that both ends notice a dead connection; <c>arrivals</c> says what came meanwhile.
/// </summary>
public static class WatchClicks
{
    private const int Minutes = 10;
    private static readonly TimeSpan CountAgain = TimeSpan.FromSeconds(15);

    /// <param name="People">People's clicks in the last <paramref name="Minutes"/> minutes.</param>
    public sealed record RecentClicks(int Minutes, long People);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/clicks/live", Handle)
            .ForViewers()
            .Holding(Held.Stream)
            .Produces<Arrivals>(contentType: "text/event-stream")
            .WithSummary("Clicks as they arrive, as server-sent events");

    private static ServerSentEventsResult<object> Handle(
        CurrentMember member,
        LiveClicks live,
        NpgsqlDataSource database,
        IHostApplicationLifetime lifetime,
        CancellationToken aborted
    ) => TypedResults.ServerSentEvents(Events(member.WorkspaceId, live, database, lifetime.ApplicationStopping, aborted));

    private static async IAsyncEnumerable<SseItem<object>> Events(
        Guid workspaceId,
        LiveClicks live,
        NpgsqlDataSource database,
        CancellationToken stopping,
        [EnumeratorCancellation] CancellationToken aborted
    )
    {
        using var ended = CancellationTokenSource.CreateLinkedTokenSource(stopping, aborted);

        // Watched before the recent ones are counted, so that none falls between.
        using var watch = live.Begin(workspaceId);
        while (!ended.IsCancellationRequested)
        {
            yield return new SseItem<object>(new RecentClicks(Minutes, await CountRecent(workspaceId, database, ended.Token)), "recent");
            using var quiet = CancellationTokenSource.CreateLinkedTokenSource(ended.Token);
            quiet.CancelAfter(CountAgain);
            while (await NextOf(watch, quiet.Token) is { } arrivals)
            {
                yield return new SseItem<object>(arrivals, "arrivals");
            }
        }
    }

    /// <summary>What arrives next; null where nothing did until cancelled.</summary>
    private static async Task<Arrivals?> NextOf(LiveClicks.Watch watch, CancellationToken cancel)
    {
        try
        {
            return await watch.Arrivals.ReadAsync(cancel);
        }
        catch (OperationCanceledException)
        {
            return null;
        }
    }

    private static async Task<long> CountRecent(Guid workspaceId, NpgsqlDataSource database, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            "select count(*) from clicks c join links l on l.id = c.link_id where l.workspace_id = $1 and c.kind = 0 and c.at > now() - make_interval(mins => $2)"
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = Minutes });
        return (long)(await command.ExecuteScalarAsync(cancel))!;
    }
}
