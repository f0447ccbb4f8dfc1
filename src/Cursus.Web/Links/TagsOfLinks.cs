using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Links;

/// <summary>Tags by name as requests carry them.</summary>
internal static class TagsOfLinks
{
    public const int MaxNameLength = 40;

    /// <summary>The names without surrounding space and repeats; one that is too long is an error at <paramref name="field"/>.</summary>
    public static IReadOnlyList<string> Names(IReadOnlyList<string>? names, FieldErrors errors, string field = "tags")
    {
        var wanted = (names ?? []).Select(n => (n ?? "").Trim()).Where(n => n.Length > 0).Distinct(StringComparer.OrdinalIgnoreCase).ToList();
        if (wanted.FirstOrDefault(n => n.Length > MaxNameLength) is { } tooLong)
        {
            errors.Add(field, new ValidationError("tag-name", $"“{tooLong}” is longer than {MaxNameLength} characters. Shorten it."));
        }

        return wanted;
    }

    /// <summary>Ids of the workspace's tags of these names; others are passed over.</summary>
    public static async Task<IReadOnlyList<Guid>> Ids(CursusDb db, Guid workspaceId, IReadOnlyList<string> names, CancellationToken cancel) =>
        names.Count == 0
            ? []
            : await db.Tags.Where(t => t.WorkspaceId == workspaceId && names.Contains(t.Name)).Select(t => t.Id).ToListAsync(cancel);

    /// <summary>The workspace's tags of these names; names that are new become tags when the caller saves.</summary>
    public static async Task<List<Tag>> FindOrAdd(CursusDb db, Guid workspaceId, IReadOnlyList<string> names, CancellationToken cancel)
    {
        if (names.Count == 0)
        {
            return [];
        }

        var existing = await db
            .Tags.Where(t => t.WorkspaceId == workspaceId)
            .ToDictionaryAsync(t => t.Name, StringComparer.OrdinalIgnoreCase, cancel);
        var tags = new List<Tag>();
        foreach (var name in names.Distinct(StringComparer.OrdinalIgnoreCase))
        {
            if (!existing.TryGetValue(name, out var tag))
            {
                tag = new Tag
                {
                    WorkspaceId = workspaceId,
                    Name = name,
                    Color = (short)(existing.Count % 10),
                };
                db.Add(tag);
                existing.Add(name, tag);
            }

            tags.Add(tag);
        }

        return tags;
    }
}
