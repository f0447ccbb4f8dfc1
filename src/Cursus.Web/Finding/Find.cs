using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Links;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Finding;

/// <summary>GET /find: a few links, posts and campaigns for words typed into the address bar.</summary>
public static class Find
{
    private const int Each = 5;

    /// <param name="Kind"><c>link</c>, <c>post</c> or <c>campaign</c>.</param>
    /// <param name="Key">Id of a link or post, key of a campaign.</param>
    /// <param name="Detail">What distinguishes it from others of the same name.</param>
    public sealed record Hit(string Kind, string Key, string Label, string Detail);

    public static void Map(IEndpointRouteBuilder api) => api.MapGet("/find", Handle).ForViewers().WithSummary("Search links, posts and campaigns");

    private static async Task<Ok<IReadOnlyList<Hit>>> Handle(string query, CurrentMember member, CursusDb db, IClock clock, CancellationToken cancel)
    {
        var words = query.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(Like.Contains).ToList();
        if (words.Count == 0)
        {
            return TypedResults.Ok<IReadOnlyList<Hit>>([]);
        }

        var posts = db.Posts.Where(p => p.WorkspaceId == member.WorkspaceId);
        var campaigns = db.Campaigns.Where(c => c.WorkspaceId == member.WorkspaceId);
        foreach (var word in words)
        {
            posts = posts.Where(p => EF.Functions.ILike(p.Title, word) || EF.Functions.ILike(p.Destination, word));
            campaigns = campaigns.Where(c => EF.Functions.ILike(c.Name, word) || EF.Functions.ILike(c.Key, word));
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var found = (await FoundLinks.Of(new LinkFilter(Query: query), db, member, clock.GetCurrentInstant(), new FieldErrors(), cancel))!;
        var links = LinkOrder.Best(found);
        List<Hit> hits =
        [
            .. await campaigns.OrderBy(c => c.Name).Take(Each).Select(c => new Hit("campaign", c.Key, c.Name, c.Key)).ToListAsync(cancel),
            .. await posts
                .OrderByDescending(p => p.PublishedOn)
                .Take(Each)
                .Select(p => new Hit("post", p.Id.ToString(), p.Title, p.Campaign!.Name))
                .ToListAsync(cancel),
            .. await links.Take(Each).Select(l => new Hit("link", l.Id.ToString(), l.Domain!.Name + "/" + l.Slug, l.Title)).ToListAsync(cancel),
        ];
        return TypedResults.Ok<IReadOnlyList<Hit>>(hits);
    }
}
