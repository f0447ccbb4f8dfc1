using Cursus.Core;
using Cursus.Data;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>GET /links, /links/{id} and /links/{id}/open.</summary>
public static class ReadLinks
{
    /// <param name="IsNear">Whether these are only similar matches, because no link has the words as typed.</param>
    public sealed record Found(IReadOnlyList<LinkResponse> Items, string? NextCursor, int Total, bool IsNear);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/links", List).ForViewers().WithSummary("Links");
        api.MapGet("/links/{id:guid}", Get).ForViewers().WithSummary("One link, deleted ones included");
        api.MapGet("/links/{id:guid}/open", Open).ForViewers().WithSummary("Open a link without counting");
    }

    /// <param name="sort">In which order; see <see cref="LinkOrder"/>.</param>
    private static async Task<Results<Ok<Found>, ProblemHttpResult>> List(
        [AsParameters] LinkFilter filter,
        string? sort,
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var (errors, now) = (new FieldErrors(), clock.GetCurrentInstant());
        if (await FoundLinks.Of(filter, db, member, now, errors, cancel) is not { } found)
        {
            return ApiProblem.Invalid(errors);
        }

        var today = now.InZone(member.Zone).Date;
        if (LinkOrder.By(sort, found, db, now, today) is not { } sorted)
        {
            return ApiProblem.Invalid("sort", new ValidationError("sort", $"Links are sorted by {LinkOrder.Names}."));
        }

        // Sorting narrow rows and reading the page's links by their ids takes a fraction of sorting all that is to be shown.
        // What words find is looked for once, since looking costs more than the ids; all links there are, are counted instead.
        var order = sorted.Select(l => l.Id);
        var ids = found.Words.Count > 0 ? page.Of(await order.ToListAsync(cancel)) : await page.Of(order, id => id, cancel);
        var rows = (await db.Links.Where(l => ids.Items.Contains(l.Id)).Read(db, now, cancel)).ToDictionary(l => l.Id);
        var courses = await LinkCourses.Of(ids.Items, today, db, cancel);
        return TypedResults.Ok(
            new Found([.. ids.Items.Select(id => LinkResponse.Of(rows[id], options, courses))], ids.NextCursor, ids.Total, found.IsNear)
        );
    }

    private static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Get(
        Guid id,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        IClock clock,
        HttpResponse response,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if ((await db.Links.Where(l => l.Id == id && l.WorkspaceId == member.WorkspaceId).Read(db, now, cancel)).SingleOrDefault() is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        response.Headers.ETag = SeenVersion.Tag(link.Version);
        return TypedResults.Ok(LinkResponse.Of(link, options, await LinkCourses.Of([id], now.InZone(member.Zone).Date, db, cancel)));
    }

    private static async Task<Results<RedirectHttpResult, ProblemHttpResult>> Open(
        Guid id,
        CurrentMember member,
        CursusDb db,
        TeamMark mark,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        var link = await db
            .Links.Where(l => l.Id == id && l.WorkspaceId == member.WorkspaceId && l.DeletedAt == null)
            .Select(l => new { l.Domain!.Name, l.Slug })
            .SingleOrDefaultAsync(cancel);
        return link is null
            ? ApiProblem.NotFound("link")
            : TypedResults.Redirect(mark.OpeningUrl(options.ShortUrl(link.Name, link.Slug), member.WorkspaceId));
    }
}
