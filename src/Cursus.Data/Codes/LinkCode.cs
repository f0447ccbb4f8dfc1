using NodaTime;

namespace Cursus.Data.Codes;

/// <summary>A QR code of a link that is counted by itself, such as that of one of two posters. Each link has one without an entry here; see
/// <see cref="Core.Codes.ScannedPath.OwnCode"/>.</summary>
public sealed class LinkCode
{
    public Guid LinkId { get; init; }

    /// <summary>Stands behind the slug in the code's address; never given twice, since a printed code lasts.</summary>
    public short Number { get; init; }

    public required string Name { get; set; }
    public Instant CreatedAt { get; init; }

    /// <summary>When it was put away; what is printed still leads and counts.</summary>
    public Instant? RemovedAt { get; set; }
}
