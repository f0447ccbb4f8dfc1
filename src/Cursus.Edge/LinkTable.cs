using System.IO.Hashing;
using System.Text;
using Cursus.Core.Addresses.Slugs;

namespace Cursus.Edge;

/// <summary>
/// All links of all verified short domains, in memory, by domain and slug without case. Read by any number of visitors without a lock, written by
/// one. Links lie one after the other as bytes in blocks of a megabyte, found by a table of hashes, so that a million take some 150 MB and the
/// garbage collector has nothing to look through. A changed link is written anew at the end; when half of it all is given up, everything is written
/// anew.
/// </summary>
public sealed class LinkTable
{
    private const int BlockBits = 20;
    private const int UnitBits = 3;
    private const int UnitsPerBlock = 1 << (BlockBits - UnitBits);
    private const int FirstSlots = 1 << 10;
    private const uint Removed = uint.MaxValue;
    private const long SpareBytes = 16L << BlockBits;

    private readonly Lock writing = new();

    private volatile Contents contents = new(FirstSlots);
    private Contents? coming;

    /// <summary>How many links it holds.</summary>
    public int Count => contents.Count;

    /// <summary>Bytes of memory that it takes.</summary>
    public long Size => contents.Size;

    /// <summary>Grows with each change.</summary>
    public long Changes { get; private set; }

    /// <summary>All records as they are at the moment; links that change meanwhile may come in their old or their new state.</summary>
    internal IEnumerable<ReadOnlyMemory<byte>> Records => contents.Records;

    /// <summary>From now on changes make a table that nobody sees until <see cref="EndAnew"/>; one that was begun before is given up.</summary>
    internal void BeginAnew()
    {
        lock (writing)
        {
            coming = new Contents(FirstSlots);
        }
    }

    /// <summary>Visitors see what was written since <see cref="BeginAnew"/> and nothing else.</summary>
    internal void EndAnew()
    {
        lock (writing)
        {
            (contents, coming) = (coming ?? contents, null);
        }
    }

    /// <summary>Looks a slug up as a visitor typed it.</summary>
    /// <returns>False where the domain has no such link.</returns>
    public bool TryFind(int domain, ReadOnlySpan<char> slug, out LinkEntry link)
    {
        link = default;
        Span<byte> key = stackalloc byte[Slug.MaxLength];
        return TryFold(slug, key, out var length) && contents.TryFind(domain, key[..length], out link);
    }

    /// <summary>Enters or changes a link; see <see cref="LinkEntry"/>.</summary>
    public void Put(ReadOnlySpan<byte> record)
    {
        lock (writing)
        {
            var changed = coming ?? contents;
            if (changed.MustGrow || changed.GivenUp > SpareBytes + changed.Used / 2)
            {
                changed = changed.Rewritten();
                _ = coming is null ? contents = changed : coming = changed;
            }

            changed.Put(record);
            Changes++;
        }
    }

    public void Remove(int domain, string slugKey)
    {
        lock (writing)
        {
            (coming ?? contents).Remove(domain, Encoding.ASCII.GetBytes(slugKey));
            Changes++;
        }
    }

    /// <summary>Slugs are ASCII; whatever else is typed names no link.</summary>
    private static bool TryFold(ReadOnlySpan<char> slug, Span<byte> key, out int length)
    {
        length = 0;
        return slug.Length is > 0 and <= Slug.MaxLength && Ascii.ToLower(slug, key, out length) == System.Buffers.OperationStatus.Done;
    }

    /// <summary>Hash table with open addressing. A slot holds the upper half of the hash and, below it, the place of the record in units of eight
    /// bytes, counted from one; zero is an empty slot. A slot is published with one write after its record stands, so that readers see all of a link
    /// or nothing.</summary>
    private sealed class Contents(int slotCount)
    {
        private readonly ulong[] slots = new ulong[slotCount];
        private readonly byte[][] blocks = new byte[1 << 13][];
        private long nextUnit = 1;
        private int taken;

        public int Count { get; private set; }

        public long Used => nextUnit << UnitBits;

        public long GivenUp { get; private set; }

