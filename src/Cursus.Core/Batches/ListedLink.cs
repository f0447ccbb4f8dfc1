using Cursus.Core.Links;
using NodaTime;

namespace Cursus.Core.Batches;

/// <summary>What a line of a list says about a link that is there already. What it doesn't say stays as it is.</summary>
/// <param name="Source">Comes with <paramref name="Medium"/> and <paramref name="CampaignId"/>, or not at all.</param>
/// <param name="TagIds">Are added to those it has.</param>
/// <param name="Route">Rules; whoever writes the link numbers them, so <see cref="Onto"/> leaves them out.</param>
/// <param name="ImportedClicks">Clicks that were counted elsewhere.</param>
public sealed record ListedLink(
    string Destination,
    string? Title = null,
    string? Source = null,
    string? Medium = null,
    string? Term = null,
    string? Content = null,
    Guid? CampaignId = null,
    short? Redirect = null,
    string? Note = null,
    Guid? FolderId = null,
    IReadOnlyList<Guid>? TagIds = null,
    long? ImportedClicks = null,
    Instant? OpensAt = null,
    Instant? EndsAt = null,
    LinkOptionsPatch? Options = null,
    GivenRoute? Route = null
)
{
    /// <summary>The link as it is when it has been taken over.</summary>
    public LinkState Onto(LinkState link)
    {
        ArgumentNullException.ThrowIfNull(link);
        var isTagged = Source is not null;
        var schedule = new LinkSchedule(OpensAt ?? link.OpensAt, EndsAt ?? link.EndsAt);
        schedule = schedule.IsPossible(out _) ? schedule : new LinkSchedule(OpensAt, EndsAt);
        return link with
        {
            Destination = Destination,
            Title = Title ?? link.Title,
            Source = isTagged ? Source : link.Source,
            Medium = isTagged ? Medium : link.Medium,
            Term = isTagged ? Term : link.Term,
            Content = isTagged ? Content : link.Content,
            CampaignId = isTagged ? CampaignId : link.CampaignId,
            Redirect = Redirect ?? link.Redirect,
            Options = Options?.Over(link.Options) ?? link.Options,
            Note = Note ?? link.Note,
            FolderId = FolderId ?? link.FolderId,
            TagIds = [.. link.TagIds.Union(TagIds ?? []).Order()],
            OpensAt = schedule.OpensAt,
            EndsAt = schedule.EndsAt,
            ImportedClicks = ImportedClicks ?? link.ImportedClicks,
        };
    }
}
