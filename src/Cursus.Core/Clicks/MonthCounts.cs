using NodaTime;

namespace Cursus.Core.Clicks;

/// <summary>What came of one link in one month: the sum of its days, with the hours of the week instead of those of each day.</summary>
public sealed class MonthCounts
{
    /// <summary>Hours of a week, counted from Monday midnight.</summary>
    public const int HoursOfWeek = 7 * 24;

    private readonly int[] kinds = new int[Enum.GetValues<ClickKind>().Length];
    private readonly int[] weekHours = new int[HoursOfWeek];
    private readonly Tally[] tallies = [.. DayCounts.Dimensions.Select(_ => new Tally())];

    /// <summary>People, each of them anew on each day.</summary>
    public int Visitors { get; private set; }

    /// <summary>People's clicks by hour of the week, from 0 (Monday, midnight to one) to 167.</summary>
    public IReadOnlyList<int> WeekHours => weekHours;

    /// <summary>Clicks of one kind.</summary>
    public int Of(ClickKind kind) => kinds[(int)kind];

    /// <summary>The values of a dimension, by its place in <see cref="DayCounts.Dimensions"/>, in order, with people's clicks of each.</summary>
    public IReadOnlyList<KeyValuePair<string, int>> Tally(int dimension) => tallies[dimension].InOrder();

    /// <summary>Adds a day's counts of one kind.</summary>
    public void Add(ClickKind kind, int clicks) => kinds[(int)kind] += clicks;

    /// <summary>Adds a day's people by hour of the day, and how many there were.</summary>
    public void Add(IsoDayOfWeek day, ReadOnlySpan<int> hours, int visitors)
    {
        for (var hour = 0; hour < hours.Length; hour++)
        {
            weekHours[((int)day - 1) * 24 + hour] += hours[hour];
        }

        Visitors += visitors;
    }

    /// <summary>Adds a day's clicks of one value of a dimension.</summary>
    public void Add(int dimension, string value, int clicks) => tallies[dimension].Add(value, clicks);

    /// <summary>Adds a whole day.</summary>
    public void Add(LocalDate date, DayCounts day)
    {
        ArgumentNullException.ThrowIfNull(day);
        foreach (var kind in Enum.GetValues<ClickKind>())
        {
            Add(kind, day.Of(kind));
        }

        Add(date.DayOfWeek, [.. day.Hours], (int)day.Visitors.Count);
        for (var dimension = 0; dimension < DayCounts.Dimensions.Count; dimension++)
        {
            foreach (var (value, clicks) in day.Tally(dimension))
            {
                Add(dimension, value, clicks);
            }
        }
    }

    /// <summary>Whether both counted the same.</summary>
    public bool Agrees(MonthCounts other)
    {
        ArgumentNullException.ThrowIfNull(other);
        return Visitors == other.Visitors && kinds.SequenceEqual(other.kinds) && weekHours.SequenceEqual(other.weekHours)
            && DayCounts.Dimensions.Index().All(d => Tally(d.Index).SequenceEqual(other.Tally(d.Index)));
    }
}
