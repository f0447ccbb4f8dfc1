using NodaTime;

namespace Cursus.Data.Links;

/// <summary>What links were narrowed to, kept under a name.</summary>
public sealed class SavedFilter
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Name { get; set; }

    /// <summary>As a query string of the list of links.</summary>
    public required string Filter { get; set; }

    public Guid? CreatedBy { get; init; }
    public Instant CreatedAt { get; init; }
}
