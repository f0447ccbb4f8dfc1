using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Links;
using Cursus.Web.Links.Routes;
using NodaTime;

namespace Cursus.Web.Posts;

/// <param name="Title">Private name of the post.</param>
/// <param name="Destination">The page's address, as pasted.</param>
/// <param name="Campaign">Key of a campaign.</param>
/// <param name="PublishedOn">The day it is published; today if omitted.</param>
/// <param name="Tags">Names of tags; new ones are created.</param>
/// <param name="Pixels">Ids of retargeting pixels that fire for all its links.</param>
/// <param name="Domain">Short domain; the workspace's default if omitted.</param>
/// <param name="Redirect">HTTP status for all its links; if omitted, the domain's or the workspace's default.</param>
/// <param name="Options">Options for all its links; if omitted, the domain's or the workspace's defaults.</param>
/// <param name="Note">For colleagues; never visible to visitors.</param>
/// <param name="Folder">Name of a folder.</param>
/// <param name="OpensAt">When all its links open: an instant, or a day or time in the workspace's time zone. Until then visitors go to their
/// fallbacks.</param>
/// <param name="EndsAt">When they end, in the same forms; a day alone is their last day.</param>
/// <param name="Routes">Rules by which all its links lead visitors to other pages.</param>
/// <param name="RouteId">A saved route that they follow, in place of rules of their own.</param>
/// <param name="PastedTags">What to do with UTM values in the pasted address; <c>replace</c> if omitted.</param>
public sealed record PostRequest(
    string? Title,
    string? Destination,
    string? Campaign,
    LocalDate? PublishedOn = null,
    IReadOnlyList<string>? Tags = null,
    IReadOnlyList<Guid>? Pixels = null,
    string? Domain = null,
    int? Redirect = null,
    IReadOnlyList<PlacementRequest>? Placements = null,
    LinkOptionsPatch? Options = null,
    string? Note = null,
    string? Folder = null,
    PastedTags? PastedTags = null,
    string? OpensAt = null,
    string? EndsAt = null,
    RouteBody? Routes = null,
    Guid? RouteId = null
);

/// <summary>What becomes of UTM values that stand in the pasted address already.</summary>
public enum PastedTags
{
    /// <summary>The placement's own values take their place.</summary>
    Replace,

    /// <summary>They stay, and clicks are counted under them.</summary>
    Keep,
}

/// <param name="Channel">Key of a channel.</param>
/// <param name="Variant">Tells two placements on one channel apart; becomes the content tag if none is given.</param>
/// <param name="Source">If omitted, the channel's own.</param>
/// <param name="Medium">If omitted, the channel's own.</param>
/// <param name="Slug">If omitted, a random one is generated.</param>
/// <param name="Title">If omitted, the post's title.</param>
/// <param name="SlugKind">How the slug is generated; random if omitted, and the workspace's default in a preview.</param>
/// <param name="Domain">If omitted, the post's; the same goes for the fields below.</param>
/// <param name="Pixels">Retargeting pixels of this placement alone, in addition to the post's.</param>
/// <param name="Routes">In place of the post's; none without rules and pages.</param>
/// <param name="RouteId">A saved route in place of the post's.</param>
public sealed record PlacementRequest(
    string? Channel,
    string? Variant = null,
    string? Source = null,
    string? Medium = null,
    string? Term = null,
    string? Content = null,
    string? Slug = null,
    string? Title = null,
    SlugKind? SlugKind = null,
    string? Domain = null,
    int? Redirect = null,
    IReadOnlyList<string>? Tags = null,
    LinkOptionsPatch? Options = null,
    string? Note = null,
    string? Folder = null,
    IReadOnlyList<Guid>? Pixels = null,
    string? OpensAt = null,
    string? EndsAt = null,
    RouteBody? Routes = null,
    Guid? RouteId = null
);
