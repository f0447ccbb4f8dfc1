namespace Cursus.Data.Links;

/// <summary>A place to keep links together. Folders are one level deep.</summary>
public sealed class Folder
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Name { get; set; }
}
