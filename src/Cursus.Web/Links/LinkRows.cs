using System.Linq.Expressions;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Data.Checking;
using Cursus.Data.Links;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>A link with all that is told of it, as the database has it.</summary>
internal sealed class LinkRow
{
    public required Guid Id { get; init; }
    public required string Domain { get; init; }
    public required string Slug { get; init; }
    public required string Title { get; init; }
    public required string Destination { get; init; }
    public required string FinalUrl { get; init; }
    public required string? Source { get; init; }
    public required string? Medium { get; init; }
    public required string? Campaign { get; init; }
    public required string? Term { get; init; }
    public required string? Content { get; init; }
    public required string? Channel { get; init; }
    public required string? Variant { get; init; }
    public required short Redirect { get; init; }
    public required LinkOptions Options { get; init; }
    public required string? Note { get; init; }
    public required string? Folder { get; init; }
    public required Instant? DeletedAt { get; init; }
    public required Instant? SlugFreedAt { get; init; }
    public required List<string> Tags { get; init; }

    /// <summary>All that fire at its visits.</summary>
    public IReadOnlyList<FiringPixel> Pixels { get; set; } = [];

    public required Instant CreatedAt { get; init; }
    public required string? CreatedBy { get; init; }
    public required long Clicks { get; init; }
    public required LinkPost? Post { get; init; }
    public required Instant? LastClickAt { get; init; }
    public required List<AliasRow> Aliases { get; init; }
    public required int Version { get; init; }
    public required Instant? ArchivedAt { get; init; }
    public required Instant? ChangedAt { get; init; }
    public required string? ChangedBy { get; init; }
    public required string? Fallback { get; init; }
    public required Instant? OpensAt { get; init; }
    public required Instant? EndsAt { get; init; }

    /// <summary>Its rules; see <see cref="RouteText"/>.</summary>
    public required string? Route { get; init; }

    public required Guid? RouteId { get; init; }

    /// <summary>Where it stood in its time when it was read.</summary>
    public LinkStage Stage { get; set; }

    public required long? ImportedClicks { get; init; }

    /// <summary>The one that it leads to, where that is asked; as a list, since a database reads the one of fifty links by their keys so, and else
    /// all pages there are.</summary>
    public required List<CheckedPage> Pages { get; init; }

    public CheckedPage? Page => Pages.FirstOrDefault();
}

internal sealed record AliasRow(string Domain, string Slug);

/// <summary>Reads links with all that is told of them.</summary>
internal static class LinkRows
{
    /// <summary>In two queries: what fires for links is known quickest where their ids are.</summary>
    public static async Task<List<LinkRow>> Read(this IQueryable<Link> links, CursusDb db, Instant now, CancellationToken cancel)
    {
        var rows = await links.AsNoTracking().Select(Row(db)).ToListAsync(cancel);
        var ids = rows.ConvertAll(r => r.Id);
        var firing = await db
            .PixelsOfLinks.Where(p => ids.Contains(p.LinkId))
            .Join(
                db.Pixels,
                o => o.PixelId,
                p => p.Id,
                (o, p) =>
                    new
                    {
                        o.LinkId,
                        p.Id,
                        p.Name,
                        o.Place,
                    }
            )
            .OrderBy(p => p.Name)
            .ThenBy(p => p.Place)
            .ToListAsync(cancel);
        var ofLinks = firing.ToLookup(p => p.LinkId, p => new FiringPixel(p.Id, p.Name, p.Place));
        rows.ForEach(r => (r.Pixels, r.Stage) = ([.. ofLinks[r.Id]], new LinkSchedule(r.OpensAt, r.EndsAt).StageAt(now)));
        return rows;
    }

    private static Expression<Func<Link, LinkRow>> Row(CursusDb db) =>
        l => new LinkRow
        {
            Id = l.Id,
            Domain = l.Domain!.Name,
            Slug = l.Slug,
            Title = l.Title,
            Destination = l.Destination,
            FinalUrl = l.FinalUrl,
            Source = l.Source,
            Medium = l.Medium,
            Campaign = l.Campaign!.Key,
            Term = l.Term,
            Content = l.Content,
            Channel = l.Channel!.Key,
            Variant = l.Placement!.Variant,
            Redirect = l.Redirect,
            Options = l.Options,
            Note = l.Note,
            Folder = l.Folder!.Name,
            DeletedAt = l.DeletedAt,
            SlugFreedAt = l.SlugFreedAt,
            Tags = l.Tags.OrderBy(t => t.Name).Select(t => t.Name).ToList(),
            CreatedAt = l.CreatedAt,
            CreatedBy = db.Everybody.Where(m => m.Id == l.CreatedBy).Select(m => m.Account!.Name).FirstOrDefault(),
            Clicks = l.Total == null ? 0 : l.Total.Clicks,
            LastClickAt = l.Total == null ? null : l.Total.LastClickAt,
            Aliases = l.Aliases.OrderByDescending(a => a.CreatedAt).Select(a => new AliasRow(a.Domain!.Name, a.Slug)).ToList(),
            Version = l.Version,
            ArchivedAt = l.ArchivedAt,
            ChangedAt = l.ChangedAt,
            Fallback = l.Fallback,
            OpensAt = l.OpensAt,
            EndsAt = l.EndsAt,
            Route = l.Route,
            RouteId = l.RouteId,
            ImportedClicks = l.ImportedClicks,
            Pages = db.CheckedPages.Where(p => p.WorkspaceId == l.WorkspaceId && p.Key == l.PageKey).ToList(),
            ChangedBy = db.Everybody.Where(m => m.Id == l.ChangedBy).Select(m => m.Account!.Name).FirstOrDefault(),
            Post =
                l.Placement == null
                    ? null
                    : new LinkPost(l.Placement.Post!.Id, l.Placement.Post.Title, l.Placement.Post.Campaign!.Name, l.Placement.Post.PublishedOn),
        };
}
