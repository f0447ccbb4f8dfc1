using System.Net;
using System.Text;

namespace Cursus.Core.Clicks;

/// <summary>
/// Tells visitors apart for one day without knowing who they are: a keyed hash of short domain, network address and user agent.
/// When the day's salt is thrown away, nobody can compute the hash again.
/// </summary>
public static class VisitorHash
{
    private const int AddressSize = 16;

    /// <summary><see cref="SipHash"/> under the day's <paramref name="salt"/> of <see cref="SipHash.KeySize"/> bytes.</summary>
    /// <param name="domain">The short domain, which keeps visitors of one domain from being known on another.</param>
    /// <param name="address">The network address, written as IPv6; null where there is none.</param>
    /// <param name="userAgent">As sent.</param>
    public static long Of(ReadOnlySpan<byte> salt, string domain, IPAddress? address, ReadOnlySpan<char> userAgent)
    {
        var length = Encoding.UTF8.GetMaxByteCount(domain.Length + userAgent.Length) + 1 + AddressSize;
        var text = length <= 2048 ? stackalloc byte[length] : new byte[length];
        var written = WriteAddress(address, text);
        written += Encoding.UTF8.GetBytes(domain, text[written..]);
        text[written++] = 0;
        written += Encoding.UTF8.GetBytes(userAgent, text[written..]);
        return unchecked((long)SipHash.Of(salt, text[..written]));
    }

    /// <summary>Always sixteen bytes, an IPv4 address as RFC 4291, section 2.5.5.2, maps it.</summary>
    private static int WriteAddress(IPAddress? address, Span<byte> text)
    {
        text[..AddressSize].Clear();
        if (address is { AddressFamily: System.Net.Sockets.AddressFamily.InterNetwork })
        {
            text[10..12].Fill(0xff);
            address.TryWriteBytes(text[12..], out _);
        }
        else
        {
            address?.TryWriteBytes(text, out _);
        }

        return AddressSize;
    }
}
