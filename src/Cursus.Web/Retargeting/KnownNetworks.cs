using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Data.Retargeting;
using Cursus.Web.Access;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Retargeting;

/// <summary>The ad networks that one workspace can use: those that ship and its own.</summary>
internal sealed class KnownNetworks(IReadOnlyList<AdNetwork> own)
{
    /// <summary>Own ones first: what a workspace has described itself is what it means.</summary>
    public IReadOnlyList<AdNetwork> All { get; } = [.. own, .. AdNetworkFile.Shipped];

    public bool IsOwn(string key) => own.Any(n => n.Key == key);

    public AdNetwork? Find(string? key) => All.FirstOrDefault(n => n.Key == key);

    /// <summary>A pixel of the member's workspace with its network; null where there is none.</summary>
    public static async Task<(Pixel Pixel, AdNetwork Network)?> FindPixel(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await db.Pixels.FirstOrDefaultAsync(p => p.Id == id && p.WorkspaceId == member.WorkspaceId, cancel) is { } pixel
        && (await Load(db, member.WorkspaceId, cancel)).Find(pixel.Network) is { } network
            ? (pixel, network)
            : null;

    public static async Task<KnownNetworks> Load(CursusDb db, Guid workspaceId, CancellationToken cancel) =>
        new([
            .. (
                await db.AdNetworks.Where(n => n.WorkspaceId == workspaceId).OrderBy(n => n.Key).Select(n => n.Description).ToListAsync(cancel)
            ).Select(AdNetworkFile.Read),
        ]);
}
