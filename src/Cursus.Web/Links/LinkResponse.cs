using System.Text.Json.Serialization;
using Cursus.Core.Links;
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
/// <param name="BlockedUntil">Until when a deleted link's slug is reserved; null for a live link, or if the slug was given away.</param>
/// <param name="Pixels">Ids of its own retargeting pixels.</param>
/// <param name="FiringPixels">All pixels that fire when it is visited, and where each is attached.</param>
/// <param name="LastClickAt">When a person last clicked.</param>
/// <param name="Course">People's clicks per day over the last 30 days, today last; only when reading links.</param>
/// <param name="Aliases">Its earlier short addresses, which still work.</param>
/// <param name="Version">Its version number, sent as the ETag.</param>
/// <param name="Fallback">Where visitors go while the destination is broken or the link isn't active, if the link has its own fallback.</param>
/// <param name="OpensAt">When it opens, if it wasn't open from the start.</param>
/// <param name="EndsAt">When it ends, if it does.</param>
/// <param name="IsRouted">Whether rules or shares lead visitors to other pages; see <c>/links/{id}/routes</c>.</param>
/// <param name="RouteId">The saved route that it follows, if any.</param>
/// <param name="Check">Link check of the destination; null if it isn't checked.</param>
/// <param name="ImportedClicks"><paramref name="Clicks"/> counted elsewhere before the link was imported; never part of
/// <paramref name="Clicks"/>.</param>
/// <param name="State">Its state.</param>
/// <param name="Variant">Tells two placements of a post on one channel apart.</param>
public sealed record LinkResponse(
    Guid Id,
    string ShortUrl,
    string Domain,
    string Slug,
    string Title,
    string Destination,
    string FinalUrl,
    string? Source,
    string? Medium,
    string? Campaign,
    string? Term,
    string? Content,
    string? Channel,
    string? Variant,
    int Redirect,
    IReadOnlyList<string> Tags,
    IReadOnlyList<Guid> Pixels,
    Instant CreatedAt,
    string? CreatedBy,
    long Clicks,
    LinkPost? Post,
    LinkOptions Options,
    string? Note,
    string? Folder,
    Instant? DeletedAt,
    Instant? BlockedUntil,
    IReadOnlyList<FiringPixel> FiringPixels,
    Instant? LastClickAt,
    IReadOnlyList<int>? Course,
    IReadOnlyList<string> Aliases,
    int Version,
    Instant? ArchivedAt,
    Instant? ChangedAt,
    string? ChangedBy,
    string? Fallback,
    LinkCheckOf? Check,
    StateOfLink State,
    [property: JsonPropertyName("broughtAlong")] long? ImportedClicks,
    Instant? OpensAt,
    Instant? EndsAt,
    bool IsRouted,
    Guid? RouteId
)
{
    /// <param name="courses">The last thirty days of links, where they are to be told.</param>
    internal static LinkResponse Of(LinkRow row, CursusOptions options, LinkCourses? courses = null) =>
        new(
            row.Id,
            options.ShortUrl(row.Domain, row.Slug),
            row.Domain,
            row.Slug,
            row.Title,
            row.Destination,
            row.FinalUrl,
            row.Source,
            row.Medium,
            row.Campaign,
            row.Term,
            row.Content,
            row.Channel,
            row.Variant,
            row.Redirect,
            row.Tags,
            [.. row.Pixels.Where(p => p.Place == "link").Select(p => p.Id)],
            row.CreatedAt,
            row.CreatedBy,
            row.Clicks,
            row.Post,
            row.Options,
            row.Note,
            row.Folder,
            row.DeletedAt,
            row.DeletedAt is { } deleted && row.SlugFreedAt is null ? SlugCheck.BlockedUntil(deleted) : null,
            row.Pixels,
            row.LastClickAt,
            courses?.Of(row.Id),
            [.. row.Aliases.Select(a => options.ShortUrl(a.Domain, a.Slug))],
            row.Version,
            row.ArchivedAt,
            row.ChangedAt,
            row.ChangedBy,
            row.Fallback,
            row.Page is { } page && row.DeletedAt is null ? LinkCheckOf.Of(page.Id, page.State, page.IgnoredUntil) : null,
            StateOf(row),
            row.ImportedClicks,
            row.OpensAt,
            row.EndsAt,
            row.Route is not null,
            row.RouteId
        );

    private static StateOfLink StateOf(LinkRow row) =>
        row switch
        {
            { DeletedAt: not null } => StateOfLink.Deleted,
            { Stage: LinkStage.Ended } => StateOfLink.Ended,
            { Stage: LinkStage.Scheduled } => StateOfLink.Scheduled,
            { Page.State.IsDead: true } => StateOfLink.Dead,
            { ArchivedAt: not null } => StateOfLink.Archived,
            { Clicks: 0 } => StateOfLink.NeverClicked,
            _ => StateOfLink.Live,
        };
}

/// <summary>State of a link; if several apply, the first of <c>deleted</c>, <c>ended</c>, <c>scheduled</c>, <c>dead</c>, <c>archived</c>,
/// <c>never-clicked</c>.</summary>
public enum StateOfLink
{
    Live,
    NeverClicked,
    Archived,
    Dead,

    /// <summary>It opens later.</summary>
    Scheduled,

    /// <summary>Its time is over.</summary>
    Ended,
    Deleted,
}

/// <summary>The post that a link belongs to.</summary>
/// <param name="Campaign">The campaign's name.</param>
public sealed record LinkPost(Guid Id, string Title, string Campaign, LocalDate PublishedOn);

/// <summary>A retargeting pixel that fires at a link's visits.</summary>
/// <param name="Place">Where it is attached: <c>link</c>, <c>post</c>, <c>campaign</c>, <c>channel</c> or <c>domain</c>.</param>
public sealed record FiringPixel(Guid Id, string Name, string Place);
