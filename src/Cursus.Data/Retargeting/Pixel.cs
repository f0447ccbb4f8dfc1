using NodaTime;

namespace Cursus.Data.Retargeting;

/// <summary>A retargeting pixel: which ad network is told of visits, and under which id.</summary>
public sealed class Pixel
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>What the team calls it.</summary>
    public required string Name { get; set; }

    /// <summary>Key of its <see cref="Core.Retargeting.AdNetwork"/>: one that ships, or one of the workspace's own.</summary>
    public required string Network { get; init; }

    /// <summary>The id in the network, or the address where the network takes one.</summary>
    public required string Reference { get; set; }

    public Instant CreatedAt { get; init; }
}
