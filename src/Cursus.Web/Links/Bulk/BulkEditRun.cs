using System.Runtime.CompilerServices;
using Cursus.Core;
using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Links.Routes;
using Cursus.Web.Problems;
using Cursus.Web.Runs;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links.Bulk;

/// <summary>Changes many links in one transaction, all or none, a portion at a time, and keeps how each was.</summary>
internal sealed class BulkEditRun(CursusDb db, LinkFeed feed, CursusOptions options, IClock clock)
{
    private const int Portion = 500;

    /// <summary>A link that the change would make different, or that it can't be made to.</summary>
    /// <param name="After">Null where it can't be changed; why is in <paramref name="Error"/>.</param>
    public sealed record Outcome(Link Link, LinkState Before, LinkState? After, ValidationError? Error);

    /// <summary>What a change would do to links, without doing it.</summary>
    public async IAsyncEnumerable<Outcome> Try(IReadOnlyList<Guid> ids, BulkEdit change, LinkRewriting rewriting)
    {
        foreach (var portion in ids.Chunk(Portion))
        {
            foreach (var link in await Whole(portion).AsNoTracking().ToListAsync())
            {
                yield return Apply(link, change, rewriting);
            }
        }
    }

    /// <summary>Changes the links, but for those that can't be, where <paramref name="isGoodOnly"/>. Null where all went well; else why nothing was
    /// saved.</summary>
    public async Task<string?> Change(Guid id, IReadOnlyList<Guid> ids, BulkEditRequest edit, bool isGoodOnly, CurrentMember member, LongRun run)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(run.Cancelled);
        var (now, changed) = (clock.GetCurrentInstant(), 0);
        var errors = new FieldErrors();
        var change = await edit.Read(db, member, await Vocabulary.Load(db, member, options, run.Cancelled), errors, run.Cancelled);
        if (errors.Any)
        {
            return $"{errors.Text} No link was changed.";
        }

        // New tags come first, since links refer to them.
        await db.SaveChangesAsync(run.Cancelled);
        await foreach (var (links, rewriting) in Held(ids, member, run.Report, run.Cancelled))
        {
            foreach (var link in links)
            {
                var outcome = Apply(link, change, rewriting);
                if (outcome.After is null && !isGoodOnly)
                {
                    return $"“{link.Slug}” can’t be changed this way: {outcome.Error!.Text} No link was changed.";
                }

                if (outcome.After is { } after)
                {
                    rewriting.Write(link, outcome.Before, after, now);
                    changed += LinkVersions.Keep(db, link, outcome.Before, member, now, id) ? 1 : 0;
                }
            }
        }

