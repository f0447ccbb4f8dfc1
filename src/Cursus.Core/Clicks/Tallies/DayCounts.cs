namespace Cursus.Core.Clicks.Tallies;

/// <summary>What came of one link on one day: the roll-up that reports are made of. Adding clicks one by one, or the counts of some and then of the
/// others, comes to the same.</summary>
public sealed class DayCounts
{
    private readonly int[] kinds = new int[Enum.GetValues<ClickKind>().Length];
    private readonly int[] hours = new int[24];

    // In the order of DayTally.All.
    private readonly Tally[] tallies = [.. DayTally.All.Select(_ => new Tally())];

    /// <summary>Who clicked; people only.</summary>
    public VisitorSketch Visitors { get; private init; } = new();

    /// <summary>How many different people clicked. The sketch guesses larger numbers, a few of a hundred too high or too low; but nobody is a visitor
    /// without a click.</summary>
    public int People => (int)Math.Min(Visitors.Count, kinds[(int)ClickKind.Person]);

    /// <summary>People's clicks by hour of the workspace's clock.</summary>
    public IReadOnlyList<int> Hours => hours;

    /// <summary>Clicks of one kind.</summary>
    public int Of(ClickKind kind) => kinds[(int)kind];

    /// <summary>The values of one of <see cref="DayTally.All"/> in order, with people's clicks of each.</summary>
    /// <exception cref="ArgumentException">Days keep no tally of this name.</exception>
    public IReadOnlyList<KeyValuePair<string, int>> Tally(string name)
    {
        for (var place = 0; place < tallies.Length; place++)
        {
            if (DayTally.All[place].Name == name)
            {
                return tallies[place].InOrder();
            }
        }

        throw new ArgumentException($"Days keep no tally of “{name}”.", nameof(name));
    }

    /// <summary>Counts a click that came in an hour (0 to 23) of the workspace's clock.</summary>
    public void Add(in EnrichedClick click, int hour)
    {
        kinds[(int)click.Kind]++;
        if (click.Kind != ClickKind.Person)
        {
            return;
        }

        hours[hour]++;
        Visitors.Add(click.Visitor);
        for (var place = 0; place < tallies.Length; place++)
        {
            tallies[place].Add(DayTally.All[place].ValueOf(click));
        }
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
            tallies[place].Add(other.tallies[place]);
        }
    }

    /// <summary>Whether both counted the same, whoever came first.</summary>
    public bool Agrees(DayCounts other)
    {
        ArgumentNullException.ThrowIfNull(other);
        return kinds.SequenceEqual(other.kinds)
            && hours.SequenceEqual(other.hours)
            && Visitors.ToBytes().SequenceEqual(other.Visitors.ToBytes())
            && DayTally.All.All(t => Tally(t.Name).SequenceEqual(other.Tally(t.Name)));
    }

    /// <summary>Counts as they were kept.</summary>
    /// <param name="kinds">By number of <see cref="ClickKind"/>.</param>
    /// <param name="tallies">Values and counts of each of <see cref="DayTally.All"/>, in that order.</param>
    public static DayCounts Read(
        ReadOnlySpan<int> kinds,
        ReadOnlySpan<int> hours,
        ReadOnlySpan<byte> visitors,
        IReadOnlyList<(string[] Values, int[] Counts)> tallies
    )
    {
        ArgumentNullException.ThrowIfNull(tallies);
        var counts = new DayCounts { Visitors = VisitorSketch.OfBytes(visitors) };
        kinds.CopyTo(counts.kinds);
        hours.CopyTo(counts.hours);
        for (var place = 0; place < tallies.Count; place++)
        {
            var (values, numbers) = tallies[place];
            for (var i = 0; i < values.Length; i++)
            {
                counts.tallies[place].Add(values[i], numbers[i]);
            }
        }

        return counts;
    }
}
