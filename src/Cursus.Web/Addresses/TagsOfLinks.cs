using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Addresses;

/// <summary>Tags by name as requests carry them.</summary>
internal static class TagsOfLinks
{
    public const int MaxNameLength = 40;

    /// <summary>The workspace's tags of these names; names that are new become tags when the caller saves.</summary>
    public static async Task<List<Tag>> FindOrAdd(CursusDb db, Guid workspaceId, IReadOnlyList<string>? names, FieldErrors errors, CancellationToken cancel)
    {
        var wanted = (names ?? []).Select(n => (n ?? "").Trim()).Where(n => n.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        if (wanted.FirstOrDefault(n => n.Length > MaxNameLength) is { } tooLong)
        {
            errors.Add("tags", new Flaw("tag-name", $"“{tooLong}” is longer than {MaxNameLength} characters. Shorten it."));
            return [];
        }

        var existing = await db.Tags.Where(t => t.WorkspaceId == workspaceId).ToListAsync(cancel);
        var tags = new List<Tag>();
        foreach (var name in wanted)
        {
            var tag = existing.FirstOrDefault(t => string.Equals(t.Name, name, StringComparison.OrdinalIgnoreCase));
            if (tag is null)
            {
                tag = new Tag { WorkspaceId = workspaceId, Name = name, Color = (short)(existing.Count % 10) };
                db.Add(tag);
                existing.Add(tag);
            }

            tags.Add(tag);
        }

        return tags;
    }
}
