using Cursus.Core.Addresses;
using Cursus.Web.Addresses;
using NodaTime;

namespace Cursus.Web.Posts;

/// <param name="Title">Private name of the post.</param>
/// <param name="Destination">The page's address, as pasted.</param>
/// <param name="Campaign">Key of a campaign.</param>
/// <param name="PublishedOn">The day it goes out; today where left out.</param>
/// <param name="Tags">Names of tags; new ones are made.</param>
/// <param name="Pixels">Ids of retargeting pixels that fire for all its links.</param>
/// <param name="Domain">Short domain; the workspace's default where left out.</param>
/// <param name="Redirect">HTTP status of all its links; the domain's or the workspace's default where left out.</param>
/// <param name="Options">How all its links behave; the domain's or the workspace's defaults where left out.</param>
/// <param name="Note">For colleagues; never visible to visitors.</param>
/// <param name="Folder">Name of a folder.</param>
/// <param name="OpensAt">When all its links open: a moment, or a day or time by the workspace's clock. Until then their fallbacks answer.</param>
/// <param name="EndsAt">When they end, said in the same ways; a day alone is their last.</param>
/// <param name="PastedTags">What becomes of UTM values in the pasted address; <c>replace</c> where left out.</param>
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
    LinkWishes? Options = null,
    string? Note = null,
    string? Folder = null,
    PastedTags? PastedTags = null,
    string? OpensAt = null,
    string? EndsAt = null);

/// <summary>What becomes of UTM values that stand in the pasted address already.</summary>
public enum PastedTags
{
    /// <summary>The placement's own values take their place.</summary>
    Replace,

    /// <summary>They stay, and clicks are counted under them.</summary>
    Keep,
}

/// <param name="Channel">Key of a channel.</param>
/// <param name="Variant">Tells two placements in one channel apart; becomes the content tag where none is given.</param>
/// <param name="Source">The channel's own where left out.</param>
/// <param name="Medium">The channel's own where left out.</param>
/// <param name="Slug">A random one is made where left out.</param>
/// <param name="Title">The post's title where left out.</param>
/// <param name="SlugKind">How the slug is made where none is typed; random where left out, and the workspace's default in a preview.</param>
/// <param name="Domain">The post's where left out, as with all that follow.</param>
/// <param name="Pixels">Retargeting pixels of this placement alone, beside the post's.</param>
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
    LinkWishes? Options = null,
    string? Note = null,
    string? Folder = null,
    IReadOnlyList<Guid>? Pixels = null,
    string? OpensAt = null,
    string? EndsAt = null);
