using System.Buffers.Binary;
using System.Net;
using System.Net.Sockets;

namespace Cursus.Core.Clicks;

/// <summary>
/// Which country a network address belongs to. Holds the first address of each range with its country, some ten bytes a range, and finds by halving
/// within the ranges whose first sixteen bits are the address's, since each step over the whole table would wait for memory. IPv6 ranges are told
/// apart by their first 64 bits: networks are not given out in smaller pieces (RFC 6177).
/// </summary>
public sealed class CountryTable
{
    /// <summary>Knows no country of any address.</summary>
    public static readonly CountryTable Empty = new([]);

    private readonly Ranges v4;
    private readonly Ranges v6;

    /// <param name="networks">Networks in no order, none within another of a different country.</param>
    public CountryTable(IEnumerable<(IPAddress First, int PrefixLength, CountryCode Country)> networks)
    {
        ArgumentNullException.ThrowIfNull(networks);
        var ranges = networks
            .Select(n => (IsV4: n.First.AddressFamily == AddressFamily.InterNetwork, Start: Number(n.First), n.PrefixLength, n.Country))
            .ToList();
        v4 = new Ranges(ranges.Where(r => r.IsV4).Select(r => (r.Start, 1UL << (32 - r.PrefixLength), r.Country)), bits: 32);
        v6 = new Ranges(
            ranges.Where(r => !r.IsV4).Select(r => (r.Start, r.PrefixLength == 0 ? 0 : 1UL << (64 - Math.Min(r.PrefixLength, 64)), r.Country)),
            bits: 64
        );
    }

    private CountryTable(Ranges v4, Ranges v6) => (this.v4, this.v6) = (v4, v6);

    /// <summary>This table, and where it knows no country, what the other one knows.</summary>
    public CountryTable Else(CountryTable other)
    {
        ArgumentNullException.ThrowIfNull(other);
        return With(other, (known, others) => known != default ? known : others);
    }

    /// <summary>This table without what it says of some networks.</summary>
    public CountryTable Without(IEnumerable<IPNetwork> networks)
    {
        // Any country marks them.
        var marked = new CountryTable(networks.Select(n => (n.BaseAddress, n.PrefixLength, CountryCode.Of("ZZ"))));
        return With(marked, (known, mark) => mark != default ? default : known);
    }

    private CountryTable With(CountryTable other, Func<CountryCode, CountryCode, CountryCode> choose) =>
        new(v4.With(other.v4, choose), v6.With(other.v6, choose));

    /// <summary>How many ranges it tells apart.</summary>
    public int Count => v4.Count + v6.Count;

    /// <summary>The country of an address; unknown where no network holds it, as for reserved blocks.</summary>
    public CountryCode Find(IPAddress? address)
    {
        if (address is null)
        {
            return default;
        }

        if (address.IsIPv4MappedToIPv6)
        {
            address = address.MapToIPv4();
        }

        return (address.AddressFamily == AddressFamily.InterNetwork ? v4 : v6).Find(Number(address));
    }

    /// <summary>An IPv4 address as its number, an IPv6 address as that of its first half.</summary>
    private static ulong Number(IPAddress address)
    {
        Span<byte> bytes = stackalloc byte[16];
        address.TryWriteBytes(bytes, out var length);
        return length == 4 ? BinaryPrimitives.ReadUInt32BigEndian(bytes) : BinaryPrimitives.ReadUInt64BigEndian(bytes);
    }

    private sealed class Ranges
    {
        private readonly int shift;
        private readonly ulong[] starts;
        private readonly CountryCode[] countries;

        // For each value of the first sixteen bits, how many ranges begin before it.
        private readonly int[] before = new int[(1 << 16) + 1];

        public Ranges(IEnumerable<(ulong Start, ulong Size, CountryCode Country)> networks, int bits)
            : this(Changes(networks, endOfAll: bits == 64 ? 0 : 1UL << bits), bits - 16) { }

        private Ranges((ulong[] Starts, CountryCode[] Countries) changes, int shift)
        {
            this.shift = shift;
            (starts, countries) = changes;
            foreach (var start in starts)
            {
                before[(start >> shift) + 1]++;
            }

            for (var i = 1; i < before.Length; i++)
            {
                before[i] += before[i - 1];
            }
        }

        public int Count => starts.Length;

        public Ranges With(Ranges other, Func<CountryCode, CountryCode, CountryCode> choose)
        {
            var changes = new Changing();
            for (int at = 0, otherAt = 0; at < starts.Length || otherAt < other.starts.Length; )
            {
                var start =
                    at == starts.Length ? other.starts[otherAt]
                    : otherAt == other.starts.Length ? starts[at]
                    : Math.Min(starts[at], other.starts[otherAt]);
                at += at < starts.Length && starts[at] == start ? 1 : 0;
                otherAt += otherAt < other.starts.Length && other.starts[otherAt] == start ? 1 : 0;
                changes.Add(start, choose(at > 0 ? countries[at - 1] : default, otherAt > 0 ? other.countries[otherAt - 1] : default));
            }

            return new Ranges(changes.ToArrays(), shift);
        }

        public CountryCode Find(ulong address)
        {
            var first = address >> shift;
            var (from, to) = (before[first], before[first + 1]);
            var at = Array.BinarySearch(starts, from, to - from, address);
            at = at < 0 ? ~at - 1 : at;
            return at < 0 ? default : countries[at];
        }

        /// <summary>One entry wherever the country changes, the unknown one between networks included.</summary>
        private static (ulong[], CountryCode[]) Changes(IEnumerable<(ulong Start, ulong Size, CountryCode Country)> networks, ulong endOfAll)
        {
            var changes = new Changing();
            var end = 0UL;
            foreach (var (start, size, country) in networks.OrderBy(n => n.Start))
            {
                if (start > end && !changes.IsEmpty)
                {
                    changes.Add(end, default);
                }

                changes.Add(start, country);
                end = start + size;
            }

            if (end != 0 && end != endOfAll)
            {
                changes.Add(end, default);
            }

            return changes.ToArrays();
        }
    }

    /// <summary>Gathers where the country changes, in the order of addresses.</summary>
    private sealed class Changing
    {
        private readonly List<ulong> starts = [];
        private readonly List<CountryCode> countries = [];

        public bool IsEmpty => starts.Count == 0;

        public void Add(ulong start, CountryCode country)
        {
            if (countries.Count > 0 && starts[^1] == start)
            {
                countries[^1] = country;
            }
            else if (countries.Count == 0 || countries[^1] != country)
            {
                starts.Add(start);
                countries.Add(country);
            }
        }

        public (ulong[] Starts, CountryCode[] Countries) ToArrays() => ([.. starts], [.. countries]);
    }
}
