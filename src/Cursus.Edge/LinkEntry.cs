using System.Buffers.Binary;
using System.Runtime.InteropServices;
using System.Text;
using Cursus.Core.Addresses;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Edge.Handoff;
using NodaTime;

namespace Cursus.Edge;

/// <summary>
/// What the edge must know to answer a link, as the bytes that <see cref="LinkTable"/> keeps of it.
/// Layout: id (16), numbers of domain, campaign and channel (4 each), length of the location (4), redirect status (2), options (1), length of the
/// slug (1), slug, location. What few links have comes behind that as fields: the length of them all (4), then for each its number (1), its length
/// (4) and its content. A reader passes over fields that it doesn't know, so that it reads what a later version has written.
/// </summary>
public readonly ref struct LinkEntry
{
    private const int SlugAt = 36;
    private const byte NoIndexOption = 16;
    private const byte FieldsOption = 32;
    private const int Nowhere = -1;
    private const int FieldHead = 1 + sizeof(int);

    private readonly ReadOnlySpan<byte> bytes;

    /// <param name="bytes">A record and anything behind it.</param>
    public LinkEntry(ReadOnlySpan<byte> bytes) => this.bytes = bytes;

    /// <summary>Numbers of fields; never given twice.</summary>
    private enum Field : byte
    {
        /// <summary>Milliseconds that ad networks are waited for (2).</summary>
        HandoffDeadline = 1,

        /// <summary>Numbers of pixels (4 each).</summary>
        Pixels = 2,

        /// <summary>When it opens and ends, in Unix milliseconds (8 each); the least and the greatest number where it doesn't.</summary>
        Schedule = 3,

        /// <summary>Where it leads instead, as UTF-8.</summary>
        Fallback = 4,

        /// <summary>The page behind the location is dead (0).</summary>
        Dead = 5,

        /// <summary>What visitors read after its end, as UTF-8.</summary>
        EndedText = 6,

        /// <summary>Its route with finished addresses; see <see cref="RouteText"/>.</summary>
        Route = 7,
    }

    public Guid Id => new(bytes[..16]);

    public int Domain => BinaryPrimitives.ReadInt32LittleEndian(bytes[16..]);

    /// <summary>Number of its campaign in the <see cref="PixelTable"/>; zero for none.</summary>
    public int Campaign => BinaryPrimitives.ReadInt32LittleEndian(bytes[20..]);

    /// <summary>Number of its channel in the <see cref="PixelTable"/>; zero for none.</summary>
    public int Channel => BinaryPrimitives.ReadInt32LittleEndian(bytes[24..]);

    /// <summary>In lower case.</summary>
    public ReadOnlySpan<byte> Slug => bytes.Slice(SlugAt, bytes[35]);

    /// <summary>What decides how it is answered.</summary>
    public LinkTarget Target =>
        new()
        {
            IsDeleted = LocationLength == Nowhere,
            Destination = bytes.Slice(SlugAt + bytes[35], Math.Max(0, LocationLength)),
            Redirect = BinaryPrimitives.ReadInt16LittleEndian(bytes[32..]),
            PassQuery = (QueryPassing)(bytes[34] & 3),
            Referrer = (ReferrerPassing)((bytes[34] >> 2) & 3),
            HideFromSearch = (bytes[34] & NoIndexOption) != 0,
            Schedule = TryFind(Field.Schedule, out var schedule) ? ReadSchedule(schedule) : LinkSchedule.Always,
            Fallback = TryFind(Field.Fallback, out var fallback) ? fallback : default,
            IsDead = TryFind(Field.Dead, out _),
        };

    /// <summary>Milliseconds that ad networks are waited for; the usual deadline where null.</summary>
    public int? HandoffDeadline => TryFind(Field.HandoffDeadline, out var deadline) ? BinaryPrimitives.ReadInt16LittleEndian(deadline) : null;

    /// <summary>Numbers of the pixels of the link and its post in the <see cref="PixelTable"/>.</summary>
    public int[] Pixels => TryFind(Field.Pixels, out var pixels) ? MemoryMarshal.Cast<byte, int>(pixels).ToArray() : [];

    /// <summary>What visitors read after its end; null for the usual words.</summary>
    public string? EndedText => TryFind(Field.EndedText, out var text) ? Encoding.UTF8.GetString(text) : null;

    /// <summary>The bytes of its route; empty where it has none.</summary>
    public ReadOnlySpan<byte> Route => TryFind(Field.Route, out var route) ? route : default;

    /// <summary>Whether rules decide who is led where.</summary>
    public bool HasRoute => TryFind(Field.Route, out _);

    /// <summary>Bytes of the record alone.</summary>
    public int Length => FieldsAt + (HasFields ? sizeof(int) + BinaryPrimitives.ReadInt32LittleEndian(bytes[FieldsAt..]) : 0);

    /// <summary>Whether it has anything that few links have, so that more than its options must be looked at.</summary>
    private bool HasFields => (bytes[34] & FieldsOption) != 0;

    private int FieldsAt => SlugAt + bytes[35] + Math.Max(0, LocationLength);

    private int LocationLength => BinaryPrimitives.ReadInt32LittleEndian(bytes[28..]);

    /// <summary>Writes a record.</summary>
    /// <param name="slugKey">ASCII in lower case, at most <see cref="Core.Addresses.Slugs.Slug.MaxLength"/> characters.</param>
    /// <param name="location">The finished address of its destination; null where it was deleted.</param>
    public static byte[] Write(Guid id, string slugKey, string? location, in Places places, in Settings settings)
    {
        var fields = FieldsOf(settings);
        var fieldsAt = SlugAt + slugKey.Length + (location is null ? 0 : Encoding.UTF8.GetByteCount(location));
        var record = new byte[fieldsAt + (fields.Length > 0 ? sizeof(int) + fields.Length : 0)];
        id.TryWriteBytes(record);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(16), places.Domain);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(20), places.Campaign);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(24), places.Channel);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(28), location is null ? Nowhere : fieldsAt - SlugAt - slugKey.Length);
        BinaryPrimitives.WriteInt16LittleEndian(record.AsSpan(32), settings.Redirect);
        record[34] = (byte)(
            (int)settings.PassQuery
            | ((int)settings.Referrer << 2)
            | (settings.HideFromSearch ? NoIndexOption : 0)
            | (fields.Length > 0 ? FieldsOption : 0)
        );
        record[35] = (byte)slugKey.Length;
        Encoding.ASCII.GetBytes(slugKey, record.AsSpan(SlugAt));
        Encoding.UTF8.GetBytes(location ?? "", record.AsSpan(SlugAt + slugKey.Length));
        if (fields.Length > 0)
        {
            BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(fieldsAt), fields.Length);
            fields.CopyTo(record.AsSpan(fieldsAt + sizeof(int)));
        }

        return record;
    }

    private static byte[] FieldsOf(in Settings settings)
    {
        var fields = new List<byte>();
        if (settings.HandoffDeadline is { } deadline)
        {
            Put(fields, Field.HandoffDeadline, BitConverter.GetBytes(deadline));
        }

        if (settings.Pixels.Length > 0)
        {
            Put(fields, Field.Pixels, MemoryMarshal.AsBytes(settings.Pixels.AsSpan()));
        }

        if (!settings.Schedule.IsAlways)
        {
            Put(
                fields,
                Field.Schedule,
                [
                    .. BitConverter.GetBytes(settings.Schedule.OpensAt?.ToUnixTimeMilliseconds() ?? long.MinValue),
                    .. BitConverter.GetBytes(settings.Schedule.EndsAt?.ToUnixTimeMilliseconds() ?? long.MaxValue),
                ]
            );
        }

        if (settings.Fallback is { } fallback)
        {
            Put(fields, Field.Fallback, Encoding.UTF8.GetBytes(fallback));
        }

        if (settings.IsDead)
        {
            Put(fields, Field.Dead, []);
        }

        if (settings.Route is { } route)
        {
            Put(fields, Field.Route, RouteText.ToUtf8(route));
        }

        if (settings.EndedText is { } text)
        {
            Put(fields, Field.EndedText, Encoding.UTF8.GetBytes(text));
        }

        return [.. fields];
    }

    private static void Put(List<byte> fields, Field field, ReadOnlySpan<byte> content)
    {
        fields.Add((byte)field);
        fields.AddRange(BitConverter.GetBytes(content.Length));
        fields.AddRange(content);
    }

    private bool TryFind(Field field, out ReadOnlySpan<byte> content)
    {
        content = default;
        if (!HasFields)
        {
            return false;
        }

        var rest = bytes.Slice(FieldsAt + sizeof(int), BinaryPrimitives.ReadInt32LittleEndian(bytes[FieldsAt..]));
        while (!rest.IsEmpty)
        {
            content = rest.Slice(FieldHead, BinaryPrimitives.ReadInt32LittleEndian(rest[1..]));
            if (rest[0] == (byte)field)
            {
                return true;
            }

            rest = rest[(FieldHead + content.Length)..];
        }

        return false;
    }

    private static LinkSchedule ReadSchedule(ReadOnlySpan<byte> content) =>
        new(
            BinaryPrimitives.ReadInt64LittleEndian(content) is not long.MinValue and var opens ? Instant.FromUnixTimeMilliseconds(opens) : null,
            BinaryPrimitives.ReadInt64LittleEndian(content[sizeof(long)..]) is not long.MaxValue and var ends
                ? Instant.FromUnixTimeMilliseconds(ends)
                : null
        );

    /// <summary>Where a link belongs, by numbers.</summary>
    /// <param name="Domain">See <see cref="DomainEntry.Number"/>.</param>
    /// <param name="Campaign">See <see cref="PixelTable.NumberOf"/>, as for the channel.</param>
    public readonly record struct Places(int Domain, int Campaign = 0, int Channel = 0);

    /// <summary>How a link is answered; see <see cref="LinkTarget"/>.</summary>
    /// <param name="Redirect">That of its destination.</param>
    /// <param name="Pixels">Numbers of the pixels of the link and its post, at most <see cref="Core.Retargeting.HandoffReport.MostPixels"/> of them
    /// count.</param>
    public readonly record struct Settings(
        short Redirect,
        QueryPassing PassQuery,
        ReferrerPassing Referrer,
        bool HideFromSearch,
        short? HandoffDeadline,
        params int[] Pixels
    )
    {
        public LinkSchedule Schedule { get; init; }

        /// <summary>A finished address.</summary>
        public string? Fallback { get; init; }

        public bool IsDead { get; init; }

        public string? EndedText { get; init; }

        /// <summary>With numbered pages and finished addresses.</summary>
        public Route? Route { get; init; }
    }
}
