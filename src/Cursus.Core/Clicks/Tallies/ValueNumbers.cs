using System.Buffers.Binary;
using System.Diagnostics.CodeAnalysis;
using System.Numerics;
using System.Text;

namespace Cursus.Core.Clicks.Tallies;

/// <summary>Gives each different text a number, from 0 in the order of their coming, so that counts can be added up in lists instead of by text. For
/// one reader at a time.</summary>
public sealed class ValueNumbers
{
    private readonly Dictionary<byte[], int> numbers;
    private readonly Dictionary<byte[], int>.AlternateLookup<ReadOnlySpan<byte>> lookup;
    private readonly List<string> texts = [];

    /// <summary>No text has a number yet.</summary>
    public ValueNumbers()
    {
        numbers = new(new ByBytes());
        lookup = numbers.GetAlternateLookup<ReadOnlySpan<byte>>();
    }

    /// <summary>How many texts have a number.</summary>
    public int Count => texts.Count;

    /// <summary>The text of a number that was given.</summary>
    public string this[int number] => texts[number];

    /// <summary>The number of a text, which is given one where it has none.</summary>
    public int Of(string text) => Of(Encoding.UTF8.GetBytes(text));

    /// <summary>The same for a text in UTF-8.</summary>
    public int Of(ReadOnlySpan<byte> utf8)
    {
        if (!lookup.TryGetValue(utf8, out var number))
        {
            number = texts.Count;
            numbers.Add(utf8.ToArray(), number);
            texts.Add(Encoding.UTF8.GetString(utf8));
        }

        return number;
    }

    private sealed class ByBytes : IEqualityComparer<byte[]>, IAlternateEqualityComparer<ReadOnlySpan<byte>, byte[]>
    {
        public bool Equals(byte[]? x, byte[]? y) => x.AsSpan().SequenceEqual(y);

        public int GetHashCode([DisallowNull] byte[] obj) => GetHashCode(obj.AsSpan());

        public bool Equals(ReadOnlySpan<byte> alternate, byte[] other) => alternate.SequenceEqual(other);

        public byte[] Create(ReadOnlySpan<byte> alternate) => alternate.ToArray();

        // Texts are short, and there are millions of them: their ends and their length tell them apart well enough.
        public int GetHashCode(ReadOnlySpan<byte> alternate)
        {
            var length = alternate.Length;
            var (first, last) =
                length >= sizeof(ulong)
                    ? (BinaryPrimitives.ReadUInt64LittleEndian(alternate), BinaryPrimitives.ReadUInt64LittleEndian(alternate[^sizeof(ulong)..]))
                    : (Short(alternate), 0ul);
            return (int)(((first ^ BitOperations.RotateLeft(last, 29) ^ (ulong)length) * 0x9E3779B97F4A7C15ul) >> 32);
        }

        private static ulong Short(ReadOnlySpan<byte> bytes)
        {
            var number = 0ul;
            foreach (var one in bytes)
            {
                number = (number << 8) | one;
            }

            return number;
        }
    }
}
