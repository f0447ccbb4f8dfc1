using NodaTime;

namespace Cursus.Data.Batches;

/// <summary>What the columns of a list were taken to say when its links were made, so that the next list with the same columns is read so at
/// once.</summary>
public sealed class ListMapping
{
    public Guid WorkspaceId { get; init; }

    /// <summary>Tells lists apart by the names of their columns.</summary>
    public required string ColumnsKey { get; init; }

    /// <summary>JSON: what each column says, and what was chosen where the list can't say it.</summary>
    public required string Choices { get; set; }

    public Instant UsedAt { get; set; }
}
