using NodaTime;

namespace Cursus.Web.Posts;

/// <param name="Title">Private name of the post.</param>
/// <param name="Destination">The page's address, as pasted.</param>
/// <param name="Campaign">Key of a campaign.</param>
/// <param name="PublishedOn">The day it goes out; today where left out.</param>
/// <param name="Tags">Names of tags; new ones are made.</param>
/// <param name="Domain">Short domain; the workspace's default where left out.</param>
/// <param name="Redirect">HTTP status of all its links; 302 where left out.</param>
public sealed record PostRequest(
    string? Title,
    string? Destination,
    string? Campaign,
    LocalDate? PublishedOn = null,
    IReadOnlyList<string>? Tags = null,
    IReadOnlyList<Guid>? Pixels = null,
    string? Domain = null,
    int? Redirect = null,
    IReadOnlyList<PlacementRequest>? Placements = null);

/// <param name="Channel">Key of a channel.</param>
/// <param name="Variant">Tells two placements in one channel apart; becomes the content tag where none is given.</param>
/// <param name="Source">The channel's own where left out.</param>
/// <param name="Medium">The channel's own where left out.</param>
/// <param name="Slug">A random one is made where left out.</param>
/// <param name="Title">The post's title where left out.</param>
public sealed record PlacementRequest(
    string? Channel,
    string? Variant = null,
    string? Source = null,
    string? Medium = null,
    string? Term = null,
    string? Content = null,
    string? Slug = null,
    string? Title = null);
