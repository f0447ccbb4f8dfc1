using Cursus.Data.Links;

namespace Cursus.Web.Links;

/// <summary>In which order links are listed.</summary>
internal static class LinkOrder
{
    public const string Names = "best, newest, oldest, title, address, destination, channel, campaign, clicks, last-click or changed, the other way round with a minus before it";

    /// <summary>The links in the order that is asked for: by how well they fit where words were typed, else the newest first. Null where there is no such order.</summary>
    public static IQueryable<Link>? By(string? order, FoundLinks found)
    {
        var links = found.Links;
        return order switch
        {
            null or "best" when found.Words.Count > 0 => links.BestFirst(found.Typed, found.Words, found.IsNear),
            null or "best" or "newest" or "-oldest" => links.OrderByDescending(l => l.CreatedAt).ThenByDescending(l => l.Placement!.Post!.CreatedAt).WithinPosts(),
            "oldest" or "-newest" => links.OrderBy(l => l.CreatedAt).ThenBy(l => l.Placement!.Post!.CreatedAt).WithinPosts(),
            "title" => links.OrderBy(l => l.Title).ThenBy(l => l.CreatedAt).WithinPosts(),
            "-title" => links.OrderByDescending(l => l.Title).ThenByDescending(l => l.CreatedAt).WithinPosts(),
            "address" => links.OrderBy(l => l.Domain!.Name).ThenBy(l => l.SlugKey),
            "-address" => links.OrderByDescending(l => l.Domain!.Name).ThenByDescending(l => l.SlugKey),
            "destination" => links.OrderBy(l => l.Destination).ThenBy(l => l.CreatedAt).WithinPosts(),
            "-destination" => links.OrderByDescending(l => l.Destination).ThenByDescending(l => l.CreatedAt).WithinPosts(),
            "channel" => links.OrderBy(l => l.Channel == null).ThenBy(l => l.Channel!.Name).ThenByDescending(l => l.CreatedAt).ThenBy(l => l.Id),
            "-channel" => links.OrderBy(l => l.Channel == null).ThenByDescending(l => l.Channel!.Name).ThenByDescending(l => l.CreatedAt).ThenBy(l => l.Id),
            "campaign" => links.OrderBy(l => l.Campaign == null).ThenBy(l => l.Campaign!.Name).ThenByDescending(l => l.CreatedAt).WithinPosts(),
            "-campaign" => links.OrderBy(l => l.Campaign == null).ThenByDescending(l => l.Campaign!.Name).ThenByDescending(l => l.CreatedAt).WithinPosts(),
            "clicks" => links.OrderByDescending(l => l.Total == null ? 0 : l.Total.Clicks).ThenByDescending(l => l.Id),
            "-clicks" => links.OrderBy(l => l.Total == null ? 0 : l.Total.Clicks).ThenByDescending(l => l.Id),
            "last-click" => links.OrderBy(l => l.Total == null).ThenByDescending(l => l.Total!.LastClickAt).ThenByDescending(l => l.Id),
            "-last-click" => links.OrderBy(l => l.Total == null).ThenBy(l => l.Total!.LastClickAt).ThenByDescending(l => l.Id),
            "changed" => links.OrderByDescending(l => l.ChangedAt ?? l.CreatedAt).ThenByDescending(l => l.Id),
            "-changed" => links.OrderBy(l => l.ChangedAt ?? l.CreatedAt).ThenByDescending(l => l.Id),
            _ => null,
        };
    }

    /// <summary>Links of one post stand together, in the order of its placements.</summary>
    private static IQueryable<Link> WithinPosts(this IOrderedQueryable<Link> links) =>
        links.ThenBy(l => l.Placement!.PostId).ThenBy(l => l.Placement!.Position).ThenBy(l => l.Title).ThenBy(l => l.Id);
}
