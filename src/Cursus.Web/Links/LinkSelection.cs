using System.ComponentModel.DataAnnotations;
using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>Which links to change: by ID, or all that a filter finds, with exceptions.</summary>
/// <param name="Except">IDs of links to leave out of what the filter finds.</param>
/// <param name="Expected">How many were shown; if there are now more or fewer, nothing is changed.</param>
public sealed record LinkSelection(
    [property: MaxLength(LinkSelection.Most)] IReadOnlyList<Guid>? Ids = null,
    LinkFilter? Filter = null,
    [property: MaxLength(LinkSelection.Most)] IReadOnlyList<Guid>? Except = null,
    int? Expected = null
)
{
    /// <summary>More than these are not changed at once.</summary>
    public const int Most = 100_000;

    /// <summary>Their ids, in the order of their making; what is wrong is in <paramref name="errors"/>.</summary>
    internal async Task<IReadOnlyList<Guid>> Find(CursusDb db, CurrentMember member, Instant now, FieldErrors errors, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        IReadOnlyList<Guid> ids = [];
        if (Ids is { Count: > 0 and <= Most })
        {
            ids = await InOrder(db.Links.Where(l => l.WorkspaceId == member.WorkspaceId && Ids.Contains(l.Id)), cancel);
        }
        else if (Filter is not null && await FoundLinks.Of(Filter, db, member, now, errors, cancel) is { } found)
        {
            ids = await InOrder(found.Links, cancel);
        }

        if (errors.Any)
        {
            return [];
        }

        if (Expected is { } expected && expected != ids.Count)
        {
            errors.Add(
                "links",
                new ValidationError(
                    "links-changed",
                    $"The list now has {ids.Count:N0} links, not {expected:N0}. Check it again before you change them all."
                )
            );
        }

        ids = Except is { Count: > 0 } except ? [.. ids.Except(except)] : ids;
        if (ids.Count is 0 or > Most)
        {
            errors.Add(
                "links",
                new ValidationError(
                    "links",
                    ids.Count == 0
                        ? "Choose at least one link of this workspace."
                        : $"You can change at most {Most:N0} links at once. Narrow the list."
                )
            );
        }

        return ids;
    }

    private static async Task<IReadOnlyList<Guid>> InOrder(IQueryable<Link> links, CancellationToken cancel) =>
        await links.OrderBy(l => l.CreatedAt).ThenBy(l => l.Id).Select(l => l.Id).Take(Most + 1).ToListAsync(cancel);
}
