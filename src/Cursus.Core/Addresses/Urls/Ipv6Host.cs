using System.Globalization;
using System.Net;
using System.Net.Sockets;

namespace Cursus.Core.Addresses.Urls;

/// <summary>IPv6 hosts: read by the platform's parser, written as WHATWG URL Standard, section 3.5, "IPv6 serializer" asks.</summary>
internal static class Ipv6Host
{
    public static ushort[]? Parse(string text)
    {
        if (
            text.Contains('%', StringComparison.Ordinal)
            || text.Contains('/', StringComparison.Ordinal)
            || text.Contains('[', StringComparison.Ordinal)
            || !IPAddress.TryParse(text, out var address)
            || address.AddressFamily != AddressFamily.InterNetworkV6
        )
        {
            return null;
        }

        var bytes = address.GetAddressBytes();
        return [.. Enumerable.Range(0, 8).Select(i => (ushort)((bytes[2 * i] << 8) | bytes[2 * i + 1]))];
    }

    public static string Write(ushort[] pieces)
    {
        var (start, length) = LongestZeros(pieces);
        var written = new List<string>();
        for (var i = 0; i < 8; i++)
        {
            if (length > 1 && i == start)
            {
                written.Add(i == 0 || i + length == 8 ? ":" : "");
                if (i == 0 && length == 8)
                {
                    return "::";
                }

                i += length - 1;
                continue;
            }

            written.Add(pieces[i].ToString("x", CultureInfo.InvariantCulture));
        }

        return string.Join(':', written);
    }

    private static (int Start, int Length) LongestZeros(ushort[] pieces)
    {
        var best = (Start: -1, Length: 0);
        for (var i = 0; i < 8; i++)
        {
            var length = pieces.Skip(i).TakeWhile(p => p == 0).Count();
            if (length > best.Length)
            {
                best = (i, length);
            }
        }

        return best;
    }
}
