using Cursus.Data.Retargeting;

namespace Cursus.Data.Posts;

/// <summary>What several posts are for. Its key is the <c>utm_campaign</c> of their links.</summary>
public sealed class Campaign
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>The campaign's value as written in addresses, such as <c>winter-members</c>.</summary>
    public required string Key { get; init; }

    public required string Name { get; set; }

    /// <summary>The recipe its posts begin with, if any.</summary>
    public Guid? RecipeId { get; set; }

    /// <summary>Where visitors of its links are led while a page is dead, unless the link says otherwise; null does what the workspace
    /// says.</summary>
    public string? Fallback { get; set; }

    /// <summary>Pixels that fire for all its links.</summary>
    public List<Pixel> Pixels { get; init; } = [];
}
