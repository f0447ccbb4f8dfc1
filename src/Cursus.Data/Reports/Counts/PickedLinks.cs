using System.Runtime.InteropServices;
using Cursus.Data.Reports.Questions;
using NodaTime;

namespace Cursus.Data.Reports.Counts;

/// <summary>A link that is asked about.</summary>
/// <param name="channelId">Null where it has none.</param>
/// <param name="placedOn">The day on which it went out; only where that was asked for.</param>
/// <param name="unitId">What its clicks are one with: its post, or itself; only where that was asked for.</param>
internal sealed class PickedLink(Guid id, Guid? channelId, LocalDate placedOn, bool isDeleted, Guid unitId, int group)
{
    private int first = group;
    private int[]? several;

    public Guid Id => id;

    public Guid? ChannelId => channelId;

    public LocalDate PlacedOn => placedOn;

    public bool IsDeleted => isDeleted;

    public Guid UnitId => unitId;

    /// <summary>The unit's number, in the order of their days.</summary>
    public int Unit { get; set; }

    /// <summary>Numbers of the groups that it is in: one, but by tags or pixels any number.</summary>
    public ReadOnlySpan<int> Groups => several ?? MemoryMarshal.CreateReadOnlySpan(ref first, 1);

    /// <summary>Whether people clicked it in the time that is asked about.</summary>
    public bool IsClicked { get; set; }

    public void AddGroup(int group) => several = [.. Groups, group];
}

/// <summary>The links that are asked about, with the groups that they are in.</summary>
internal sealed class PickedLinks
{
    private static readonly PickedLink Any = new(Guid.Empty, null, default, false, Guid.Empty, 0);

    private readonly Dictionary<Guid, PickedLink>? links;
    private readonly Dictionary<Guid, int> units = [];
    private readonly List<LocalDate> unitDays = [];

    private PickedLinks(Dictionary<Guid, PickedLink>? links, GroupNumbers groups)
    {
        (this.links, Groups) = (links, groups);
        foreach (var link in All.OrderBy(l => l.PlacedOn).ThenBy(l => l.UnitId))
        {
            if (!units.TryGetValue(link.UnitId, out var number))
            {
                units[link.UnitId] = number = unitDays.Count;
                unitDays.Add(link.PlacedOn);
            }

            link.Unit = number;
        }
    }

    /// <summary>The groups that they are in, by the dimensions that links decide.</summary>
    public GroupNumbers Groups { get; }

    /// <summary>All of them; none where nothing needs to be known of single ones.</summary>
    public IEnumerable<PickedLink> All => links?.Values ?? Enumerable.Empty<PickedLink>();

    /// <summary>A link that was picked; null for one that wasn't.</summary>
    public PickedLink? Of(Guid id) => links is null ? Any : links.GetValueOrDefault(id);

    /// <summary>On which day each unit went out, by its number; never falling.</summary>
    public IReadOnlyList<LocalDate> UnitDays => unitDays;

    /// <summary>The number of a unit.</summary>
    public int UnitOf(Guid unitId) => units[unitId];

    /// <param name="dimensions">What is grouped by; of them those that links decide.</param>
    /// <param name="isPlaced">Whether it matters when they went out, and what their clicks are one with.</param>
    /// <param name="hasComparisonKey">Whether clicks are held against what their link is.</param>
    public static async Task<PickedLinks> Read(
        Snapshot snapshot,
        Question question,
        IReadOnlyList<Dimension> dimensions,
        bool isPlaced,
        bool hasComparisonKey,
        CancellationToken cancel
    )
    {
        var ofLink = dimensions.Where(d => d.IsOfLink).ToList();
        var groups = new GroupNumbers();
        if (ofLink.Count == 0 && !hasComparisonKey && !isPlaced)
        {
            groups.Of([]);
            return new(null, groups);
        }

        var links = new Dictionary<Guid, PickedLink>();
        var columns = string.Concat(ofLink.Select((_, place) => $", l.key{place}, l.label{place}"));
        await snapshot.Each(
            question.Parameters,
            $"""
            with {CountedSql.Picked(question, ofLink, isPlaced)}
            select l.id, l.channel_id, l.deleted_at is not null, {(
                isPlaced ? "l.placed_on, l.unit_id" : "null::date, null::uuid"
            )}{columns} from picked l
            """,
            row =>
            {
                var group =
                    ofLink.Count == 1
                        ? groups.Of(row.GetString(5), row.GetString(6))
                        : groups.Of([.. ofLink.Select((_, place) => (row.GetString(5 + 2 * place), row.GetString(6 + 2 * place)))]);
                var id = row.GetGuid(0);
                ref var link = ref CollectionsMarshal.GetValueRefOrAddDefault(links, id, out var isKnown);
                if (isKnown)
                {
                    link!.AddGroup(group);
                }
                else
                {
                    link = new(
                        id,
                        row.IsDBNull(1) ? null : row.GetGuid(1),
                        isPlaced ? row.GetFieldValue<LocalDate>(3) : default,
                        row.GetBoolean(2),
                        isPlaced ? row.GetGuid(4) : default,
                        group
                    );
                }
            },
            cancel
        );
        return new(links, groups);
    }
}
