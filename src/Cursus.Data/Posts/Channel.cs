using Cursus.Data.Retargeting;
using NodaTime;

namespace Cursus.Data.Posts;

/// <summary>Where posts go: a network, the newsletter, a poster … with the agreed words for its clicks.</summary>
public sealed class Channel
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>Name in requests and reports, such as <c>guildhall</c>.</summary>
    public required string Key { get; init; }

    public required string Name { get; set; }

    /// <summary>The agreed <c>utm_source</c>.</summary>
    public required string Source { get; set; }

    /// <summary>The agreed <c>utm_medium</c>.</summary>
    public required string Medium { get; set; }

    /// <summary>Two letters that stand for the channel.</summary>
    public required string Signet { get; set; }

    /// <summary>Place in the set of ten colours, 0 to 9.</summary>
    public short Color { get; set; }

    /// <summary>A colour of its own in place of one of the set, as <c>#rrggbb</c>; null for the set's. White letters can be read on it.</summary>
    public string? OwnColor { get; set; }

    /// <summary>Most characters a post may have there; null where there is no limit.</summary>
    public int? TextLimit { get; set; }

    /// <summary>Characters that an address counts as there, whatever its length; null where it counts as many as it has.</summary>
    public int? AddressLength { get; set; }

    /// <summary>Place in Send and in lists, from 0.</summary>
    public int Position { get; set; }

    /// <summary>Since when it takes no new links; null while it does. Its links and its place in reports stay.</summary>
    public Instant? RetiredAt { get; set; }

    /// <summary>Pixels that fire for all its links.</summary>
    public List<Pixel> Pixels { get; init; } = [];
}
