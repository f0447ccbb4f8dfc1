using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Checking;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>In which order links are listed.</summary>
internal static class LinkOrder
{
    public const string Names =
        "best, newest, oldest, title, address, destination, channel, campaign, tags, clicks, recent-clicks, last-click, state or changed, prefixed with a minus for descending order";

    /// <summary>The links in the order that is asked for: by how well they fit where words were typed, else the newest first. Null where there is no
    /// such order.</summary>
    /// <param name="today">By the workspace's clock, where the clicks of the last thirty days end.</param>
    public static IQueryable<Link>? By(string? order, FoundLinks found, CursusDb db, Instant now, LocalDate today)
    {
        var links = found.Links;
        return order switch
        {
            null or "best" => Best(found),
            "newest" or "-oldest" => links.NewestFirst(),
            "oldest" or "-newest" => links.OrderBy(l => l.CreatedAt).ThenBy(l => l.Placement!.Post!.CreatedAt).WithinPosts(),
            "title" => links.OrderBy(l => l.Title).ThenBy(l => l.CreatedAt).WithinPosts(),
            "-title" => links.OrderByDescending(l => l.Title).ThenByDescending(l => l.CreatedAt).WithinPosts(),
            "address" => links.OrderBy(l => l.Domain!.Name).ThenBy(l => l.SlugKey),
            "-address" => links.OrderByDescending(l => l.Domain!.Name).ThenByDescending(l => l.SlugKey),
            "destination" => links.OrderBy(l => l.Destination).ThenBy(l => l.CreatedAt).WithinPosts(),
            "-destination" => links.OrderByDescending(l => l.Destination).ThenByDescending(l => l.CreatedAt).WithinPosts(),
            "channel" => links.OrderBy(l => l.Channel == null).ThenBy(l => l.Channel!.Name).ThenByDescending(l => l.CreatedAt).ThenBy(l => l.Id),
            "-channel" => links
                .OrderBy(l => l.Channel == null)
                .ThenByDescending(l => l.Channel!.Name)
                .ThenByDescending(l => l.CreatedAt)
                .ThenBy(l => l.Id),
            "campaign" => links.OrderBy(l => l.Campaign == null).ThenBy(l => l.Campaign!.Name).ThenByDescending(l => l.CreatedAt).WithinPosts(),
            "-campaign" => links
                .OrderBy(l => l.Campaign == null)
                .ThenByDescending(l => l.Campaign!.Name)
                .ThenByDescending(l => l.CreatedAt)
                .WithinPosts(),
            "tags" => links.OrderBy(l => l.Tags.Count == 0).ThenBy(l => l.Tags.Min(t => t.Name)).ThenByDescending(l => l.CreatedAt).WithinPosts(),
            "-tags" => links
                .OrderBy(l => l.Tags.Count == 0)
                .ThenByDescending(l => l.Tags.Min(t => t.Name))
                .ThenByDescending(l => l.CreatedAt)
                .WithinPosts(),
            "clicks" => links.OrderByDescending(l => l.Total == null ? 0 : l.Total.Clicks).ThenByDescending(l => l.Id),
            "-clicks" => links.OrderBy(l => l.Total == null ? 0 : l.Total.Clicks).ThenByDescending(l => l.Id),
            "recent-clicks" => links.WithRecent(db, today).OrderByDescending(r => r.Clicks).ThenByDescending(r => r.Link.Id).Select(r => r.Link),
            "-recent-clicks" => links.WithRecent(db, today).OrderBy(r => r.Clicks).ThenByDescending(r => r.Link.Id).Select(r => r.Link),
            "last-click" => links.OrderBy(l => l.Total == null).ThenByDescending(l => l.Total!.LastClickAt).ThenByDescending(l => l.Id),
            "-last-click" => links.OrderBy(l => l.Total == null).ThenBy(l => l.Total!.LastClickAt).ThenByDescending(l => l.Id),
            "state" => links
                .WithUrgency(db, now)
                .OrderBy(r => r.Urgency)
                .ThenByDescending(r => r.Link.CreatedAt)
                .ThenByDescending(r => r.Link.Id)
                .Select(r => r.Link),
            "-state" => links
                .WithUrgency(db, now)
                .OrderByDescending(r => r.Urgency)
                .ThenByDescending(r => r.Link.CreatedAt)
                .ThenByDescending(r => r.Link.Id)
                .Select(r => r.Link),
            "changed" => links.OrderByDescending(l => l.ChangedAt ?? l.CreatedAt).ThenByDescending(l => l.Id),
            "-changed" => links.OrderBy(l => l.ChangedAt ?? l.CreatedAt).ThenByDescending(l => l.Id),
            _ => null,
        };
    }

    /// <summary>By how well they fit where words were typed, else the newest first.</summary>
    public static IQueryable<Link> Best(FoundLinks found) =>
        found.Words.Count > 0 ? found.Links.BestFirst(found.Typed, found.Words, found.IsNear) : found.Links.NewestFirst();

    private static IQueryable<Link> NewestFirst(this IQueryable<Link> links) =>
        links.OrderByDescending(l => l.CreatedAt).ThenByDescending(l => l.Placement!.Post!.CreatedAt).WithinPosts();

    /// <summary>The links with people's clicks of the last thirty days, summed up once for all of them.</summary>
    private static IQueryable<Recent> WithRecent(this IQueryable<Link> links, CursusDb db, LocalDate today)
    {
        var recent = db
            .LinkDays.Where(d => d.Day > today.PlusDays(-LinkCourses.Days))
            .GroupBy(d => d.LinkId)
            .Select(g => new { LinkId = g.Key, Clicks = g.Sum(d => d.Clicks) });
        return links
            .GroupJoin(recent, l => l.Id, r => r.LinkId, (l, r) => new { l, r })
            .SelectMany(x => x.r.DefaultIfEmpty(), (x, r) => new Recent { Link = x.l, Clicks = (int?)r!.Clicks ?? 0 });
    }

    /// <summary>The links with how much their state asks for somebody: those that lead to dead pages first, then those never clicked, live,
    /// scheduled, ended, archived and deleted ones.</summary>
    private static IQueryable<Urgent> WithUrgency(this IQueryable<Link> links, CursusDb db, Instant now)
    {
        var dead = CarePages.Dead(db);
        return links.Select(l => new Urgent
        {
            Link = l,
            Urgency =
                l.DeletedAt != null ? 6
                : l.EndsAt <= now ? 4
                : l.OpensAt > now ? 3
                : dead.Any(p => p.WorkspaceId == l.WorkspaceId && p.Key == l.PageKey) ? 0
                : l.ArchivedAt != null ? 5
                : l.Total == null ? 1
                : 2,
        });
    }

    private sealed class Recent
    {
        public required Link Link { get; init; }
        public required int Clicks { get; init; }
    }

    private sealed class Urgent
    {
        public required Link Link { get; init; }
        public required int Urgency { get; init; }
    }

    /// <summary>Links of one post stand together, in the order of its placements.</summary>
    private static IQueryable<Link> WithinPosts(this IOrderedQueryable<Link> links) =>
        links.ThenBy(l => l.Placement!.PostId).ThenBy(l => l.Placement!.Position).ThenBy(l => l.Title).ThenBy(l => l.Id);
}
