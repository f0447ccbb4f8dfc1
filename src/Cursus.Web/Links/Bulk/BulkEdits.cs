using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Cursus.Web.Runs;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links.Bulk;

/// <summary>/link-changes: one change made to many links, with a look at it first, progress, and ten minutes to take it back.</summary>
public static class BulkEdits
{
    private const int Shown = 8;

    private static readonly Duration UndoWithin = Duration.FromMinutes(10);
    private static readonly TimeSpan WaitedFor = TimeSpan.FromSeconds(1);

    /// <param name="IsGoodOnly">Whether to skip links that can't be changed; otherwise none is changed.</param>
    public sealed record Request(LinkSelection? Links, BulkEditRequest? Change, bool IsGoodOnly = false);

    /// <param name="Found">How many links it affects.</param>
    /// <param name="Changed">How many of them would be different.</param>
    /// <param name="Examples">The first few.</param>
    /// <param name="Refused">How many can't be changed.</param>
    /// <param name="Problems">The first few, with what is wrong.</param>
    /// <param name="RecentClicks">People's clicks on all of them in the last 30 days.</param>
    public sealed record Preview(
        int Found,
        int Changed,
        IReadOnlyList<Example> Examples,
        int Refused,
        IReadOnlyList<Problem> Problems,
        long RecentClicks
    );

    /// <param name="From">Old destination.</param>
    /// <param name="To">New destination; the same if it doesn't change.</param>
    public sealed record Example(Guid Id, string ShortUrl, string Title, string From, string To);

    /// <param name="Text">Why it can't be changed.</param>
    public sealed record Problem(Guid Id, string ShortUrl, string Text);

    /// <param name="State"><c>running</c>, <c>done</c>, <c>failed</c> or <c>undone</c>.</param>
    /// <param name="What">What was done, in words; null while running.</param>
    /// <param name="Links">How many links it changed.</param>
    /// <param name="Done">How many have been processed.</param>
    /// <param name="Total">How many there are.</param>
    /// <param name="Failure">Why nothing was saved.</param>
    /// <param name="UndoUntil">Until when it can be undone.</param>
    public sealed record Response(Guid Id, string State, string? What, int Links, int Done, int Total, string? Failure, Instant? UndoUntil);

