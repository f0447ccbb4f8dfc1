using System.Net;
using System.Net.Sockets;

namespace Cursus.Core.Clicks;

/// <summary>Tells for some seconds whether visits came from the same network, without keeping which: a keyed hash of the first half of the network
/// address. Stands in the journal until clicks are shipped, and nowhere else.</summary>
public static class NetworkHash
{
    /// <summary>How much of an address is a network: what is routed apart, and so the least that belongs to one owner. Common practice, no
    /// source.</summary>
    private const int BytesV4 = 3;

    /// <summary>Providers give sites a /48 (RFC 6177).</summary>
    private const int BytesV6 = 6;

    /// <summary><see cref="SipHash"/> under the day's <paramref name="salt"/>, cut to an odd number of 32 bits; 0 where there is no
    /// address.</summary>
    public static int Of(ReadOnlySpan<byte> salt, IPAddress? address)
    {
        if (address is null)
        {
            return 0;
        }

        Span<byte> bytes = stackalloc byte[16];
        address.TryWriteBytes(bytes, out _);
        return (int)SipHash.Of(salt, bytes[..(address.AddressFamily == AddressFamily.InterNetwork ? BytesV4 : BytesV6)]) | 1;
    }
}
