namespace Cursus.Data.Links;

/// <summary>A coloured word by which links are found again. Never visible to visitors.</summary>
public sealed class Tag
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Name { get; set; }

    /// <summary>Place in the set of ten colours, 0 to 9.</summary>
    public short Color { get; set; }

    public List<Link> Links { get; init; } = [];
}