    /// <param name="Links">Links that were restored.</param>
    /// <param name="ChangedSince">Links that someone has changed since; they were left as they are.</param>
    public sealed record Undone(int Links, int ChangedSince);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/link-changes", List).ForViewers().WithSummary("Bulk changes, newest first");
        api.MapPost("/link-changes", Start).ForEditors().WithSummary("Start a bulk change of links, all or none; poll it for progress");
        api.MapPost("/link-changes/preview", PreviewIt).ForEditors().WithSummary("Preview a bulk change");
        api.MapGet("/link-changes/{id:guid}", Get).ForViewers().WithSummary("One bulk change, during and after it runs");
        api.MapPost("/link-changes/{id:guid}/cancel", Cancel).ForEditors().WithSummary("Stop a running bulk change; no link is changed");
        api.MapPost("/link-changes/{id:guid}/undo", Undo).ForEditors().WithSummary("Undo a bulk change within ten minutes");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        return TypedResults.Ok(
            await page.Of(db.LinkChanges.Where(c => c.WorkspaceId == member.WorkspaceId).OrderByDescending(c => c.MadeAt), c => Of(c, now), cancel)
        );
    }

    private static async Task<Results<Ok<Preview>, ProblemHttpResult>> PreviewIt(
        Request request,
        CurrentMember member,
        CursusDb db,
        BulkEditRun many,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var ids = await (request.Links ?? new()).Find(db, member, clock.GetCurrentInstant(), errors, cancel);
        var rewriting = await LinkRewriting.Load(db, member, options, cancel);
        var change = await (request.Change ?? new()).Read(db, member, rewriting.Vocabulary, errors, cancel);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var (examples, problems, changed, refused) = (new List<Example>(), new List<Problem>(), 0, 0);
        await foreach (var outcome in many.Try(ids, change, rewriting).WithCancellation(cancel))
        {
            var address = options.ShortUrl(outcome.Link.Domain!.Name, outcome.Link.Slug);
            if (outcome.After is not { } after)
            {
                refused++;
                problems.AddRange(problems.Count < Shown ? [new Problem(outcome.Link.Id, address, outcome.Error!.Text)] : []);
            }
            else if (after.ToJson() != outcome.Before.ToJson())
            {
                changed++;
                examples.AddRange(
                    examples.Count < Shown ? [new Example(outcome.Link.Id, address, after.Title, outcome.Before.Destination, after.Destination)] : []
                );
            }
        }

        var today = clock.GetCurrentInstant().InZone(member.Zone).Date;
        var recent = await db.LinkDays.Where(d => ids.Contains(d.LinkId) && d.Day > today.PlusDays(-30)).SumAsync(d => (long)d.Clicks, cancel);
        return TypedResults.Ok(new Preview(ids.Count, changed, examples, refused, problems, recent));
    }

    private static async Task<Results<Accepted<Response>, ProblemHttpResult>> Start(
        Request request,
        CurrentMember member,
        CursusDb db,
        LongRuns runs,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        var ids = await (request.Links ?? new()).Find(db, member, clock.GetCurrentInstant(), errors, cancel);
        var edit = request.Change ?? new();
        await edit.Read(db, member, await Vocabulary.Load(db, member, options, cancel), errors, cancel);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var id = Guid.CreateVersion7();
        var run = runs.Start(id, member.WorkspaceId, ids.Count, "no link was changed", (services, run) =>
            services.GetRequiredService<BulkEditRun>().Change(id, ids, edit, request.IsGoodOnly, member, run)
        )!;
        await run.Over(WaitedFor);
        db.ChangeTracker.Clear();
        return TypedResults.Accepted($"/api/v1/link-changes/{id}", await Read(id, member, db, runs, clock, cancel));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LongRuns runs,
        IClock clock,
        CancellationToken cancel
    ) => await Read(id, member, db, runs, clock, cancel) is { } change ? TypedResults.Ok(change) : ApiProblem.NotFound("change");

    private static async Task<Results<NoContent, ProblemHttpResult>> Cancel(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LongRuns runs,
        CancellationToken cancel
    )
    {
        if (runs.Find(id) is { } run && run.WorkspaceId == member.WorkspaceId)
        {
            run.Cancel();
            return TypedResults.NoContent();
        }

        return await db.LinkChanges.AnyAsync(c => c.Id == id && c.WorkspaceId == member.WorkspaceId, cancel)
            ? ApiProblem.Conflict("change-done", "The links have already been changed. Undo the change instead.")
            : ApiProblem.NotFound("change");
    }

    private static async Task<Results<Ok<Undone>, ProblemHttpResult>> Undo(
        Guid id,
        CurrentMember member,
        CursusDb db,
        BulkEditRun many,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await db.LinkChanges.AsNoTracking().FirstOrDefaultAsync(c => c.Id == id && c.WorkspaceId == member.WorkspaceId, cancel) is not { } change)
        {
            return ApiProblem.NotFound("change");
        }

        if (change.UndoneAt is not null)
        {
            return ApiProblem.Conflict("change-undone", "This change has already been undone.");
        }

        if (clock.GetCurrentInstant() > change.MadeAt + UndoWithin)
        {
            return ApiProblem.Conflict(
                "too-late-to-undo",
                "A change can be undone for ten minutes. After that, restore earlier versions from each link’s history."
            );
        }

        var (undone, changedSince) = await many.Undo(change, member, cancel);
        return TypedResults.Ok(new Undone(undone, changedSince));
    }

    private static async Task<Response?> Read(Guid id, CurrentMember member, CursusDb db, LongRuns runs, IClock clock, CancellationToken cancel)
    {
        // A run is over when the edge knows the changed links as well, a moment after they are saved.
        var run = runs.Find(id) is { } found && found.WorkspaceId == member.WorkspaceId ? found : null;
        if (
            run is not { IsOver: false }
            && await db.LinkChanges.AsNoTracking().FirstOrDefaultAsync(c => c.Id == id && c.WorkspaceId == member.WorkspaceId, cancel) is { } change
        )
        {
            return Of(change, clock.GetCurrentInstant());
        }

        return run is null ? null : new Response(id, run.Failure is null ? "running" : "failed", null, 0, run.Done, run.Total, run.Failure, null);
    }

    private static Response Of(LinkChange change, Instant now)
    {
        var until = change.MadeAt + UndoWithin;
        return new(
            change.Id,
            change.UndoneAt is null ? "done" : "undone",
            change.What,
            change.Links,
            change.Links,
            change.Links,
            null,
            change.UndoneAt is null && now < until ? until : null
        );
    }
}
