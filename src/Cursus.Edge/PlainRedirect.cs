using System.Buffers;
using System.Collections.Frozen;
using System.Text;
using Microsoft.AspNetCore.WebUtilities;

namespace Cursus.Edge;

/// <summary>An answer that leads on and says nothing else.</summary>
internal readonly ref struct PlainRedirect
{
    /// <summary>
    /// 301 and 308 may be kept by caches for ever unless told otherwise (RFC 9110, sections 15.4.2 and 15.4.9). Each visit must reach us
    /// again, so that it is counted and a changed destination holds at once (RFC 9111, sections 5.2.2.5 and 5.2.2.7).
    /// </summary>
    public const string CacheControl = "private, no-store";

    public const string NoReferrer = "no-referrer";
    public const string NoIndex = "noindex";

    private static readonly FrozenDictionary<int, byte[]> Heads = new[] { 301, 302, 307, 308 }.ToFrozenDictionary(
        status => status,
        status =>
            Encoding.ASCII.GetBytes(
                $"HTTP/1.1 {status} {ReasonPhrases.GetReasonPhrase(status)}\r\nContent-Length: 0\r\nCache-Control: {CacheControl}\r\n"
            )
    );

    private static readonly byte[] ReferrerLine = Encoding.ASCII.GetBytes($"Referrer-Policy: {NoReferrer}\r\n");
    private static readonly byte[] RobotsLine = Encoding.ASCII.GetBytes($"X-Robots-Tag: {NoIndex}\r\n");

    public int Status { get; init; }

    /// <summary>In ASCII.</summary>
    public ReadOnlySpan<byte> Location { get; init; }

    public bool HidesReferrer { get; init; }

    public bool HidesFromSearch { get; init; }

    /// <summary>Writes the whole response (RFC 9112, section 4).</summary>
    /// <param name="date">The line of the header Date.</param>
    public void Write(IBufferWriter<byte> output, ReadOnlySpan<byte> date)
    {
        var head = Heads[Status];
        var length = head.Length + date.Length + Location.Length + ReferrerLine.Length + RobotsLine.Length + "Location: \r\n\r\n".Length;
        var bytes = output.GetSpan(length);
        var written = 0;
        Put(head, bytes, ref written);
        Put(date, bytes, ref written);
        Put(HidesReferrer ? ReferrerLine : [], bytes, ref written);
        Put(HidesFromSearch ? RobotsLine : [], bytes, ref written);
        Put("Location: "u8, bytes, ref written);
        Put(Location, bytes, ref written);
        Put("\r\n\r\n"u8, bytes, ref written);
        output.Advance(written);
    }

    private static void Put(ReadOnlySpan<byte> part, Span<byte> bytes, ref int written)
    {
        part.CopyTo(bytes[written..]);
        written += part.Length;
    }
}
