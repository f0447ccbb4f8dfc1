using System.Buffers.Binary;
using System.Text;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using NodaTime;

namespace Cursus.Data.Clicks.Journaling;

/// <summary>How a click is written in the journal: fixed parts first, then three texts of two-byte length and UTF-8, then the number of the code that
/// was scanned, the signs and the network; journals of earlier versions end before. What later versions add comes behind that as fields: number (1),
/// length (2), content. A reader passes over those that it doesn't know.</summary>
internal static class ClickRecord
{
    /// <summary>Where the kind stands.</summary>
    public const int KindAt = 8 + 16;

    private const int FixedLength = 8 + 16 + 1 + 8 + 2 + 1;

    private const int EndLength = 1 + 1 + 4;

    private const int FieldHead = 1 + 2;

    /// <summary>Where the visitor was led: the page's number and the rule's (1 each). Left out where it was the destination, without a
    /// rule.</summary>
    private const byte Way = 1;

    /// <summary>The most bytes that one click can take.</summary>
    public const int MaxLength = FixedLength + EndLength + FieldHead + 2 + 3 * 2 + 3 * (ReferrerHost.MaxLength + Click.MaxUserAgent + 8);

    public static int Write(in Visit visit, Span<byte> to)
    {
        BinaryPrimitives.WriteInt64LittleEndian(to, visit.At.ToUnixTimeMilliseconds());
        visit.LinkId.TryWriteBytes(to[8..]);
        to[KindAt] = (byte)visit.Kind;
        BinaryPrimitives.WriteInt64LittleEndian(to[25..], visit.Visitor);
        BinaryPrimitives.WriteUInt16LittleEndian(to[33..], visit.Country.Number);
        to[35] = visit.Hints.ToByte();
        var length = FixedLength;
        length += WriteText(visit.ReferrerHost, to[length..]);
        length += WriteText(visit.UserAgent, to[length..]);
        length += WriteText(visit.Language, to[length..]);
        (to[length], to[length + 1]) = (visit.Code, (byte)visit.Signs);
        BinaryPrimitives.WriteInt32LittleEndian(to[(length + 2)..], visit.Network);
        length += EndLength;
        if ((visit.Page, visit.Rule) is not (0, 0))
        {
            to[length] = Way;
            BinaryPrimitives.WriteUInt16LittleEndian(to[(length + 1)..], 2);
            (to[length + FieldHead], to[length + FieldHead + 1]) = (visit.Page, visit.Rule);
            length += FieldHead + 2;
        }

        return length;
    }

    /// <param name="texts">Gives one string for the same text, since a few thousand make nearly all clicks.</param>
    public static Click Read(ReadOnlySpan<byte> from, TextPool texts)
    {
        var at = Instant.FromUnixTimeMilliseconds(BinaryPrimitives.ReadInt64LittleEndian(from));
        var link = new Guid(from[8..24]);
        var kind = (ClickKind)from[KindAt];
        var visitor = BinaryPrimitives.ReadInt64LittleEndian(from[25..]);
        var country = CountryCode.OfNumber(BinaryPrimitives.ReadUInt16LittleEndian(from[33..]));
        var hints = ClientHints.OfByte(from[35]);
        var rest = from[FixedLength..];
        var referrer = ReadText(ref rest, texts);
        var agent = ReadText(ref rest, texts);
        var language = ReadText(ref rest, texts);
        var code = rest.IsEmpty ? (byte)0 : rest[0];
        var way = rest.Length > EndLength ? Find(Way, rest[EndLength..]) : default;
        return rest.Length < EndLength
            ? new Click(at, link, kind, visitor, country, hints, referrer, agent, language, code)
            : new Click(
                at,
                link,
                kind,
                visitor,
                country,
                hints,
                referrer,
                agent,
                language,
                code,
                (RequestSigns)rest[1],
                BinaryPrimitives.ReadInt32LittleEndian(rest[2..]),
                way.IsEmpty ? (byte)0 : way[0],
                way.IsEmpty ? (byte)0 : way[1]
            );
    }

    /// <summary>The content of a field; empty where it isn't there.</summary>
    private static ReadOnlySpan<byte> Find(byte number, ReadOnlySpan<byte> fields)
    {
        while (fields.Length >= FieldHead)
        {
            var length = BinaryPrimitives.ReadUInt16LittleEndian(fields[1..]);
            if (fields[0] == number)
            {
                return fields.Slice(FieldHead, length);
            }

            fields = fields[(FieldHead + length)..];
        }

        return default;
    }

    private static int WriteText(ReadOnlySpan<char> text, Span<byte> to)
    {
        var length = Encoding.UTF8.GetBytes(text, to[2..]);
        BinaryPrimitives.WriteUInt16LittleEndian(to, (ushort)length);
        return length + 2;
    }

    private static string ReadText(ref ReadOnlySpan<byte> from, TextPool texts)
    {
        var length = BinaryPrimitives.ReadUInt16LittleEndian(from);
        var text = texts.Of(from.Slice(2, length));
        from = from[(2 + length)..];
        return text;
    }
}
