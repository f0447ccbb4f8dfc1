using System.Text.Json.Serialization;
using Cursus.Core.Clicks;

namespace Cursus.Core.Routing;

/// <summary>Slots that follow each other.</summary>
/// <param name="From">The first.</param>
/// <param name="To">The one behind the last.</param>
public readonly record struct SlotRange([property: JsonIgnore(Condition = JsonIgnoreCondition.Never)] int From, int To)
{
    [JsonIgnore]
    public int Length => To - From;
}

/// <summary>
/// Who gets which page of a split. A visitor falls into one of a thousand slots, always the same one of a split, and each page has slots of its own,
/// ten for each percent. When weights change, a page that gets less gives the last of its slots to those that get more, so that exactly the share of
/// visitors moves that has to. No function of the weights alone can do that for every change with three pages or more, which is why slots are kept.
/// </summary>
public static class SplitSlots
{
    /// <summary>Slots of a split.</summary>
    public const int Count = 1000;

    private const int Percent = Count / 100;

    /// <summary>The slot of a visitor.</summary>
    /// <param name="visitor">The visitor's key, of the day or of thirty days.</param>
    public static int Of(long visitor, Guid link, Guid split)
    {
        Span<byte> key = stackalloc byte[SipHash.KeySize];
        Span<byte> text = stackalloc byte[16 + sizeof(long)];
        split.TryWriteBytes(key);
        link.TryWriteBytes(text);
        BitConverter.TryWriteBytes(text[16..], visitor);
        return (int)Math.BigMul(SipHash.Of(key, text), Count, out _);
    }

    /// <summary>Whether each slot belongs to one of the pages, and to one alone.</summary>
    public static bool AreWhole(IEnumerable<IReadOnlyList<SlotRange>> pages)
    {
        var at = 0;
        foreach (var range in pages.SelectMany(p => p).Where(r => r.Length != 0).OrderBy(r => r.From))
        {
            if (range.From != at || range.To < at)
            {
                return false;
            }

            at = range.To;
        }

        return at == Count;
    }

    /// <summary>Slots for new pages of these weights, which add up to a hundred.</summary>
    public static IReadOnlyList<IReadOnlyList<SlotRange>> Of(IReadOnlyList<int> weights) =>
        Moved([.. weights.Select(_ => Array.Empty<SlotRange>())], weights);

    /// <summary>Slots for pages of these weights, of which each has had slots before, or none where it is new. What pages had that are gone is
    /// free.</summary>
    /// <param name="had">In the order of the weights.</param>
    public static IReadOnlyList<IReadOnlyList<SlotRange>> Moved(IReadOnlyList<IReadOnlyList<SlotRange>> had, IReadOnlyList<int> weights)
    {
        ArgumentNullException.ThrowIfNull(had);
        ArgumentNullException.ThrowIfNull(weights);
        if (weights.Sum() != 100 || had.Count != weights.Count)
        {
            throw new ArgumentException("The weights of a split add up to a hundred, one for each page.", nameof(weights));
        }

        const int nobody = -1;
        var owners = new int[Count];
        Array.Fill(owners, nobody);
        for (var page = 0; page < had.Count; page++)
        {
            var kept = 0;
            foreach (var slot in had[page].SelectMany(r => Enumerable.Range(r.From, r.Length)))
            {
                if (kept++ < weights[page] * Percent)
                {
                    owners[slot] = page;
                }
            }
        }

        var free = new Queue<int>(Enumerable.Range(0, Count).Where(slot => owners[slot] == nobody));
        for (var page = 0; page < weights.Count; page++)
        {
            for (var missing = (weights[page] * Percent) - owners.Count(o => o == page); missing > 0; missing--)
            {
                owners[free.Dequeue()] = page;
            }
        }

        return [.. weights.Select((_, page) => Ranges(owners, page))];
    }

    private static List<SlotRange> Ranges(int[] owners, int page)
    {
        var ranges = new List<SlotRange>();
        for (var slot = 0; slot < owners.Length; slot++)
        {
            if (owners[slot] != page)
            {
                continue;
            }

            if (ranges.Count > 0 && ranges[^1].To == slot)
            {
                ranges[^1] = ranges[^1] with { To = slot + 1 };
            }
            else
            {
                ranges.Add(new SlotRange(slot, slot + 1));
            }
        }

        return ranges;
    }
}
