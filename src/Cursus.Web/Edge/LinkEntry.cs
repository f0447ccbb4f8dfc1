using System.Buffers.Binary;
using System.Text;
using Cursus.Core.Addresses;

namespace Cursus.Web.Edge;

/// <summary>
/// What the edge must know to answer a link, as the bytes that <see cref="LinkTable"/> keeps of it.
/// Layout: id (16), number of the domain (4), length of the location (4), redirect status (2), options (1), length of the slug (1), slug, location.
/// </summary>
public readonly ref struct LinkEntry
{
    private const int SlugAt = 28;
    private const int Ended = -1;

    private readonly ReadOnlySpan<byte> bytes;

    /// <param name="bytes">A record and anything behind it.</param>
    public LinkEntry(ReadOnlySpan<byte> bytes) => this.bytes = bytes;

    public Guid Id => new(bytes[..16]);

    public int Domain => BinaryPrimitives.ReadInt32LittleEndian(bytes[16..]);

    /// <summary>HTTP status of the redirect.</summary>
    public int Redirect => BinaryPrimitives.ReadInt16LittleEndian(bytes[24..]);

    /// <summary>In lower case.</summary>
    public ReadOnlySpan<byte> Slug => bytes.Slice(SlugAt, bytes[27]);

    /// <summary>True where it leads nowhere any more.</summary>
    public bool HasEnded => LocationLength == Ended;

    /// <summary>Where it leads.</summary>
    public string Location => Encoding.UTF8.GetString(bytes.Slice(SlugAt + bytes[27], LocationLength));

    public QueryPassing PassQuery => (QueryPassing)(bytes[26] & 3);

    public ReferrerPassing Referrer => (ReferrerPassing)((bytes[26] >> 2) & 3);

    public bool HideFromSearch => (bytes[26] & 16) != 0;

    /// <summary>Bytes of the record alone.</summary>
    public int Length => SlugAt + bytes[27] + Math.Max(0, LocationLength);

    private int LocationLength => BinaryPrimitives.ReadInt32LittleEndian(bytes[20..]);

    /// <param name="domain">Number of the domain; see <see cref="DomainEntry.Number"/>.</param>
    /// <param name="slugKey">ASCII in lower case, at most <see cref="Slug.MaxLength"/> characters.</param>
    /// <param name="location">Null where the link has ended.</param>
    public static byte[] Write(Guid id, int domain, string slugKey, string? location, short redirect, QueryPassing passQuery, ReferrerPassing referrer, bool hideFromSearch)
    {
        var record = new byte[SlugAt + slugKey.Length + (location is null ? 0 : Encoding.UTF8.GetByteCount(location))];
        id.TryWriteBytes(record);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(16), domain);
        BinaryPrimitives.WriteInt32LittleEndian(record.AsSpan(20), location is null ? Ended : record.Length - SlugAt - slugKey.Length);
        BinaryPrimitives.WriteInt16LittleEndian(record.AsSpan(24), redirect);
        record[26] = (byte)((int)passQuery | ((int)referrer << 2) | (hideFromSearch ? 16 : 0));
        record[27] = (byte)slugKey.Length;
        Encoding.ASCII.GetBytes(slugKey, record.AsSpan(SlugAt));
        Encoding.UTF8.GetBytes(location ?? "", record.AsSpan(SlugAt + slugKey.Length));
        return record;
    }
}
