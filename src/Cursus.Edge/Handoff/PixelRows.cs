namespace Cursus.Edge.Handoff;

/// <summary>The pixels of all workspaces as the database has them.</summary>
public sealed record PixelRows(
    IReadOnlyList<PixelRows.Pixel> Pixels,
    IReadOnlyList<PixelRows.Network> Networks,
    IReadOnlyList<PixelRows.Asking> Askings,
    IReadOnlyList<PixelRows.Attached> Attachments
)
{
    public static readonly PixelRows None = new([], [], [], []);

    public sealed record Pixel(Guid Id, Guid WorkspaceId, string Network, string Reference);

    /// <summary>An ad network of a workspace's own, as JSON.</summary>
    public sealed record Network(Guid WorkspaceId, string Description);

    /// <summary>How a workspace asks before pixels fire; null in <paramref name="Settings"/> is the default.</summary>
    public sealed record Asking(Guid WorkspaceId, string Who, Data.Retargeting.HandoffSettings? Settings);

    /// <summary>A pixel at a campaign, channel or domain.</summary>
    public sealed record Attached(Guid Place, Guid PixelId);
}
