using Cursus.Data;
using Cursus.Data.Batches;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Links;
using Cursus.Web.Links.Bulk;
using Cursus.Web.Links.Routes;
using Cursus.Web.Runs;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>Makes links that are there already what lines of a list say of them. Their history keeps how they were, and the batch takes it back as
/// one.</summary>
internal sealed class TakingOver(CursusDb db, BulkEditRun many)
{
    /// <summary>Writes within the caller's transaction.</summary>
    /// <param name="written">Links of the batch that are written already, for the progress.</param>
    public async Task Write(Batch batch, IReadOnlyList<PlannedLine> lines, CurrentMember member, int written, LongRun run, Instant now)
    {
        if (lines.Count == 0)
        {
            return;
        }

        var tags = await TagsOfLinks.FindOrAdd(db, member.WorkspaceId, [.. lines.SelectMany(l => l.Link.TagNames)], run.Cancelled);
        await db.SaveChangesAsync(run.Cancelled);
        var idsOf = tags.ToDictionary(t => t.Name, t => t.Id, StringComparer.OrdinalIgnoreCase);
        var said = lines.ToDictionary(l => l.TakesOver!.Value, l => l.Said with { TagIds = [.. l.Link.TagNames.Select(name => idsOf[name])] });
        var changed = await many.Rewrite(
            batch.Id,
            [.. said.Keys],
            (link, before) =>
            {
                var (line, after) = (said[link.Id], said[link.Id].Onto(before));
                // A link that has had too many rules keeps those that it has.
                return line.Route is null ? after : RoutesOfLinks.Given(link, after, line.Route) ?? after;
            },
            member,
            now,
            seen => run.Report(written + seen),
            run.Cancelled
        );
        db.Add(
            new LinkChange
            {
                Id = batch.Id,
                WorkspaceId = member.WorkspaceId,
                MadeBy = member.Id,
                MadeAt = now,
                What = $"Updated from {batch.Name}",
                Links = changed,
            }
        );
        await db.SaveChangesAsync(run.Cancelled);
    }
}
