using System.Runtime.InteropServices;

namespace Cursus.Core.Clicks.Tallies;

/// <summary>How often each value came. Most tallies hold one or two values, so that a few are looked through and only many are looked up.</summary>
internal sealed class Tally
{
    private const int Few = 12;

    private readonly List<KeyValuePair<string, int>> counts = new(1);
    private Dictionary<string, int>? places;

    /// <summary>Adds to a value's count.</summary>
    public void Add(string value, int count = 1)
    {
        var place = PlaceOf(value);
        if (place < 0)
        {
            places?.Add(value, counts.Count);
            counts.Add(new(value, count));
            return;
        }

        ref var entry = ref CollectionsMarshal.AsSpan(counts)[place];
        entry = new(value, entry.Value + count);
    }

    /// <summary>Adds everything that was counted elsewhere.</summary>
    public void Add(Tally other)
    {
        foreach (var (value, count) in other.counts)
        {
            Add(value, count);
        }
    }

    /// <summary>Values in order, with their counts.</summary>
    public IReadOnlyList<KeyValuePair<string, int>> InOrder()
    {
        if (counts.Count > 1)
        {
            counts.Sort((one, other) => string.CompareOrdinal(one.Key, other.Key));
            places = null;
        }

        return counts;
    }

    private int PlaceOf(string value)
    {
        if (counts.Count > Few)
        {
            places ??= counts.Index().ToDictionary(c => c.Item.Key, c => c.Index, StringComparer.Ordinal);
            return places.TryGetValue(value, out var place) ? place : -1;
        }

        for (var i = 0; i < counts.Count; i++)
        {
            if (counts[i].Key == value)
            {
                return i;
            }
        }

        return -1;
    }
}
