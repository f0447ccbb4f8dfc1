using NodaTime;

namespace Cursus.Data.Addresses;

/// <summary>A short domain of a workspace. The edge answers on it once it is verified.</summary>
public sealed class ShortDomain
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>Lower-case ASCII host name without port.</summary>
    public required string Name { get; init; }

    /// <summary>When it was found to point here; null while it does not.</summary>
    public Instant? VerifiedAt { get; set; }

    /// <summary>New links take this domain unless another is chosen. One for each workspace.</summary>
    public bool IsDefault { get; set; }

    /// <summary>Where the bare domain leads; null shows a plain page.</summary>
    public string? BarePage { get; set; }

    public Instant CreatedAt { get; init; }
}
