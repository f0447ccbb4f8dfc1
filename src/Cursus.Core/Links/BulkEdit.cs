using NodaTime;

namespace Cursus.Core.Links;

/// <summary>A change of one bound of a link's schedule; null removes the bound.</summary>
public readonly record struct ScheduleChange(Instant? At);

/// <summary>One change made to many links. What is left out stays as each link has it.</summary>
public sealed record BulkEdit
{
    public IReadOnlyList<Guid> AddTags { get; init; } = [];
    public IReadOnlyList<Guid> RemoveTags { get; init; } = [];
    public IReadOnlyList<Guid> AddPixels { get; init; } = [];
    public IReadOnlyList<Guid> RemovePixels { get; init; } = [];

    /// <summary>The folder they are moved to; an empty id takes them out of any.</summary>
    public Guid? FolderId { get; init; }

    public Guid? CampaignId { get; init; }
    public FindAndReplace? Replace { get; init; }

    /// <summary>The new destination for all of them.</summary>
    public string? Destination { get; init; }

    /// <summary>Where visitors go while the destination is dead, and outside of the link's time; an empty text leaves it to campaign and
    /// workspace.</summary>
    public string? Fallback { get; init; }

    /// <summary>When they open.</summary>
    public ScheduleChange? Opens { get; init; }

    /// <summary>When they end.</summary>
    public ScheduleChange? Ends { get; init; }

    public bool? Archive { get; init; }

    /// <summary>True deletes them, false brings them back.</summary>
    public bool? Delete { get; init; }

    /// <summary>The link as this change leaves it. Its finished address must be made anew where <see cref="MovesVisitors"/>.</summary>
    /// <param name="ofChannel">Source and medium of the link's channel, for links that have none of their own and get a campaign.</param>
    /// <returns>Null where it can't be done to this link; why is in <paramref name="error"/>.</returns>
    public LinkState? Of(LinkState link, (string Source, string Medium)? ofChannel, out ValidationError? error)
    {
        ArgumentNullException.ThrowIfNull(link);
        error = null;
        var destination = Destination ?? link.Destination;
        if (Replace is not null && !Replace.TryApply(destination, out destination, out error))
        {
            return null;
        }

        var (source, medium) = (
            link.Source ?? (CampaignId is null ? null : ofChannel?.Source),
            link.Medium ?? (CampaignId is null ? null : ofChannel?.Medium)
        );
        if (CampaignId is not null && (source is null || medium is null))
        {
            error = new ValidationError(
                "tags-incomplete",
                "It has no source and medium, and no channel to set them, so it can’t have a campaign. Add a source and medium first."
            );
            return null;
        }

        var schedule = new LinkSchedule(Opens is { } opens ? opens.At : link.OpensAt, Ends is { } ends ? ends.At : link.EndsAt);
        if ((Opens is not null || Ends is not null) && !schedule.IsPossible(out error))
        {
            return null;
        }

        return link with
        {
            TagIds = Joined(link.TagIds, AddTags, RemoveTags),
            PixelIds = Joined(link.PixelIds, AddPixels, RemovePixels),
            FolderId = FolderId is { } folder ? (folder == Guid.Empty ? null : folder) : link.FolderId,
            CampaignId = CampaignId ?? link.CampaignId,
            Source = source,
            Medium = medium,
            Destination = destination!,
            Fallback = Fallback switch
            {
                null => link.Fallback,
                "" => null,
                _ => Fallback,
            },
            OpensAt = schedule.OpensAt,
            EndsAt = schedule.EndsAt,
            IsArchived = Archive ?? link.IsArchived,
            IsDeleted = Delete ?? link.IsDeleted,
        };
    }

    /// <summary>Whether the change sends visitors elsewhere, or with other tags.</summary>
    public static bool MovesVisitors(LinkState before, LinkState after) =>
        (before.Destination, before.Source, before.Medium, before.Term, before.Content, before.CampaignId)
        != (after.Destination, after.Source, after.Medium, after.Term, after.Content, after.CampaignId);

    private static IReadOnlyList<Guid> Joined(IReadOnlyList<Guid> had, IReadOnlyList<Guid> added, IReadOnlyList<Guid> removed) =>
        added.Count + removed.Count == 0 ? had : [.. had.Union(added).Except(removed).Order()];
}
