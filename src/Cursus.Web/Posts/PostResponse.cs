using Cursus.Data;
using Cursus.Web.Hosting;
using Cursus.Web.Links;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <param name="Campaign">The campaign's key.</param>
/// <param name="Clicks">People's clicks on all its links, all time.</param>
public sealed record PostResponse(
    Guid Id,
    string Title,
    string Destination,
    string Campaign,
    LocalDate PublishedOn,
    Instant CreatedAt,
    long Clicks,
    IReadOnlyList<PlacementResponse> Placements
)
{
    /// <summary>Reads posts of a workspace with their links, newest first.</summary>
    internal static async Task<IReadOnlyList<PostResponse>> Read(
        IQueryable<Data.Posts.Post> posts,
        CursusDb db,
        CursusOptions options,
        Instant now,
        CancellationToken cancel
    )
    {
        var found = await posts.Include(p => p.Campaign).Include(p => p.Placements).AsNoTracking().ToListAsync(cancel);
        var linkIds = found.SelectMany(p => p.Placements).Select(p => p.LinkId).ToList();
        var links = (await db.Links.Where(l => linkIds.Contains(l.Id) && l.DeletedAt == null).Read(db, now, cancel)).ToDictionary(l => l.Id);
        return
        [
            .. found.Select(post =>
            {
                var placements = post
                    .Placements.Where(p => links.ContainsKey(p.LinkId))
                    .OrderBy(p => p.Position)
                    .Select(p => new PlacementResponse(p.Id, links[p.LinkId].Channel!, p.Variant, LinkResponse.Of(links[p.LinkId], options)))
                    .ToList();
                return new PostResponse(
                    post.Id,
                    post.Title,
                    post.Destination,
                    post.Campaign!.Key,
                    post.PublishedOn,
                    post.CreatedAt,
                    placements.Sum(p => p.Link.Clicks),
                    placements
                );
            }),
        ];
    }
}

/// <param name="Channel">The channel's key.</param>
public sealed record PlacementResponse(Guid Id, string Channel, string? Variant, LinkResponse Link);
