using System.Buffers.Binary;
using System.Text;
using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Data.Clicks;

/// <summary>How a click is written in the journal: fixed fields first, then three texts of two-byte length and UTF-8.</summary>
internal static class ClickRecord
{
    private const int FixedLength = 8 + 16 + 1 + 8;

    /// <summary>The most bytes that one click can take.</summary>
    public const int MaxLength = FixedLength + 3 * 2 + 3 * (253 + Click.MaxUserAgent + 8);

    public static int Write(in Click click, Span<byte> to)
    {
        BinaryPrimitives.WriteInt64LittleEndian(to, click.At.ToUnixTimeMilliseconds());
        click.LinkId.TryWriteBytes(to[8..]);
        to[24] = (byte)click.Kind;
        BinaryPrimitives.WriteInt64LittleEndian(to[25..], click.Visitor);
        var length = FixedLength;
        length += WriteText(click.ReferrerHost, to[length..]);
        length += WriteText(click.UserAgent, to[length..]);
        length += WriteText(click.Language, to[length..]);
        return length;
    }

    public static Click Read(ReadOnlySpan<byte> from)
    {
        var at = Instant.FromUnixTimeMilliseconds(BinaryPrimitives.ReadInt64LittleEndian(from));
        var link = new Guid(from[8..24]);
        var kind = (ClickKind)from[24];
        var visitor = BinaryPrimitives.ReadInt64LittleEndian(from[25..]);
        var rest = from[FixedLength..];
        var referrer = ReadText(ref rest);
        var agent = ReadText(ref rest);
        var language = ReadText(ref rest);
        return new Click(at, link, kind, visitor, referrer, agent, language);
    }

    private static int WriteText(string text, Span<byte> to)
    {
        var length = Encoding.UTF8.GetBytes(text, to[2..]);
        BinaryPrimitives.WriteUInt16LittleEndian(to, (ushort)length);
        return length + 2;
    }

    private static string ReadText(ref ReadOnlySpan<byte> from)
    {
        var length = BinaryPrimitives.ReadUInt16LittleEndian(from);
        var text = Encoding.UTF8.GetString(from.Slice(2, length));
        from = from[(2 + length)..];
        return text;
    }
}
