using NodaTime;

namespace Cursus.Web.Comparing;

/// <summary>A link that is asked about.</summary>
/// <param name="ChannelId">Null where it has none.</param>
/// <param name="PlacedOn">The day on which it went out; only where links are what is grouped.</param>
internal sealed record PickedLink(Guid Id, Guid? ChannelId, LocalDate PlacedOn, bool IsDeleted)
{
    /// <summary>Numbers of the groups that it is in: one, but by tags or pixels any number. Links share the list.</summary>
    public required int[] Groups { get; set; }

    /// <summary>Whether people clicked it in the time that is asked about.</summary>
    public bool IsClicked { get; set; }
}

/// <summary>The links that are asked about, with the groups that they are in.</summary>
internal sealed class PickedLinks
{
    private static readonly PickedLink Any = new(Guid.Empty, null, default, false) { Groups = [0] };

    private readonly Dictionary<Guid, PickedLink>? links;

    private PickedLinks(Dictionary<Guid, PickedLink>? links, IReadOnlyList<(string Key, string Label)[]> groups) => (this.links, Groups) = (links, groups);

    /// <summary>Key and label of each group, by its number and then by place of the dimensions that links decide.</summary>
    public IReadOnlyList<(string Key, string Label)[]> Groups { get; }

    /// <summary>All of them; none where nothing needs to be known of single ones.</summary>
    public IEnumerable<PickedLink> All => links?.Values ?? Enumerable.Empty<PickedLink>();

    /// <summary>A link that was picked; null for one that wasn't.</summary>
    public PickedLink? Of(Guid id) => links is null ? Any : links.GetValueOrDefault(id);

    /// <param name="dimensions">What is grouped by; of them those that links decide.</param>
    /// <param name="isHeldAgainst">Whether clicks are held against what their link is.</param>
    public static async Task<PickedLinks> Read(Snapshot snapshot, Question question, IReadOnlyList<Dimension> dimensions, bool isHeldAgainst, CancellationToken cancel)
    {
        var ofLink = dimensions.Where(d => d.IsOfLink).ToList();
        if (ofLink.Count == 0 && !isHeldAgainst)
        {
            return new(null, [[]]);
        }

        var alone = new Dictionary<string, int[]>(StringComparer.Ordinal);
        var groups = new List<(string Key, string Label)[]>();
        var links = new Dictionary<Guid, PickedLink>();
        var isPlaced = ofLink.Count > 0;
        var columns = string.Concat(ofLink.Select((_, place) => $", l.key{place}, l.label{place}"));
        await snapshot.Each(
            question.Parameters,
            $"""
            with {CountedSql.Picked(question, ofLink, isPlaced)}
            select l.id, l.channel_id, l.deleted_at is not null, {(isPlaced ? "l.placed_on" : "null::date")}{columns} from picked l
            """,
            row =>
            {
                var keys = ofLink.Count switch { 0 => "", 1 => row.GetString(4), _ => string.Join('\n', ofLink.Select((_, place) => row.GetString(4 + 2 * place))) };
                if (!alone.TryGetValue(keys, out var group))
                {
                    alone[keys] = group = [groups.Count];
                    groups.Add([.. ofLink.Select((_, place) => (row.GetString(4 + 2 * place), row.GetString(5 + 2 * place)))]);
                }

                var id = row.GetGuid(0);
                if (links.TryGetValue(id, out var known))
                {
                    known.Groups = [.. known.Groups, .. group];
                }
                else
                {
                    links[id] = new(id, row.IsDBNull(1) ? null : row.GetGuid(1), isPlaced ? row.GetFieldValue<LocalDate>(3) : default, row.GetBoolean(2)) { Groups = group };
                }
            },
            cancel);
        return new(links, groups);
    }
}
