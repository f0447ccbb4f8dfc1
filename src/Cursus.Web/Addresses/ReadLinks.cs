using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Web.Access;
using Cursus.Web.Edge;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Addresses;

/// <summary>GET /links, /links/{id} and /links/{id}/open.</summary>
public static class ReadLinks
{
    /// <param name="Query">Words of title, slug, destination or campaign.</param>
    /// <param name="Tag">Name of a tag.</param>
    /// <param name="Campaign">Key of a campaign.</param>
    /// <param name="Channel">Key of a channel.</param>
    /// <param name="Domain">Name of a short domain.</param>
    /// <param name="Folder">Name of a folder.</param>
    /// <param name="Batch">Id of a batch that made them.</param>
    /// <param name="State"><c>live</c> (default), <c>never-clicked</c> or <c>deleted</c>.</param>
    /// <param name="Sort"><c>newest</c> (default), <c>oldest</c>, <c>clicks</c> or <c>title</c>.</param>
    public sealed record Filter(string? Query, string? Tag, string? Campaign, string? Channel, string? Domain, string? Folder, Guid? Batch, string? State, string? Sort);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/links", List).ForViewers().WithSummary("Links");
        api.MapGet("/links/{id:guid}", Get).ForViewers().WithSummary("One link, deleted ones included");
        api.MapGet("/links/{id:guid}/open", Open).ForViewers().WithSummary("Open a link without its being counted");
    }

    private static async Task<Results<Ok<Page<LinkResponse>>, ProblemHttpResult>> List(
        [AsParameters] Filter filter, [AsParameters] PageRequest page, CurrentMember member, CursusDb db, CursusOptions options, CancellationToken cancel)
    {
        var links = Matching(db.Links.Where(l => l.WorkspaceId == member.WorkspaceId && (filter.State == "deleted" ? l.DeletedAt != null : l.DeletedAt == null)), filter, db);
        if (filter.State is "never-clicked")
        {
            links = links.Where(l => !db.LinkDays.Any(d => d.LinkId == l.Id && d.Clicks > 0));
        }
        else if (filter.State is not (null or "live" or "deleted"))
        {
            return ApiProblem.Invalid("state", new Flaw("state", "A state is live, never-clicked or deleted."));
        }

        if (Sorted(links, filter.Sort, db) is not { } sorted)
        {
            return ApiProblem.Invalid("sort", new Flaw("sort", "Links are sorted by newest, oldest, clicks or title."));
        }

        return TypedResults.Ok(await page.Of(sorted.Select(LinkResponse.Read(db)), row => LinkResponse.Of(row, options), cancel));
    }

    private static async Task<Results<Ok<LinkResponse>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CursusOptions options, CancellationToken cancel) =>
        await db.Links.Where(l => l.Id == id && l.WorkspaceId == member.WorkspaceId).Select(LinkResponse.Read(db)).SingleOrDefaultAsync(cancel) is { } link
            ? TypedResults.Ok(LinkResponse.Of(link, options))
            : ApiProblem.NotFound("link");

    private static async Task<Results<RedirectHttpResult, ProblemHttpResult>> Open(
        Guid id, CurrentMember member, CursusDb db, TeamMark mark, CursusOptions options, CancellationToken cancel)
    {
        var link = await db.Links.Where(l => l.Id == id && l.WorkspaceId == member.WorkspaceId && l.DeletedAt == null)
            .Select(l => new { l.Domain!.Name, l.Slug }).SingleOrDefaultAsync(cancel);
        return link is null ? ApiProblem.NotFound("link") : TypedResults.Redirect(mark.OpeningUrl(options.ShortUrl(link.Name, link.Slug), member.WorkspaceId));
    }

    private static IQueryable<Link> Matching(IQueryable<Link> links, Filter filter, CursusDb db)
    {
        links = filter.Tag is null ? links : links.Where(l => l.Tags.Any(t => t.Name == filter.Tag));
        links = filter.Campaign is null ? links : links.Where(l => l.Campaign!.Key == filter.Campaign);
        links = filter.Channel is null ? links : links.Where(l => l.Channel!.Key == filter.Channel);
        links = filter.Domain is null ? links : links.Where(l => l.Domain!.Name == filter.Domain);
        links = filter.Folder is null ? links : links.Where(l => l.Folder!.Name == filter.Folder);
        links = filter.Batch is null ? links : links.Where(l => db.BatchLines.Any(b => b.BatchId == filter.Batch && b.LinkId == l.Id));
        foreach (var word in (filter.Query ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var pattern = Like.Contains(word);
            links = links.Where(l => EF.Functions.ILike(l.Title, pattern) || EF.Functions.ILike(l.Slug, pattern)
                || EF.Functions.ILike(l.Destination, pattern) || EF.Functions.ILike(l.Campaign!.Name, pattern));
        }

        return links;
    }

    private static IQueryable<Link>? Sorted(IQueryable<Link> links, string? sort, CursusDb db) => sort switch
    {
        null or "newest" => links.OrderByDescending(l => l.CreatedAt).ThenByDescending(l => l.Placement!.Post!.CreatedAt).ThenBy(l => l.Placement!.PostId)
            .ThenBy(l => l.Placement!.Position).ThenBy(l => l.Title),
        "oldest" => links.OrderBy(l => l.CreatedAt).ThenBy(l => l.Placement!.Post!.CreatedAt).ThenBy(l => l.Placement!.PostId)
            .ThenBy(l => l.Placement!.Position).ThenBy(l => l.Title),
        "clicks" => links.OrderByDescending(l => db.LinkDays.Where(d => d.LinkId == l.Id).Sum(d => (long)d.Clicks)).ThenByDescending(l => l.Id),
        "title" => links.OrderBy(l => l.Title).ThenBy(l => l.CreatedAt).ThenBy(l => l.Placement!.PostId).ThenBy(l => l.Placement!.Position),
        _ => null,
    };
}
