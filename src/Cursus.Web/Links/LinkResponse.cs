using System.Linq.Expressions;
using Cursus.Data;
using Cursus.Data.Checking;
using Cursus.Data.Links;
using Cursus.Web.Addresses;
using Cursus.Web.Checking;
using Cursus.Web.Hosting;
using NodaTime;

namespace Cursus.Web.Links;

/// <param name="ShortUrl">The address people follow.</param>
/// <param name="Destination">As entered.</param>
/// <param name="FinalUrl">Where visitors are sent: the destination with its tags.</param>
/// <param name="Redirect">HTTP status: 301, 302, 307 or 308.</param>
/// <param name="Clicks">People's clicks, all time.</param>
/// <param name="Post">The post this link is a placement of, if any.</param>
/// <param name="BlockedUntil">Until when the slug of a deleted link is kept for it; null for a live link, or where it has been given away.</param>
/// <param name="Pixels">Ids of its own retargeting pixels.</param>
/// <param name="FiringPixels">All pixels that fire at its visits, with where they are attached.</param>
/// <param name="LastClickAt">When a person clicked last.</param>
/// <param name="Course">People's clicks of the last thirty days, today's last; only where links are read.</param>
/// <param name="Aliases">Short addresses that it had before, under which it is still found.</param>
/// <param name="Version">How often it was made or changed; the ETag of its answers.</param>
/// <param name="Fallback">Where visitors are led while the destination is dead, if the link has one of its own.</param>
/// <param name="Check">What the link check knows of the destination; null where it is not asked.</param>
/// <param name="BroughtAlong">Clicks that were counted elsewhere, before it came to Cursus; never part of <paramref name="Clicks"/>.</param>
/// <param name="State">What is to be known of it at a glance.</param>
/// <param name="Variant">Tells two placements of one post in one channel apart.</param>
public sealed record LinkResponse(
    Guid Id, string ShortUrl, string Domain, string Slug, string Title, string Destination, string FinalUrl,
    string? Source, string? Medium, string? Campaign, string? Term, string? Content, string? Channel, string? Variant,
    int Redirect, IReadOnlyList<string> Tags, IReadOnlyList<Guid> Pixels, Instant CreatedAt, string? CreatedBy, long Clicks, LinkPost? Post,
    LinkOptions Options, string? Note, string? Folder, Instant? DeletedAt, Instant? BlockedUntil, IReadOnlyList<FiringPixel> FiringPixels,
    Instant? LastClickAt, IReadOnlyList<int>? Course, IReadOnlyList<string> Aliases, int Version, Instant? ArchivedAt, Instant? ChangedAt, string? ChangedBy,
    string? Fallback, LinkCheckOf? Check, StateOfLink State, long? BroughtAlong)
{
    /// <summary>How links are read from the database, all in one query.</summary>
    internal static Expression<Func<Link, Row>> Read(CursusDb db) => l => new Row
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
        Pixels = db.PixelsOfLinks.Where(p => p.LinkId == l.Id).Join(db.Pixels, o => o.PixelId, p => p.Id, (o, p) => new { p.Id, p.Name, o.Place })
            .OrderBy(p => p.Name).ThenBy(p => p.Place).Select(p => new FiringPixel(p.Id, p.Name, p.Place)).ToList(),
        CreatedAt = l.CreatedAt,
        CreatedBy = db.Members.Where(m => m.Id == l.CreatedBy).Select(m => m.Account!.Name).FirstOrDefault(),
        Clicks = l.Total == null ? 0 : l.Total.Clicks,
        LastClickAt = l.Total == null ? null : l.Total.LastClickAt,
        Aliases = l.Aliases.OrderByDescending(a => a.CreatedAt).Select(a => new AliasRow(a.Domain!.Name, a.Slug)).ToList(),
        Version = l.Version,
        ArchivedAt = l.ArchivedAt,
        ChangedAt = l.ChangedAt,
        Fallback = l.Fallback,
        BroughtAlong = l.BroughtAlong,
        Page = db.CheckedPages.Where(p => p.WorkspaceId == l.WorkspaceId && p.Key == l.PageKey).FirstOrDefault(),
        ChangedBy = db.Members.Where(m => m.Id == l.ChangedBy).Select(m => m.Account!.Name).FirstOrDefault(),
        Post = l.Placement == null ? null : new LinkPost(l.Placement.Post!.Id, l.Placement.Post.Title, l.Placement.Post.Campaign!.Name, l.Placement.Post.PublishedOn),
    };

    /// <param name="courses">The last thirty days of links, where they are to be told.</param>
    internal static LinkResponse Of(Row row, CursusOptions options, LinkCourses? courses = null) => new(
        row.Id, options.ShortUrl(row.Domain, row.Slug), row.Domain, row.Slug, row.Title, row.Destination, row.FinalUrl,
        row.Source, row.Medium, row.Campaign, row.Term, row.Content, row.Channel, row.Variant,
        row.Redirect, row.Tags, [.. row.Pixels.Where(p => p.Place == "link").Select(p => p.Id)], row.CreatedAt, row.CreatedBy, row.Clicks, row.Post,
        row.Options, row.Note, row.Folder, row.DeletedAt, row.DeletedAt is { } deleted && row.SlugFreedAt is null ? SlugCheck.BlockedUntil(deleted) : null, row.Pixels,
        row.LastClickAt, courses?.Of(row.Id), [.. row.Aliases.Select(a => options.ShortUrl(a.Domain, a.Slug))], row.Version, row.ArchivedAt, row.ChangedAt, row.ChangedBy,
        row.Fallback, row.Page is { } page && row.DeletedAt is null ? LinkCheckOf.Of(page.Id, page.State, page.IgnoredUntil) : null, StateOf(row), row.BroughtAlong);

    private static StateOfLink StateOf(Row row) => row switch
    {
        { DeletedAt: not null } => StateOfLink.Deleted,
        { Page.State.IsDead: true } => StateOfLink.Dead,
        { ArchivedAt: not null } => StateOfLink.Archived,
        { Clicks: 0 } => StateOfLink.NeverClicked,
        _ => StateOfLink.Live,
    };

    internal sealed class Row
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
        public required List<FiringPixel> Pixels { get; init; }
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
        public required long? BroughtAlong { get; init; }
        public required CheckedPage? Page { get; init; }
    }

    internal sealed record AliasRow(string Domain, string Slug);
}

/// <summary>What is to be known of a link at a glance; of several that hold, the first of <c>deleted</c>, <c>dead</c>, <c>archived</c>, <c>never-clicked</c>.</summary>
public enum StateOfLink
{
    Live,
    NeverClicked,
    Archived,
    Dead,
    Deleted,
}

/// <summary>The post that a link belongs to.</summary>
/// <param name="Campaign">The campaign's name.</param>
public sealed record LinkPost(Guid Id, string Title, string Campaign, LocalDate PublishedOn);

/// <summary>A retargeting pixel that fires at a link's visits.</summary>
/// <param name="Place">Where it is attached: <c>link</c>, <c>post</c>, <c>campaign</c>, <c>channel</c> or <c>domain</c>.</param>
public sealed record FiringPixel(Guid Id, string Name, string Place);