        public long Size => (slots.Length + blocks.Length) * 8L + (((Used >> BlockBits) + 1) << BlockBits);

        public bool MustGrow => taken >= slots.Length / 4 * 3;

        public IEnumerable<ReadOnlyMemory<byte>> Records
        {
            get
            {
                for (var i = 0; i < slots.Length; i++)
                {
                    if ((uint)Volatile.Read(ref slots[i]) is not (0 or Removed) and var place)
                    {
                        var start = (int)(place % UnitsPerBlock) << UnitBits;
                        yield return blocks[place / UnitsPerBlock].AsMemory(start, At(place, out _).Length);
                    }
                }
            }
        }

        public bool TryFind(int domain, scoped ReadOnlySpan<byte> key, out LinkEntry link)
        {
            var slot = Slot(domain, key, out _, out link);
            return slot >= 0;
        }

        public void Put(ReadOnlySpan<byte> record)
        {
            var entry = new LinkEntry(record);
            var slot = Slot(entry.Domain, entry.Slug, out var hash, out var old);
            var place = Append(record);
            if (slot >= 0)
            {
                GivenUp += old.Length;
            }
            else
            {
                slot = FreeSlot(hash);
                taken++;
                Count++;
            }

            Volatile.Write(ref slots[slot], (hash & 0xffffffff_00000000) | place);
        }

        public void Remove(int domain, ReadOnlySpan<byte> key)
        {
            var slot = Slot(domain, key, out var hash, out var old);
            if (slot >= 0)
            {
                GivenUp += old.Length;
                Count--;
                Volatile.Write(ref slots[slot], (hash & 0xffffffff_00000000) | Removed);
            }
        }

        /// <summary>The same links without what was given up, in a table with room.</summary>
        public Contents Rewritten()
        {
            var slotCount = slots.Length;
            while (Count >= slotCount / 2)
            {
                slotCount *= 2;
            }

            var rewritten = new Contents(slotCount);
            foreach (var slot in slots)
            {
                if ((uint)slot is not (0 or Removed))
                {
                    var link = At((uint)slot, out var bytes);
                    rewritten.Put(bytes[..link.Length]);
                }
            }

            return rewritten;
        }

        /// <summary>The slot of a link, or a negative number.</summary>
        private int Slot(int domain, scoped ReadOnlySpan<byte> key, out ulong hash, out LinkEntry link)
        {
            hash = XxHash3.HashToUInt64(key, domain);
            for (var i = (int)hash & (slots.Length - 1); ; i = (i + 1) & (slots.Length - 1))
            {
                var slot = Volatile.Read(ref slots[i]);
                if (slot == 0)
                {
                    link = default;
                    return -1;
                }

                if ((slot ^ hash) >> 32 == 0 && (uint)slot != Removed)
                {
                    link = At((uint)slot, out _);
                    if (link.Domain == domain && link.Slug.SequenceEqual(key))
                    {
                        return i;
                    }
                }
            }
        }

        private int FreeSlot(ulong hash)
        {
            var i = (int)hash & (slots.Length - 1);
            while (slots[i] != 0)
            {
                i = (i + 1) & (slots.Length - 1);
            }

            return i;
        }

        private LinkEntry At(uint place, out ReadOnlySpan<byte> bytes)
        {
            bytes = blocks[place / UnitsPerBlock].AsSpan((int)(place % UnitsPerBlock) << UnitBits);
            return new LinkEntry(bytes);
        }

        /// <summary>Writes a record behind the last; none lies over the end of a block.</summary>
        private uint Append(ReadOnlySpan<byte> record)
        {
            var units = (record.Length + 7) >> UnitBits;
            if (nextUnit % UnitsPerBlock + units > UnitsPerBlock)
            {
                nextUnit = (nextUnit / UnitsPerBlock + 1) * UnitsPerBlock;
            }

            var place = nextUnit;
            var block = blocks[place / UnitsPerBlock] ??= new byte[1 << BlockBits];
            record.CopyTo(block.AsSpan((int)(place % UnitsPerBlock) << UnitBits));
            nextUnit += units;
            return (uint)place;
        }
    }
}
