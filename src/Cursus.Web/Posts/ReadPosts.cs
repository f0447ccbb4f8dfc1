using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>GET /posts and /posts/{id}: posts with their links, newest first.</summary>
public static class ReadPosts
{
    /// <param name="Query">Words from the title, a slug or the destination.</param>
    /// <param name="Campaign">Key of a campaign.</param>
    /// <param name="Channel">Key of a channel that the post went to.</param>
    /// <param name="Tag">Name of a tag on any of its links.</param>
    public sealed record Filter(string? Query, string? Campaign, string? Channel, string? Tag);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/posts", List).ForViewers().WithSummary("Posts, newest first");
        api.MapGet("/posts/{id:guid}", Get).ForViewers().WithSummary("One post");
    }

    private static async Task<Ok<Page<PostResponse>>> List(
        [AsParameters] Filter filter,
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        var posts = db.Posts.Where(p => p.WorkspaceId == member.WorkspaceId && p.Placements.Any(x => x.Link!.DeletedAt == null));
        if (filter.Campaign is not null)
        {
            posts = posts.Where(p => p.Campaign!.Key == filter.Campaign);
        }

        if (filter.Channel is not null)
        {
            posts = posts.Where(p => p.Placements.Any(x => x.Link!.Channel!.Key == filter.Channel));
        }

        if (filter.Tag is not null)
        {
            posts = posts.Where(p => p.Placements.Any(x => x.Link!.Tags.Any(t => t.Name == filter.Tag)));
        }

        foreach (var word in (filter.Query ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            var pattern = Like.Contains(word);
            posts = posts.Where(p =>
                EF.Functions.ILike(p.Title, pattern)
                || EF.Functions.ILike(p.Destination, pattern)
                || EF.Functions.ILike(p.Campaign!.Name, pattern)
                || p.Placements.Any(x => EF.Functions.ILike(x.Link!.Slug, pattern))
            );
        }

        var found = await page.Of(posts.OrderByDescending(p => p.PublishedOn).ThenByDescending(p => p.Id).Select(p => p.Id), id => id, cancel);
        var read = (
            await PostResponse.Read(db.Posts.Where(p => found.Items.Contains(p.Id)), db, options, clock.GetCurrentInstant(), cancel)
        ).ToDictionary(p => p.Id);
        return TypedResults.Ok(new Page<PostResponse>([.. found.Items.Select(id => read[id])], found.NextCursor, found.Total));
    }

    private static async Task<Results<Ok<PostResponse>, ProblemHttpResult>> Get(
        Guid id,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        var post = await PostResponse.Read(
            db.Posts.Where(p => p.Id == id && p.WorkspaceId == member.WorkspaceId),
            db,
            options,
            clock.GetCurrentInstant(),
            cancel
        );
        return post is [var found] ? TypedResults.Ok(found) : ApiProblem.NotFound("post");
    }
}
