namespace Cursus.Data.Posts;

/// <summary>A saved way to send: channels, tags and link options, picked in one go.</summary>
public sealed class Recipe
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public required string Name { get; set; }

    /// <summary>JSON: the request that makes a post, without what belongs to one post only.</summary>
    public required string Content { get; set; }
}
