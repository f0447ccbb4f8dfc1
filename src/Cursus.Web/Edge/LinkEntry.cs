using System.Buffers.Binary;
using System.Runtime.InteropServices;
using System.Text;
using Cursus.Core.Addresses;
using Cursus.Core.Links;
using NodaTime;

namespace Cursus.Web.Edge;

/// <summary>
/// What the edge must know to answer a link, as the bytes that <see cref="LinkTable"/> keeps of it.
/// Layout: id (16), numbers of domain, campaign and channel (4 each), length of the location (4), redirect status (2), options (1), length of the slug (1), slug, location; where the
/// link waits for ad networks otherwise than usual or has pixels of its own, deadline (2), how many pixels (1) and their numbers (4 each); where it opens or ends, Unix milliseconds of
/// both (8 each) and the record of what answers outside of its time.
/// </summary>
public readonly ref struct LinkEntry
{
    private const int SlugAt = 36;
    private const byte HandoffOption = 32;
    private const byte ScheduleOption = 64;
    private const short UsualDeadline = -1;
    private const int Nowhere = -1;
    private const int ScheduleLength = 2 * sizeof(long);

    private readonly ReadOnlySpan<byte> bytes;

    /// <param name="bytes">A record and anything behind it.</param>
    public LinkEntry(ReadOnlySpan<byte> bytes) => this.bytes = bytes;

    public Guid Id => new(bytes[..16]);

    public int Domain => BinaryPrimitives.ReadInt32LittleEndian(bytes[16..]);

    /// <summary>Number of its campaign in the <see cref="PixelTable"/>; zero for none.</summary>
    public int Campaign => BinaryPrimitives.ReadInt32LittleEndian(bytes[20..]);

    /// <summary>Number of its channel in the <see cref="PixelTable"/>; zero for none.</summary>
    public int Channel => BinaryPrimitives.ReadInt32LittleEndian(bytes[24..]);

    /// <summary>HTTP status of the redirect.</summary>
    public int Redirect => BinaryPrimitives.ReadInt16LittleEndian(bytes[32..]);

    /// <summary>In lower case.</summary>
    public ReadOnlySpan<byte> Slug => bytes.Slice(SlugAt, bytes[35]);

    /// <summary>True where it was deleted, or stands for a link outside of its time and there is no fallback.</summary>
    public bool LeadsNowhere => LocationLength == Nowhere;

    /// <summary>Whether it opens or ends.</summary>
    public bool HasSchedule => (bytes[34] & ScheduleOption) != 0;

    /// <summary>Where it leads.</summary>
    public string Location => Encoding.UTF8.GetString(Utf8Location);

    /// <summary>The same as the bytes that are kept of it.</summary>
    public ReadOnlySpan<byte> Utf8Location => bytes.Slice(SlugAt + bytes[35], LocationLength);

    /// <summary>Where it leads a visitor whose short address carries a query.</summary>
    public string LocationWith(string query) =>
        PassQuery != QueryPassing.Off && query.Length > 0 ? PassedQuery.WriteInto(Location, TeamMark.WithoutPass(query), PassQuery) : Location;

    public QueryPassing PassQuery => (QueryPassing)(bytes[34] & 3);

    public ReferrerPassing Referrer => (ReferrerPassing)((bytes[34] >> 2) & 3);

    public bool HideFromSearch => (bytes[34] & 16) != 0;

    /// <summary>Milliseconds that ad networks are waited for; the usual deadline where null.</summary>
    public int? HandoffDeadline => HasHandoff && BinaryPrimitives.ReadInt16LittleEndian(bytes[HandoffAt..]) is not UsualDeadline and var deadline ? deadline : null;

    /// <summary>Numbers of the pixels of the link and its post in the <see cref="PixelTable"/>.</summary>
    public int[] Pixels => HasHandoff ? MemoryMarshal.Cast<byte, int>(bytes.Slice(HandoffAt + 3, bytes[HandoffAt + 2] * sizeof(int))).ToArray() : [];

    /// <summary>Bytes of the record alone.</summary>
    public int Length => ScheduleAt + (HasSchedule ? ScheduleLength + Otherwise.Length : 0);

    private int ScheduleAt => HandoffAt + (HasHandoff ? 3 + bytes[HandoffAt + 2] * sizeof(int) : 0);

    /// <summary>What answers outside of its time.</summary>
    private LinkEntry Otherwise => new(bytes[(ScheduleAt + ScheduleLength)..]);

    private bool HasHandoff => (bytes[34] & HandoffOption) != 0;

    private int HandoffAt => SlugAt + bytes[35] + Math.Max(0, LocationLength);

    private int LocationLength => BinaryPrimitives.ReadInt32LittleEndian(bytes[28..]);

    /// <summary>What answers at a time: the link itself, or before it opens and after it has ended what stands for it.</summary>
    public LinkEntry At(Instant now, out LinkStage stage)
    {
        stage = HasSchedule ? Schedule.StageAt(now) : LinkStage.Open;
        return stage == LinkStage.Open ? this : Otherwise;
    }

    private LinkSchedule Schedule => new(
        BinaryPrimitives.ReadInt64LittleEndian(bytes[ScheduleAt..]) is not long.MinValue and var opens ? Instant.FromUnixTimeMilliseconds(opens) : null,
        BinaryPrimitives.ReadInt64LittleEndian(bytes[(ScheduleAt + sizeof(long))..]) is not long.MaxValue and var ends ? Instant.FromUnixTimeMilliseconds(ends) : null);

    /// <summary>Writes the record of a link that opens or ends.</summary>
    /// <param name="link">The link within its time.</param>
    /// <param name="otherwise">What answers before and afterwards.</param>
    public static byte[] Write(byte[] link, LinkSchedule schedule, byte[] otherwise)
    {
        byte[] record = [.. link, .. new byte[ScheduleLength], .. otherwise];
        record[34] |= ScheduleOption;
        BinaryPrimitives.WriteInt64LittleEndian(record.AsSpan(link.Length), schedule.OpensAt?.ToUnixTimeMilliseconds() ?? long.MinValue);
        BinaryPrimitives.WriteInt64LittleEndian(record.AsSpan(link.Length + sizeof(long)), schedule.EndsAt?.ToUnixTimeMilliseconds() ?? long.MaxValue);
        return record;
    }

    /// <summary>Writes a record.</summary>
    /// <param name="slugKey">ASCII in lower case, at most <see cref="Slug.MaxLength"/> characters.</param>
    /// <param name="location">Null where it leads nowhere.</param>
    public static byte[] Write(Guid id, string slugKey, string? location, in Places places, in Settings settings)
    {
        var handoffAt = SlugAt + slugKey.Length + (location is null ? 0 : Encoding.UTF8.GetByteCount(location));
        var hasHandoff = settings.HandoffDeadline is not null || settings.Pixels.Length > 0;
        var record = new byte[handoffAt + (hasHandoff ? 3 + settings.Pixels.Length * sizeof(int) : 0)];
        id.TryWriteBytes(record);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(16), places.Domain);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(20), places.Campaign);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(24), places.Channel);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(28), location is null ? Nowhere : handoffAt - SlugAt - slugKey.Length);
        BinaryPrimitives.WriteInt16LittleEndian(record.AsSpan(32), settings.Redirect);
        record[34] = (byte)((int)settings.PassQuery | ((int)settings.Referrer << 2) | (settings.HideFromSearch ? 16 : 0) | (hasHandoff ? HandoffOption : 0));
        record[35] = (byte)slugKey.Length;
        Encoding.ASCII.GetBytes(slugKey, record.AsSpan(SlugAt));
        Encoding.UTF8.GetBytes(location ?? "", record.AsSpan(SlugAt + slugKey.Length));
        if (hasHandoff)
        {
            BinaryPrimitives.WriteInt16LittleEndian(record.AsSpan(handoffAt), settings.HandoffDeadline ?? UsualDeadline);
            record[handoffAt + 2] = (byte)settings.Pixels.Length;
            MemoryMarshal.AsBytes(settings.Pixels.AsSpan()).CopyTo(record.AsSpan(handoffAt + 3));
        }

        return record;
    }

    /// <summary>Where a link belongs, by numbers.</summary>
    /// <param name="Domain">See <see cref="DomainEntry.Number"/>.</param>
    /// <param name="Campaign">See <see cref="PixelTable.NumberOf"/>, as for the channel.</param>
    public readonly record struct Places(int Domain, int Campaign = 0, int Channel = 0);

    /// <summary>How a link is answered.</summary>
    /// <param name="Pixels">Numbers of the pixels of the link and its post, at most <see cref="Core.Retargeting.HandoffReport.MostPixels"/> of them count.</param>
    public readonly record struct Settings(
        short Redirect, QueryPassing PassQuery, ReferrerPassing Referrer, bool HideFromSearch, short? HandoffDeadline, params int[] Pixels);
}
