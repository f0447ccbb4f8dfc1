using Cursus.Data.Clicks.Sums;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Problems;
using Cursus.Web.Runs;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Workspaces;

/// <summary>/workspace/time-zone: by whose clock days, weeks and hours are cut. Another one means that all days are counted anew, in the background;
/// reports show the old ones until that is done.</summary>
public static class TimeZoneChange
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(1);

    /// <param name="TimeZone">IANA name of the current time zone.</param>
    /// <param name="Next">The time zone that days are being counted again for; null if none.</param>
    /// <param name="Clicks">How many clicks are being counted again.</param>
    /// <param name="Counted">How many are done; nothing counts until all are.</param>
    /// <param name="Failure">Why the last change failed; null if it didn't.</param>
    public sealed record Response(string TimeZone, string? Next, int Clicks, int Counted, string? Failure);

    /// <param name="TimeZone">IANA name, such as <c>Europe/London</c>.</param>
    public sealed record Request(string? TimeZone);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/workspace/time-zone", Get).ForViewers().WithSummary("The time zone, and how far a change of it has come");
        api.MapPut("/workspace/time-zone", Start).ForOwners().WithSummary("Change the time zone: past days are counted again in the background");
        api.MapDelete("/workspace/time-zone/change", Cancel).ForOwners().WithSummary("Cancel a change of the time zone that is still being counted");
    }

    private static Ok<Response> Get(CurrentMember member, LongRuns runs) =>
        TypedResults.Ok(Of(member.Workspace.TimeZone, runs.Find(member.WorkspaceId)));

    private static async Task<Results<Accepted<Response>, Ok<Response>, ProblemHttpResult>> Start(
        Request request,
        CurrentMember member,
        RollUps rollUps,
        LongRuns runs,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (DateTimeZoneProviders.Tzdb.GetZoneOrNull(request.TimeZone ?? "") is not { } zone)
        {
            return ApiProblem.Invalid("timeZone", WorkspaceSettings.NoTimeZone);
        }

        if (zone.Id == member.Workspace.TimeZone)
        {
            return TypedResults.Ok(Of(zone.Id, null));
        }

        var (workspace, clicks) = (member.WorkspaceId, await rollUps.ClicksOf(member.WorkspaceId, cancel));
        var note = AuditTrail.Entry(
            member,
            clock.GetCurrentInstant(),
            AuditAction.SettingsChanged,
            "workspace",
            null,
            null,
            $"timeZone: {member.Workspace.TimeZone} → {zone.Id}"
        );
        var run = runs.Start(
            workspace,
            workspace,
            (int)Math.Min(clicks, int.MaxValue),
            "the time zone is as before",
            async (_, run) =>
            {
                await rollUps.ChangeZone(workspace, zone, note, run, run.Cancelled);
                await feed.CatchUp();
                return null;
            },
            zone.Id
        );
        if (run is null)
        {
            return ApiProblem.Conflict(
                "time-zone-changing",
                "Days are already being counted for another time zone. Wait until that is done, or cancel it."
            );
        }

        await run.Over(Patience);
        return run is { IsOver: true, Failure: null }
            ? TypedResults.Ok(Of(zone.Id, null))
            : TypedResults.Accepted("/api/v1/workspace/time-zone", Of(member.Workspace.TimeZone, run));
    }

    private static async Task<NoContent> Cancel(CurrentMember member, LongRuns runs)
    {
        if (runs.Find(member.WorkspaceId) is { IsOver: false } run)
        {
            run.Cancel();
            await run.Over(Patience);
        }

        return TypedResults.NoContent();
    }

    private static Response Of(string timeZone, LongRun? run) =>
        run switch
        {
            { IsOver: false } => new(timeZone, run.Subject, run.Total, Math.Min(run.Done, run.Total), null),
            { Failure: { } failure } => new(timeZone, null, run.Total, 0, failure),
            _ => new(timeZone, null, 0, 0, null),
        };
}
