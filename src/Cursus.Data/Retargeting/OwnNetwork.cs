namespace Cursus.Data.Retargeting;

/// <summary>An ad network that a workspace has described itself.</summary>
public sealed class OwnNetwork
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>Unlike every other network's that the workspace can use.</summary>
    public required string Key { get; init; }

    /// <summary>JSON: the <see cref="Core.Retargeting.AdNetwork"/>.</summary>
    public required string Description { get; set; }
}
