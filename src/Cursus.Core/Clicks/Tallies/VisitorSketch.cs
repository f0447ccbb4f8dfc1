using System.Buffers.Binary;
using System.Numerics;

namespace Cursus.Core.Clicks.Tallies;

/// <summary>
/// Says about how many different visitors there were, in little room, such that days and links can be put together: a HyperLogLog (Flajolet, Fusy,
/// Gandouet and Meunier, "HyperLogLog: the analysis of a near-optimal cardinality estimation algorithm", 2007) with 2,048 registers, whose standard
/// error is 1.04/√2048 = 2.3 %. Up to <see cref="MostExact"/> visitors it keeps the hashes themselves and counts exactly, which is what most links
/// have on a day.
/// </summary>
public sealed class VisitorSketch
{
    /// <summary>Up to so many visitors are counted exactly: as long as their hashes take no more room than the registers.</summary>
    public const int MostExact = 192;

    private const int IndexBits = 11;
    private const int Registers = 1 << IndexBits;

    // In order, the first exactCount of them; null once it estimates.
    private long[]? exact = [];
    private int exactCount;
    private byte[]? registers;

    /// <summary>True while it counts and doesn't estimate.</summary>
    public bool IsExact => exact is not null;

    /// <summary>About how many different visitors were added.</summary>
    public long Count => exact is null ? Estimate(registers!) : exactCount;

    private ReadOnlySpan<long> Exact => exact.AsSpan(0, exactCount);

    /// <summary>Adds a visitor by the hash of the day; see <see cref="VisitorHash"/>.</summary>
    public void Add(long visitor)
    {
        if (exact is null)
        {
            Register(registers!, visitor);
        }
        else if (Exact.BinarySearch(visitor) is < 0 and var place)
        {
            Insert(~place, visitor);
            if (exactCount > MostExact)
            {
                BecomeDense();
            }
        }
    }

    /// <summary>Adds all visitors of another sketch; one who is in both counts once.</summary>
    public void Add(VisitorSketch other)
    {
        ArgumentNullException.ThrowIfNull(other);
        if (other.exact is not null)
        {
            foreach (var visitor in other.Exact)
            {
                Add(visitor);
            }

            return;
        }

        if (exact is not null)
        {
            BecomeDense();
        }

        for (var i = 0; i < Registers; i++)
        {
            registers![i] = Math.Max(registers[i], other.registers![i]);
        }
    }

    /// <summary>The sketch as the database keeps it: hashes of eight bytes in order, or behind one zero byte the registers. The same visitors make
    /// the same bytes.</summary>
    public byte[] ToBytes()
    {
        if (exact is null)
        {
            return [0, .. registers!];
        }

        var bytes = new byte[exactCount * sizeof(long)];
        var at = 0;
        foreach (var visitor in Exact)
        {
            BinaryPrimitives.WriteInt64LittleEndian(bytes.AsSpan(at), visitor);
            at += sizeof(long);
        }

        return bytes;
    }

    /// <exception cref="ArgumentException">These are not the bytes of a sketch.</exception>
    public static VisitorSketch OfBytes(ReadOnlySpan<byte> bytes)
    {
        if (bytes.Length == Registers + 1)
        {
            return new VisitorSketch { exact = null, registers = bytes[1..].ToArray() };
        }

        if (bytes.Length % sizeof(long) != 0 || bytes.Length > MostExact * sizeof(long))
        {
            throw new ArgumentException($"{bytes.Length} bytes are no sketch of visitors.", nameof(bytes));
        }

        var sketch = new VisitorSketch();
        for (; bytes.Length > 0; bytes = bytes[sizeof(long)..])
        {
            sketch.Add(BinaryPrimitives.ReadInt64LittleEndian(bytes));
        }

        return sketch;
    }

    private void Insert(int place, long visitor)
    {
        if (exactCount == exact!.Length)
        {
            Array.Resize(ref exact, Math.Max(1, exactCount * 2));
        }

        exact.AsSpan(place, exactCount - place).CopyTo(exact.AsSpan(place + 1));
        exact[place] = visitor;
        exactCount++;
    }

    private void BecomeDense()
    {
        registers = new byte[Registers];
        foreach (var visitor in Exact)
        {
            Register(registers, visitor);
        }

        exact = null;
    }

    private static void Register(byte[] registers, long visitor)
    {
        var hash = (ulong)visitor;
        var index = hash >> (64 - IndexBits);
        var rank = (byte)(BitOperations.LeadingZeroCount((hash << IndexBits) | (1UL << (IndexBits - 1))) + 1);
        registers[index] = Math.Max(registers[index], rank);
    }

    /// <summary>The estimate of the paper's figure 3, with its correction for small numbers; a 64-bit hash needs none for large ones.</summary>
    private static long Estimate(byte[] registers)
    {
        const double alpha = 0.7213 / (1 + 1.079 / Registers);
        var sum = 0.0;
        var zeros = 0;
        foreach (var register in registers)
        {
            sum += Math.ScaleB(1, -register);
            zeros += register == 0 ? 1 : 0;
        }

        var raw = alpha * Registers * Registers / sum;
        return (long)Math.Round(raw <= 2.5 * Registers && zeros > 0 ? Registers * Math.Log((double)Registers / zeros) : raw);
    }
}
