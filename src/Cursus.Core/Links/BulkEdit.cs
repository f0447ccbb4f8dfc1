using Cursus.Core.Routing;

namespace Cursus.Core.Links;

/// <summary>Rules that a link is given.</summary>
/// <param name="SavedRoute">The saved route that they come from; null for rules of its own.</param>
public sealed record GivenRoute(Route Route, Guid? SavedRoute);

/// <summary>One change made to many links. What is left out stays as each link has it.</summary>
public sealed record BulkEdit
{
    /// <summary>What becomes the same for all of them.</summary>
    public LinkPatch Set { get; init; } = new();

    public IReadOnlyList<Guid> AddTags { get; init; } = [];
    public IReadOnlyList<Guid> RemoveTags { get; init; } = [];
    public IReadOnlyList<Guid> AddPixels { get; init; } = [];
    public IReadOnlyList<Guid> RemovePixels { get; init; } = [];

    /// <summary>The saved route that they follow from now on; null where they have no rules any more.</summary>
    public Patch<GivenRoute?> Route { get; init; }

    /// <summary>What is replaced in destinations.</summary>
    public FindAndReplace? Replace { get; init; }

    /// <summary>The link as this change leaves it. Its finished address must be made anew where <see cref="MovesVisitors"/>.</summary>
    /// <param name="ofChannel">Source and medium of the link's channel, for links that have none of their own and get a campaign.</param>
    /// <returns>Null where it can't be done to this link; why is in <paramref name="error"/>.</returns>
    public LinkState? Of(LinkState link, (string Source, string Medium)? ofChannel, out ValidationError? error)
    {
        ArgumentNullException.ThrowIfNull(link);
        error = null;
        var changed = Set.Over(link);
        var destination = changed.Destination;
        if (Replace is not null && !Replace.TryApply(destination, out destination, out error))
        {
            return null;
        }

        if (Set.CampaignId.IsSaid)
        {
            changed = changed with { Source = changed.Source ?? ofChannel?.Source, Medium = changed.Medium ?? ofChannel?.Medium };
            if (changed.Source is null || changed.Medium is null)
            {
                error = new ValidationError(
                    "tags-incomplete",
                    "It has no source and medium, and no channel to set them, so it can’t have a campaign. Add a source and medium first."
                );
                return null;
            }
        }

        if ((Set.OpensAt.IsSaid || Set.EndsAt.IsSaid) && !new LinkSchedule(changed.OpensAt, changed.EndsAt).IsPossible(out error))
        {
            return null;
        }

        return changed with
        {
            Destination = destination!,
            TagIds = Joined(changed.TagIds, AddTags, RemoveTags),
            PixelIds = Joined(changed.PixelIds, AddPixels, RemovePixels),
        };
    }

    /// <summary>Whether the change sends visitors elsewhere, or with other tags.</summary>
    public static bool MovesVisitors(LinkState before, LinkState after) =>
        (before.Destination, before.Source, before.Medium, before.Term, before.Content, before.CampaignId)
        != (after.Destination, after.Source, after.Medium, after.Term, after.Content, after.CampaignId);

    private static IReadOnlyList<Guid> Joined(IReadOnlyList<Guid> had, IReadOnlyList<Guid> added, IReadOnlyList<Guid> removed) =>
        added.Count + removed.Count == 0 ? had : [.. had.Union(added).Except(removed).Order()];
}
