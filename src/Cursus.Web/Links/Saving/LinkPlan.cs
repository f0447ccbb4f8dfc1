using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Routing;
using Cursus.Data.Addresses;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Links.Routes;
using NodaTime;

namespace Cursus.Web.Links.Saving;

/// <summary>One link with everything checked, ready to be saved.</summary>
/// <param name="Slug">Null draws a random one.</param>
/// <param name="Utm">Null for a link without tags.</param>
/// <param name="Sent">The tags that the finished address carries: those of <paramref name="Utm"/>, merged ones replaced.</param>
/// <param name="TagNames">Names of its tags; new ones are made.</param>
/// <param name="PixelIds">Its own retargeting pixels.</param>
internal sealed record LinkPlan(
    ShortDomain Domain,
    Slug? Slug,
    string Title,
    Destination Destination,
    UtmTags? Utm,
    UtmTags? Sent,
    Campaign? Campaign,
    Channel? Channel,
    LinkSettings Settings,
    IReadOnlyList<string> TagNames,
    IReadOnlyList<Guid> PixelIds
)
{
    /// <summary>The link under <paramref name="slug"/>, not yet saved.</summary>
    /// <param name="tags">The workspace's tags; those of this link are picked by name.</param>
    public Link Make(string slug, IReadOnlyList<Tag> tags, CurrentMember member, Instant now)
    {
        var link = new Link
        {
            WorkspaceId = member.WorkspaceId,
            DomainId = Domain.Id,
            Slug = slug,
            SlugKey = slug.ToLowerInvariant(),
            Title = Title,
            Destination = Destination.AsEntered,
            FinalUrl = Destination.FinishedWith(Sent).ToString(),
            Source = Utm?.Source.Text,
            Medium = Utm?.Medium.Text,
            Term = Utm?.Term?.Text,
            Content = Utm?.Content?.Text,
            CampaignId = Campaign?.Id,
            ChannelId = Channel?.Id,
            Redirect = Settings.Redirect,
            Options = Settings.Options,
            Note = Settings.Note,
            FolderId = Settings.Folder?.Id,
            OpensAt = Settings.Schedule.OpensAt,
            EndsAt = Settings.Schedule.EndsAt,
            CreatedAt = now,
            CreatedBy = member.Id,
            Tags = [.. tags.Where(t => TagNames.Contains(t.Name, StringComparer.OrdinalIgnoreCase))],
            LastRule = Settings.Route?.Rules.Select(r => (short)r.Number).DefaultIfEmpty().Max() ?? 0,
            RouteId = Settings.RouteId,
            Route = Settings.Route is { } route ? RouteText.Of(RoutePages.Numbered(route, new Dictionary<string, byte>()).Route) : null,
        };
        RoutesOfLinks.Use(link);
        return link;
    }
}
