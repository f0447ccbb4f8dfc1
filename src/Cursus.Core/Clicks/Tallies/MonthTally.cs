using System.Buffers;
using System.Runtime.InteropServices;
using System.Text;

namespace Cursus.Core.Clicks.Tallies;

/// <summary>How often a value came on one day of a month.</summary>
/// <param name="Day">Day of the month, from 1.</param>
/// <param name="Value">Its number in the <see cref="ValueNumbers"/> that it was read with.</param>
public readonly record struct DayValue(int Day, int Value, int Count);

/// <summary>
/// Values counted by day over a month, in so little room that a link's whole month is read as fast as a single day of it: each value's text once, in
/// order, with its count over all days, and then each day with the places of its values in that list and their counts. Numbers are written seven bits
/// at a time, the lowest first (unsigned LEB128: "DWARF Debugging Information Format", version 5, section 7.6), so that nearly all take one byte. The
/// same counts make the same bytes; nothing counted makes none.
/// </summary>
public static class MonthTally
{
    /// <summary>Puts the days of a month into their bytes.</summary>
    /// <param name="days">In order; days without counts may be among them.</param>
    public static byte[] Pack(IReadOnlyCollection<(int Day, IReadOnlyList<KeyValuePair<string, int>> Counts)> days)
    {
        ArgumentNullException.ThrowIfNull(days);
        var values = days.SelectMany(d => d.Counts)
            .GroupBy(c => c.Key, StringComparer.Ordinal)
            .Select(g => (Text: g.Key, Total: g.Sum(c => c.Value)))
            .OrderBy(v => v.Text, StringComparer.Ordinal)
            .ToList();
        if (values.Count == 0)
        {
            return [];
        }

        var places = values.Index().ToDictionary(v => v.Item.Text, v => v.Index, StringComparer.Ordinal);
        var bytes = new ArrayBufferWriter<byte>();
        Write(bytes, values.Count);
        foreach (var (text, total) in values)
        {
            Write(bytes, Encoding.UTF8.GetByteCount(text));
            Encoding.UTF8.GetBytes(text, bytes);
            Write(bytes, total);
        }

        foreach (var (day, counts) in days.Where(d => d.Counts.Count > 0))
        {
            Write(bytes, day);
            Write(bytes, counts.Count);
            foreach (var (value, count) in counts)
            {
                Write(bytes, places[value]);
                Write(bytes, count);
            }
        }

        return bytes.WrittenSpan.ToArray();
    }

    /// <summary>Reads the days of a month out of their bytes, into a list that is emptied first. By day.</summary>
    /// <exception cref="FormatException">The bytes are not what <see cref="Pack"/> makes.</exception>
    public static void Unpack(ReadOnlySpan<byte> packed, ValueNumbers numbers, List<DayValue> into)
    {
        ArgumentNullException.ThrowIfNull(numbers);
        ArgumentNullException.ThrowIfNull(into);
        into.Clear();
        if (packed.Length == 0)
        {
            return;
        }

        var rest = packed;
        ReadValues(ref rest, numbers, into);
        var count = into.Count;
        var values = ArrayPool<int>.Shared.Rent(count);
        for (var place = 0; place < count; place++)
        {
            values[place] = into[place].Value;
        }

        into.Clear();
        while (rest.Length > 0)
        {
            var (day, ofDay) = (Read(ref rest), Counted(ref rest));
            var before = into.Count;
            CollectionsMarshal.SetCount(into, before + ofDay);
            ReadDay(ref rest, day, values.AsSpan(0, count), CollectionsMarshal.AsSpan(into)[before..]);
        }

        ArrayPool<int>.Shared.Return(values);
    }

    /// <summary>Reads the counts over all days, as if they had come on the first, without reading the days.</summary>
    /// <exception cref="FormatException">The bytes are not what <see cref="Pack"/> makes.</exception>
    public static void UnpackTotals(ReadOnlySpan<byte> packed, ValueNumbers numbers, List<DayValue> into)
    {
        ArgumentNullException.ThrowIfNull(numbers);
        ArgumentNullException.ThrowIfNull(into);
        into.Clear();
        if (packed.Length > 0)
        {
            ReadValues(ref packed, numbers, into);
        }
    }

    /// <summary>The same month with other counts of some days, and those of its other days as they were.</summary>
    /// <param name="days">In order; a day without counts has none afterwards.</param>
    public static byte[] With(ReadOnlySpan<byte> packed, IReadOnlyCollection<(int Day, IReadOnlyList<KeyValuePair<string, int>> Counts)> days)
    {
        ArgumentNullException.ThrowIfNull(days);
        var (numbers, before) = (new ValueNumbers(), new List<DayValue>());
        Unpack(packed, numbers, before);
        var changed = days.Select(d => d.Day).ToHashSet();
        var kept = before
            .Where(b => !changed.Contains(b.Day))
            .GroupBy(b => b.Day)
            .Select(day => (day.Key, (IReadOnlyList<KeyValuePair<string, int>>)[.. day.Select(b => KeyValuePair.Create(numbers[b.Value], b.Count))]));
        return Pack([.. kept.Concat(days).OrderBy(d => d.Item1)]);
    }

    private static void Write(ArrayBufferWriter<byte> bytes, int number)
    {
        var left = (uint)number;
        for (; left >= 0x80; left >>= 7)
        {
            bytes.Write([(byte)(left | 0x80)]);
        }

        bytes.Write([(byte)left]);
    }

    private static int Read(ref ReadOnlySpan<byte> bytes)
    {
        var number = 0;
        for (var at = 0; at < bytes.Length && at < 5; at++)
        {
            number |= (bytes[at] & 0x7f) << (7 * at);
            if (bytes[at] < 0x80)
            {
                bytes = bytes[(at + 1)..];
                return number >= 0 ? number : throw Broken();
            }
        }

        throw Broken();
    }

    private static void ReadValues(ref ReadOnlySpan<byte> bytes, ValueNumbers numbers, List<DayValue> into)
    {
        var count = Counted(ref bytes);
        for (var place = 0; place < count; place++)
        {
            var length = Read(ref bytes);
            var value = numbers.Of(Take(ref bytes, length));
            into.Add(new(1, value, Read(ref bytes)));
        }
    }

    private static void ReadDay(ref ReadOnlySpan<byte> bytes, int day, ReadOnlySpan<int> values, Span<DayValue> into)
    {
        var at = 0;
        for (var entry = 0; entry < into.Length; entry++)
        {
            // Nearly all places and counts take one byte each.
            if (at + 1 < bytes.Length && bytes[at] < 0x80 && bytes[at + 1] < 0x80 && bytes[at] < values.Length)
            {
                into[entry] = new(day, values[bytes[at]], bytes[at + 1]);
                at += 2;
                continue;
            }

            var rest = bytes[at..];
            into[entry] = new(day, Read(ref rest) is var place && place < values.Length ? values[place] : throw Broken(), Read(ref rest));
            at = bytes.Length - rest.Length;
        }

        bytes = bytes[at..];
    }

    /// <summary>How many of something follow, each of which takes a byte at least.</summary>
    private static int Counted(ref ReadOnlySpan<byte> bytes) => Read(ref bytes) is var count && count <= bytes.Length ? count : throw Broken();

    private static ReadOnlySpan<byte> Take(ref ReadOnlySpan<byte> bytes, int length)
    {
        if (length > bytes.Length)
        {
            throw Broken();
        }

        var taken = bytes[..length];
        bytes = bytes[length..];
        return taken;
    }

    private static FormatException Broken() => new("These are not the bytes of a month’s tally. Make the roll-ups anew.");
}
