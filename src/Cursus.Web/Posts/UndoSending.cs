using Cursus.Core.Batches;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Links.Bulk;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>
/// POST /posts/{id}/undo, /batches/{id}/undo and /links/{id}/undo: takes back what was saved a moment ago, as if it had never been. Its slugs are
/// free at once, since nobody has seen them; what somebody has clicked already can only be deleted. Links that a list took over become what they
/// were.
/// </summary>
public static class UndoSending
{
    /// <summary>Longer than the interface offers it, so that a slow network makes nobody too late.</summary>
    private static readonly Duration Within = Duration.FromMinutes(2);

    /// <summary>Many links take longer to look at.</summary>
    private static readonly Duration BatchWithin = Duration.FromMinutes(10);

    private const string Undone = "undone right after it was saved";

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/posts/{id:guid}/undo", UndoPost).ForEditors().WithSummary("Undo a post that was just saved");
        api.MapPost("/batches/{id:guid}/undo", UndoBatch).ForEditors().WithSummary("Undo all links just created from a list");
        api.MapPost("/links/{id:guid}/undo", UndoLink).ForEditors().WithSummary("Undo a link that was just created");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> UndoPost(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        var posts = db.Posts.Where(p => p.Id == id && p.WorkspaceId == member.WorkspaceId);
        return await posts.Select(p => new { p.CreatedAt, p.Title }).FirstOrDefaultAsync(cancel) is { } post
            ? await Undo(
                post.CreatedAt + Within,
                db.Links.Where(l => l.Placement!.PostId == id),
                () =>
                {
                    audit.Add(AuditAction.Deleted, "posts", id, post.Title, Undone);
                    return posts.ExecuteDeleteAsync(cancel);
                },
                db,
                feed,
                clock,
                cancel
            )
            : ApiProblem.NotFound("post");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> UndoLink(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        var links = db.Links.Where(l => l.Id == id && l.WorkspaceId == member.WorkspaceId && l.Placement == null);
        return await links.Select(l => new { l.CreatedAt, l.Title }).FirstOrDefaultAsync(cancel) is { } link
            ? await Undo(
                link.CreatedAt + Within,
                links,
                () =>
                {
                    audit.Add(AuditAction.Deleted, "links", id, link.Title, Undone);
                    return Task.CompletedTask;
                },
                db,
                feed,
                clock,
                cancel
            )
            : ApiProblem.NotFound("link");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> UndoBatch(
        Guid id,
        CurrentMember member,
        CursusDb db,
        BulkEditRun many,
        LinkFeed feed,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        var batches = db.Batches.Where(b => b.Id == id && b.WorkspaceId == member.WorkspaceId);
        var links = db.Links.Where(l => db.BatchLines.Any(b => b.BatchId == id && b.LinkId == l.Id && b.Outcome != LineOutcome.TakenOver));
        return await batches.Select(b => b.DoneAt).FirstOrDefaultAsync(cancel) is { } done
            ? await Undo(
                done + BatchWithin,
                links,
                async () =>
                {
                    audit.Add(AuditAction.Deleted, "batches", detail: Undone);
                    await db.Posts.Where(p => p.Placements.Any(placement => links.Contains(placement.Link!))).ExecuteDeleteAsync(cancel);
                    await many.Restore(id, member, cancel);
                    await db
                        .Folders.Where(f =>
                            batches.Any(b => b.FolderIds.Contains(f.Id)) && !db.Links.Any(l => l.FolderId == f.Id && !links.Contains(l))
                        )
                        .ExecuteDeleteAsync(cancel);
                    await batches.ExecuteDeleteAsync(cancel);
                },
                db,
                feed,
                clock,
                cancel
            )
            : ApiProblem.NotFound("batch whose links are made");
    }

    /// <param name="until">The last moment for it.</param>
    /// <param name="links">Those to take back.</param>
    /// <param name="alongside">Deletes what goes with them and refers to them, before they are deleted themselves.</param>
    private static async Task<Results<NoContent, ProblemHttpResult>> Undo(
        Instant until,
        IQueryable<Link> links,
        Func<Task> alongside,
        CursusDb db,
        LinkFeed feed,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (
            clock.GetCurrentInstant() > until
            || await db.LinkDays.AnyAsync(
                d => d.Clicks + d.Machines + d.Previews + d.Prefetches + d.Repeats + d.Heads > 0 && links.Any(l => l.Id == d.LinkId),
                cancel
            )
        )
        {
            return ApiProblem.Conflict(
                "too-late-to-undo",
                "These links may already be in use, so this can’t be undone. Delete them instead; their slugs stay reserved."
            );
        }

        var ids = await links.Select(l => l.Id).ToListAsync(cancel);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await alongside();
        await db.Links.Where(l => ids.Contains(l.Id)).ExecuteDeleteAsync(cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return TypedResults.NoContent();
    }
}
