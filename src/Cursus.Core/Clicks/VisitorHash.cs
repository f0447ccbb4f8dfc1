using System.Buffers.Binary;
using System.Security.Cryptography;
using System.Text;

namespace Cursus.Core.Clicks;

/// <summary>
/// Tells visitors apart for one day without knowing who they are: a keyed hash of short domain, network address and user agent.
/// When the day's salt is thrown away, nobody can compute the hash again.
/// </summary>
public static class VisitorHash
{
    /// <summary>The first eight bytes of HMAC-SHA-256 (RFC 2104) under the day's <paramref name="salt"/>.</summary>
    public static long Of(ReadOnlySpan<byte> salt, string domain, string address, string userAgent)
    {
        var length = Encoding.UTF8.GetMaxByteCount(domain.Length + address.Length + userAgent.Length + 2);
        var text = length <= 2048 ? stackalloc byte[length] : new byte[length];
        var written = Encoding.UTF8.GetBytes(domain, text);
        text[written++] = 0;
        written += Encoding.UTF8.GetBytes(address, text[written..]);
        text[written++] = 0;
        written += Encoding.UTF8.GetBytes(userAgent, text[written..]);

        Span<byte> hash = stackalloc byte[HMACSHA256.HashSizeInBytes];
        HMACSHA256.HashData(salt, text[..written], hash);
        return BinaryPrimitives.ReadInt64LittleEndian(hash);
    }
}
