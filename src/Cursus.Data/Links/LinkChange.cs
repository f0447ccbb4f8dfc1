using NodaTime;

namespace Cursus.Data.Links;

/// <summary>One change made to many links at once. Written with the links it changed, all or none.</summary>
public sealed class LinkChange
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public Guid? MadeBy { get; init; }
    public Instant MadeAt { get; init; }

    /// <summary>What was done, in words.</summary>
    public required string What { get; init; }

    /// <summary>How many links it changed.</summary>
    public int Links { get; init; }

    /// <summary>When it was taken back.</summary>
    public Instant? UndoneAt { get; set; }
}
