namespace Cursus.Core.Clicks;

/// <summary>What came of one link on one day: the roll-up that reports are made of. Adding clicks one by one, or the counts of some and then of the others, comes to
/// the same.</summary>
public sealed class DayCounts
{
    /// <summary>The dimensions that each click tells for itself, by the names that reports use.</summary>
    public static readonly IReadOnlyList<string> Dimensions = ["country", "device", "browser", "os", "language", "referrer"];

    private readonly int[] kinds = new int[Enum.GetValues<ClickKind>().Length];
    private readonly int[] hours = new int[24];
    private readonly Dictionary<string, int>[] tallies = [.. Dimensions.Select(_ => new Dictionary<string, int>(StringComparer.Ordinal))];

    /// <summary>Who clicked; people only.</summary>
    public VisitorSketch Visitors { get; private init; } = new();

    /// <summary>People's clicks by hour of the workspace's clock.</summary>
    public IReadOnlyList<int> Hours => hours;

    /// <summary>Clicks of one kind.</summary>
    public int Of(ClickKind kind) => kinds[(int)kind];

    /// <summary>The values of a dimension in order, with people's clicks of each.</summary>
    public IEnumerable<KeyValuePair<string, int>> Tally(string dimension) => tallies[Place(dimension)].OrderBy(t => t.Key, StringComparer.Ordinal);

    /// <summary>Counts a click that came in an hour (0 to 23) of the workspace's clock.</summary>
    public void Add(in ToldClick click, int hour)
    {
        kinds[(int)click.Kind]++;
        if (click.Kind != ClickKind.Person)
        {
            return;
        }

        hours[hour]++;
        Visitors.Add(click.Visitor);
        Count(0, click.Country);
        Count(1, click.Device);
        Count(2, click.Browser);
        Count(3, click.Os);
        Count(4, click.Language);
        Count(5, click.ReferrerHost);
    }

    /// <summary>Adds everything that was counted elsewhere.</summary>
    public void Add(DayCounts other)
    {
        ArgumentNullException.ThrowIfNull(other);
        for (var kind = 0; kind < kinds.Length; kind++)
        {
            kinds[kind] += other.kinds[kind];
        }

        for (var hour = 0; hour < hours.Length; hour++)
        {
            hours[hour] += other.hours[hour];
        }

        Visitors.Add(other.Visitors);
        for (var place = 0; place < tallies.Length; place++)
        {
            foreach (var (value, count) in other.tallies[place])
            {
                Count(place, value, count);
            }
        }
    }

    /// <summary>Whether both counted the same, whoever came first.</summary>
    public bool Agrees(DayCounts other)
    {
        ArgumentNullException.ThrowIfNull(other);
        return kinds.SequenceEqual(other.kinds) && hours.SequenceEqual(other.hours) && Visitors.ToBytes().SequenceEqual(other.Visitors.ToBytes())
            && Dimensions.All(d => Tally(d).SequenceEqual(other.Tally(d)));
    }

    /// <summary>Counts as they were kept.</summary>
    /// <param name="kinds">By number of <see cref="ClickKind"/>.</param>
    /// <param name="tallies">Values and counts of each of <see cref="Dimensions"/>.</param>
    public static DayCounts Read(ReadOnlySpan<int> kinds, ReadOnlySpan<int> hours, ReadOnlySpan<byte> visitors, IReadOnlyList<(string[] Values, int[] Counts)> tallies)
    {
        ArgumentNullException.ThrowIfNull(tallies);
        var counts = new DayCounts { Visitors = VisitorSketch.OfBytes(visitors) };
        kinds.CopyTo(counts.kinds);
        hours.CopyTo(counts.hours);
        for (var place = 0; place < tallies.Count; place++)
        {
            foreach (var (value, count) in tallies[place].Values.Zip(tallies[place].Counts))
            {
                counts.Count(place, value, count);
            }
        }

        return counts;
    }

    private static int Place(string dimension) => Dimensions.Index().First(d => d.Item == dimension).Index;

    private void Count(int place, string value, int count = 1) =>
        System.Runtime.InteropServices.CollectionsMarshal.GetValueRefOrAddDefault(tallies[place], value, out _) += count;
}
