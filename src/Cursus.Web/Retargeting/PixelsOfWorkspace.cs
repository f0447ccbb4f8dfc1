using Cursus.Core;
using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Data.Retargeting;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Retargeting;

/// <summary>Pixels by id as requests carry them.</summary>
internal static class PixelsOfWorkspace
{
    /// <summary>The workspace's pixels of these ids; one that it doesn't have is an error at <paramref name="field"/>.</summary>
    public static async Task<List<Pixel>> Find(
        CursusDb db,
        Guid workspaceId,
        IReadOnlyList<Guid>? ids,
        FieldErrors errors,
        CancellationToken cancel,
        string field = "pixels"
    )
    {
        var all = ids is { Count: > 0 } ? await db.Pixels.Where(p => p.WorkspaceId == workspaceId).ToListAsync(cancel) : [];
        var wanted = Check(ids, [.. all.Select(p => p.Id)], errors, field);
        return [.. all.Where(p => wanted.Contains(p.Id))];
    }

    /// <summary>The ids without repeats.</summary>
    public static IReadOnlyList<Guid> Check(IReadOnlyList<Guid>? ids, HashSet<Guid> known, FieldErrors errors, string field)
    {
        List<Guid> wanted = [.. (ids ?? []).Distinct()];
        if (!wanted.TrueForAll(known.Contains))
        {
            errors.Add(field, new ValidationError("pixel-unknown", "This workspace has no such pixel. It may have been deleted. Choose another."));
        }

        if (wanted.Count > HandoffReport.MostPixels)
        {
            errors.Add(field, new ValidationError("pixels-many", $"At most {HandoffReport.MostPixels} pixels can fire per visit. Remove some."));
        }

        return wanted;
    }
}
