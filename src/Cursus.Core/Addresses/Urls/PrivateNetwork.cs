using System.Net;
using System.Net.Sockets;

namespace Cursus.Core.Addresses.Urls;

/// <summary>
/// Addresses that mean this machine or the network it stands in, never a page for visitors: what the IANA special-purpose address registries
/// (RFC 6890 and its updates) list as not globally reachable, multicast (RFC 5771, RFC 4291), and the names of RFC 6761 and RFC 6762.
/// </summary>
public static class PrivateNetwork
{
    /// <summary>The networks of these registries.</summary>
    public static IReadOnlyList<IPNetwork> Networks { get; } =
    [
        .. new[]
        {
            "0.0.0.0/8",
            "10.0.0.0/8",
            "100.64.0.0/10",
            "127.0.0.0/8",
            "169.254.0.0/16",
            "172.16.0.0/12",
            "192.0.0.0/24",
            "192.0.2.0/24",
            "192.88.99.0/24",
            "192.168.0.0/16",
            "198.18.0.0/15",
            "198.51.100.0/24",
            "203.0.113.0/24",
            "224.0.0.0/4",
            "240.0.0.0/4",
            "::/128",
            "::1/128",
            "100::/64",
            "2001:db8::/32",
            "3fff::/20",
            "5f00::/16",
            "fc00::/7",
            "fe80::/10",
            "fec0::/10",
            "ff00::/8",
        }.Select(IPNetwork.Parse),
    ];

    // Addresses of these networks carry an IPv4 address that packets end up at: IPv4-compatible (RFC 4291), IPv4-translated (RFC 2765), NAT64 (RFC
    // 6052), 6to4 (RFC 3056).
    private static readonly (IPNetwork Network, int At)[] Carrying =
    [
        (IPNetwork.Parse("::/96"), 12),
        (IPNetwork.Parse("::ffff:0:0:0/96"), 12),
        (IPNetwork.Parse("64:ff9b::/96"), 12),
        (IPNetwork.Parse("2002::/16"), 2),
    ];

    /// <summary>What stands before the IPv4 address in an interface identifier of ISATAP (RFC 5214, section 6.1), with and without the bit that says
    /// it is globally unique.</summary>
    private static readonly byte[][] Isatap =
    [
        [0x00, 0x00, 0x5e, 0xfe],
        [0x02, 0x00, 0x5e, 0xfe],
    ];

    /// <summary>Tunnels whose end cannot be told from the address: Teredo (RFC 4380) and local NAT64 (RFC 8215).</summary>
    private static readonly IPNetwork[] Tunnels = [IPNetwork.Parse("2001::/32"), IPNetwork.Parse("64:ff9b:1::/48")];

    private static readonly string[] Names = ["localhost", "local", "internal", "lan", "home.arpa", "intranet", "corp", "home"];

    /// <summary>Whether packets to <paramref name="address"/> would stay on this machine or in a network of its operator.</summary>
    public static bool Covers(IPAddress address)
    {
        if (address.AddressFamily == AddressFamily.InterNetworkV6)
        {
            if (address.IsIPv4MappedToIPv6)
            {
                return Covers(address.MapToIPv4());
            }

            var bytes = address.GetAddressBytes();
            if (Array.Exists(Isatap, mark => bytes.AsSpan(8, 4).SequenceEqual(mark)) && Covers(new IPAddress(bytes.AsSpan(12, 4))))
            {
                return true;
            }

            foreach (var (network, at) in Carrying)
            {
                if (network.Contains(address) && Covers(new IPAddress(bytes.AsSpan(at, 4))))
                {
                    return true;
                }
            }
        }

        return Networks.Any(n => n.Contains(address)) || Array.Exists(Tunnels, n => n.Contains(address));
    }

    /// <summary>Whether a host as <see cref="WebAddress"/> writes it is private by itself: an address as above, or a name that no public server
    /// answers for.</summary>
    public static bool IsPrivate(string host)
    {
        var bare = host.Trim('[', ']').TrimEnd('.');
        return IPAddress.TryParse(bare, out var address)
            ? Covers(address)
            : Array.Exists(Names, n => bare == n || bare.EndsWith("." + n, StringComparison.Ordinal));
    }

    /// <summary>Whether <paramref name="allowed"/> names the host; an entry that begins with a dot means all names under it.</summary>
    public static bool IsAllowed(string host, IReadOnlyList<string> allowed)
    {
        var bare = host.TrimEnd('.');
        return allowed.Any(a =>
            a.StartsWith('.') ? bare.EndsWith(a, StringComparison.OrdinalIgnoreCase) : bare.Equals(a, StringComparison.OrdinalIgnoreCase)
        );
    }
}
