using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data.Addresses;
using Cursus.Data.Clicks;
using Cursus.Data.Posts;
using Cursus.Data.Retargeting;
using NodaTime;

namespace Cursus.Data.Links;

/// <summary>One short link: the address people follow, where it leads, and what its clicks are counted under.</summary>
public sealed class Link
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public Guid DomainId { get; set; }

    /// <summary>The slug as shown.</summary>
    public required string Slug { get; set; }

    /// <summary>The slug as compared: lower case. Unique in its domain until it is freed.</summary>
    public required string SlugKey { get; set; }

    /// <summary>Private name of the link.</summary>
    public required string Title { get; set; }

    /// <summary>As the marketer entered it.</summary>
    public required string Destination { get; set; }

    /// <summary>Tells the page by its address without fragment, for the link check: all links of a workspace with the same key lead to the same
    /// page.</summary>
    public Guid PageKey { get; private init; }

    /// <summary>Where visitors go while the page is dead, and outside of its time; null does what campaign or workspace say.</summary>
    public string? Fallback { get; set; }

    /// <summary>When it opens; null where it is open from its making.</summary>
    public Instant? OpensAt { get; set; }

    /// <summary>When it ends; null where it never does.</summary>
    public Instant? EndsAt { get; set; }

    /// <summary>From when until when it leads to its destination.</summary>
    public LinkSchedule Schedule => new(OpensAt, EndsAt);

    /// <summary>Where visitors are sent: the destination with its UTM values.</summary>
    public required string FinalUrl { get; set; }

    public string? Source { get; set; }
    public string? Medium { get; set; }
    public string? Term { get; set; }
    public string? Content { get; set; }
    public Guid? CampaignId { get; set; }
    public Guid? ChannelId { get; set; }

    /// <summary>HTTP status of the redirect: 301, 302, 307 or 308.</summary>
    public short Redirect { get; set; } = LinkOptions.UsualRedirect;

    /// <summary>The same for all links of a post. Those of a list are a moment apart, in its order.</summary>
    public Instant CreatedAt { get; set; }
    public Guid? CreatedBy { get; init; }

    /// <summary>How it behaves on the way and in web pages.</summary>
    public LinkOptions Options { get; set; } = LinkOptions.Plain;

    /// <summary>Clicks that were counted elsewhere, before the link came to Cursus; null where it was made here. Never part of a figure.</summary>
    public long? ImportedClicks { get; set; }

    /// <summary>Rules by which visitors are led to other pages; see <see cref="RouteText"/>. Null where all are led to the destination.</summary>
    public string? Route { get; set; }

    /// <summary>The saved route that its rules come from, and change with; null where they are its own.</summary>
    public Guid? RouteId { get; set; }

    /// <summary>The last number that was given to a rule of its routes.</summary>
    public short LastRule { get; set; }

    /// <summary>What colleagues should know about it; never visible to visitors.</summary>
    public string? Note { get; set; }

    public Guid? FolderId { get; set; }

    /// <summary>How its QR codes look; null for the workspace's default.</summary>
    public Guid? CodeStyleId { get; set; }

    /// <summary>When it was taken out of the lists; it leads on.</summary>
    public Instant? ArchivedAt { get; set; }

    /// <summary>How often it was made or changed. Who changes it must have seen the last version.</summary>
    public int Version { get; set; } = 1;

    /// <summary>Since when it is as it is; null where it was never changed.</summary>
    public Instant? ChangedAt { get; set; }

    /// <summary>The member who changed it last.</summary>
    public Guid? ChangedBy { get; set; }

    /// <summary>The change of many links that made it what it is, if it was one; see <see cref="LinkChange"/>.</summary>
    public Guid? ChangeId { get; set; }

    /// <summary>When it was deleted; its slug stays blocked for <see cref="Slug.BlockedDays"/> days.</summary>
    public Instant? DeletedAt { get; set; }

    /// <summary>When its slug was given to another link, after the block had passed; the link can't be revived from then on.</summary>
    public Instant? SlugFreedAt { get; set; }

    public ShortDomain? Domain { get; set; }
    public Campaign? Campaign { get; set; }
    public Channel? Channel { get; set; }
    public Folder? Folder { get; set; }
    public Placement? Placement { get; init; }
    public List<Tag> Tags { get; init; } = [];
    public List<LinkAlias> Aliases { get; init; } = [];

    /// <summary>All pages that its routes have ever led to.</summary>
    public List<RoutedPage> RoutedPages { get; init; } = [];

    /// <summary>What it is found by.</summary>
    public LinkText? Text { get; init; }

    /// <summary>Its clicks; null where nobody has clicked yet.</summary>
    public LinkTotal? Total { get; init; }

    /// <summary>Its own retargeting pixels; those of its post, campaign, channel and domain fire too.</summary>
    public List<Pixel> Pixels { get; init; } = [];
}
