using NodaTime;

namespace Cursus.Core.Links;

/// <summary>A change of a link: of one by its form, of many at once, or of all that say something. Its short address is changed apart, since others
/// may have it; its finished address follows from the rest.</summary>
public sealed record LinkPatch
{
    public Patch<string> Title { get; init; }

    /// <summary>As entered.</summary>
    public Patch<string> Destination { get; init; }

    /// <summary>Where visitors go while the destination is dead, and outside of the link's time; null leaves it to campaign and workspace.</summary>
    public Patch<string?> Fallback { get; init; }

    public Patch<Instant?> OpensAt { get; init; }
    public Patch<Instant?> EndsAt { get; init; }
    public Patch<string?> Source { get; init; }
    public Patch<string?> Medium { get; init; }
    public Patch<string?> Term { get; init; }
    public Patch<string?> Content { get; init; }
    public Patch<Guid?> CampaignId { get; init; }
    public Patch<Guid?> ChannelId { get; init; }
    public Patch<short> Redirect { get; init; }

    /// <summary>Says each option by itself.</summary>
    public LinkOptionsPatch Options { get; init; } = new();

    /// <summary>See <see cref="Routing.RouteText"/>; null leads everybody to the destination.</summary>
    public Patch<string?> Route { get; init; }

    /// <summary>The saved route that the rules come from; null for rules of its own.</summary>
    public Patch<Guid?> RouteId { get; init; }
    public Patch<string?> Note { get; init; }
    public Patch<Guid?> FolderId { get; init; }
    public Patch<IReadOnlyList<Guid>> TagIds { get; init; }
    public Patch<IReadOnlyList<Guid>> PixelIds { get; init; }
    public Patch<bool> IsArchived { get; init; }
    public Patch<bool> IsDeleted { get; init; }

    /// <summary>The link as this change leaves it, whether that is possible or not.</summary>
    public LinkState Over(LinkState link)
    {
        ArgumentNullException.ThrowIfNull(link);
        return link with
        {
            Title = Title.Over(link.Title),
            Destination = Destination.Over(link.Destination),
            Fallback = Fallback.Over(link.Fallback),
            OpensAt = OpensAt.Over(link.OpensAt),
            EndsAt = EndsAt.Over(link.EndsAt),
            Source = Source.Over(link.Source),
            Medium = Medium.Over(link.Medium),
            Term = Term.Over(link.Term),
            Content = Content.Over(link.Content),
            CampaignId = CampaignId.Over(link.CampaignId),
            ChannelId = ChannelId.Over(link.ChannelId),
            Redirect = Redirect.Over(link.Redirect),
            Options = Options.Over(link.Options),
            Route = Route.Over(link.Route),
            RouteId = RouteId.Over(link.RouteId),
            Note = Note.Over(link.Note),
            FolderId = FolderId.Over(link.FolderId),
            TagIds = TagIds.Over(link.TagIds),
            PixelIds = PixelIds.Over(link.PixelIds),
            IsArchived = IsArchived.Over(link.IsArchived),
            IsDeleted = IsDeleted.Over(link.IsDeleted),
        };
    }
}
