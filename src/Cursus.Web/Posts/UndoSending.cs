using Cursus.Core.Clicks;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Web.Access;
using Cursus.Web.Edge;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>
/// POST /posts/{id}/undo and /links/{id}/undo: takes back what was saved a moment ago, as if it had never been. Its slugs are free at once, since
/// nobody has seen them; what somebody has clicked already can only be deleted.
/// </summary>
public static class UndoSending
{
    /// <summary>Longer than the interface offers it, so that a slow network makes nobody too late.</summary>
    private static readonly Duration Within = Duration.FromMinutes(2);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/posts/{id:guid}/undo", UndoPost).ForEditors().WithSummary("Take a post back that was just saved");
        api.MapPost("/links/{id:guid}/undo", UndoLink).ForEditors().WithSummary("Take a link without a post back that was just saved");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> UndoPost(Guid id, CurrentMember member, CursusDb db, LinkTable table, IClock clock, CancellationToken cancel)
    {
        if (await db.Posts.FirstOrDefaultAsync(p => p.Id == id && p.WorkspaceId == member.WorkspaceId, cancel) is not { } post)
        {
            return ApiProblem.NotFound("post");
        }

        var links = await db.Links.Include(l => l.Domain).Where(l => l.Placement!.PostId == id).ToListAsync(cancel);
        return await Undo(post.CreatedAt, links, [post], db, table, clock, cancel);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> UndoLink(Guid id, CurrentMember member, CursusDb db, LinkTable table, IClock clock, CancellationToken cancel)
    {
        var link = await db.Links.Include(l => l.Domain).FirstOrDefaultAsync(l => l.Id == id && l.WorkspaceId == member.WorkspaceId && l.Placement == null, cancel);
        return link is null ? ApiProblem.NotFound("link") : await Undo(link.CreatedAt, [link], [], db, table, clock, cancel);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Undo(
        Instant createdAt, List<Link> links, IEnumerable<object> alongside, CursusDb db, LinkTable table, IClock clock, CancellationToken cancel)
    {
        var ids = links.Select(l => l.Id).ToList();
        if (clock.GetCurrentInstant() - createdAt > Within || await db.LinkDays.AnyAsync(d => ids.Contains(d.LinkId) && d.Kind != ClickKind.Team, cancel))
        {
            return ApiProblem.Conflict("too-late-to-undo", "These links may be out in the world already, so they can't be taken back. Delete them instead; their slugs stay blocked.");
        }

        // The edge stops first: a click that came in between would have no link to count for.
        links.ForEach(l => table.Remove(l.Domain!.Name, l.SlugKey));
        db.RemoveRange(alongside);
        db.RemoveRange(links);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }
}