        db.Add(
            new LinkChange
            {
                Id = id,
                WorkspaceId = member.WorkspaceId,
                MadeBy = member.Id,
                MadeAt = now,
                What = edit.Told(),
                Links = changed,
            }
        );
        await db.SaveChangesAsync(run.Cancelled);
        await transaction.CommitAsync(run.Cancelled);
        await feed.CatchUp();
        return null;
    }

    /// <summary>Makes each link a new version of itself, a portion at a time, within the caller's transaction. Returns how many are
    /// different.</summary>
    /// <param name="id">The change that this belongs to; null where it can’t be undone as one.</param>
    /// <param name="after">What a link becomes, from what it is.</param>
    /// <param name="progress">Is told how many have been gone through.</param>
    public async Task<int> Rewrite(
        Guid? id,
        IReadOnlyList<Guid> ids,
        Func<Link, LinkState, LinkState> after,
        CurrentMember member,
        Instant now,
        Action<int> progress,
        CancellationToken cancel
    )
    {
        var changed = 0;
        await foreach (var (links, rewriting) in Held(ids, member, progress, cancel))
        {
            foreach (var link in links)
            {
                var before = LinkVersions.StateOf(link);
                rewriting.Write(link, before, after(link, before), now);
                changed += LinkVersions.Keep(db, link, before, member, now, id) ? 1 : 0;
            }
        }

        return changed;
    }

    /// <summary>Makes the links what they were before the change, but for those that have been changed since. Returns how many that are.</summary>
    public async Task<(int Undone, int ChangedSince)> Undo(LinkChange change, CurrentMember member, CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var undone = await Restore(change.Id, member, cancel);
        await transaction.CommitAsync(cancel);
        await feed.CatchUp();
        return (undone, change.Links - undone);
    }

    /// <summary>Like <see cref="Undo"/>, within the caller's transaction; who calls it tells the edge.</summary>
    public async Task<int> Restore(Guid change, CurrentMember member, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var ids = await db.Links.Where(l => l.ChangeId == change && l.WorkspaceId == member.WorkspaceId).Select(l => l.Id).ToListAsync(cancel);
        await foreach (var (links, rewriting) in Held(ids, member, _ => { }, cancel))
        {
            var portion = links.ConvertAll(l => l.Id);
            var former = await db
                .LinkVersions.Where(v => portion.Contains(v.LinkId) && v.Number == db.Links.Single(l => l.Id == v.LinkId).Version - 1)
                .AsNoTracking()
                .ToDictionaryAsync(v => v.LinkId, v => LinkState.FromJson(v.State), cancel);
            foreach (var link in links.Where(l => l.ChangeId == change))
            {
                var before = LinkVersions.StateOf(link);
                rewriting.Write(link, before, former[link.Id], now);
                LinkVersions.Keep(db, link, before, member, now);
            }
        }

        await db.LinkChanges.Where(c => c.Id == change).ExecuteUpdateAsync(c => c.SetProperty(x => x.UndoneAt, now), cancel);
        return ids.Count;
    }

    /// <summary>The links a portion at a time, whole and held for whoever changes them; what was changed is saved before the next portion
    /// comes.</summary>
    /// <param name="progress">Is told how many have been gone through.</param>
    private async IAsyncEnumerable<(List<Link> Links, LinkRewriting Rewriting)> Held(
        IReadOnlyList<Guid> ids,
        CurrentMember member,
        Action<int> progress,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var seen = 0;
        foreach (var portion in ids.Chunk(Portion))
        {
            db.ChangeTracker.Clear();
            var rewriting = await LinkRewriting.Load(db, member, options, cancel);
            await Hold(portion, cancel);
            yield return (await Whole(portion).ToListAsync(cancel), rewriting);
            await db.SaveChangesAsync(cancel);
            progress(seen += portion.Length);
        }

        db.ChangeTracker.Clear();
    }

    /// <summary>Lets nobody else change these links until the transaction ends.</summary>
    private Task<int> Hold(Guid[] ids, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"select 1 from links where id = any({ids}) order by id for update", cancel);

    private IQueryable<Link> Whole(Guid[] ids) =>
        db
            .Links.Include(l => l.Domain)
            .Include(l => l.Channel)
            .Include(l => l.Tags)
            .Include(l => l.Pixels)
            .Include(l => l.RoutedPages)
            .AsSplitQuery()
            .Where(l => ids.Contains(l.Id))
            .OrderBy(l => l.CreatedAt)
            .ThenBy(l => l.Id);

    private static Outcome Apply(Link link, BulkEdit change, LinkRewriting rewriting)
    {
        var before = LinkVersions.StateOf(link);
        var after = change.Of(before, link.Channel is { } channel ? (channel.Source, channel.Medium) : null, out var error);
        if (after is { IsDeleted: false } && link.SlugFreedAt is not null)
        {
            return new Outcome(link, before, null, new ValidationError("slug-given-away", "Another link uses its slug now."));
        }

        if (after is not null && after.Destination != before.Destination)
        {
            var errors = new FieldErrors();
            rewriting.Vocabulary.Destination(after.Destination, errors);
            if (errors.Any)
            {
                return new Outcome(link, before, null, new ValidationError(errors.FirstCode, errors.Text));
            }
        }

        if (after is not null && change.Route.IsSaid)
        {
            after = RoutesOfLinks.Given(link, after, change.Route.Over(null));
            error = after is not null
                ? null
                : new ValidationError(
                    "too-many-pages",
                    $"It has had {RoutePages.MaxEver} pages or {RouteEditing.MaxRulesEver} rules already. Create a new link for more."
                );
        }

        return new Outcome(link, before, after, error);
    }
}
