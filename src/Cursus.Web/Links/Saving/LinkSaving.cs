using Cursus.Data;
using Cursus.Data.Batches;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Links.Saving;

/// <summary>What is saved together with links, or not at all.</summary>
/// <param name="Posts">With their placements.</param>
/// <param name="Lines">What became of a list's lines.</param>
/// <param name="PixelsOfPosts">Retargeting pixels that fire for all links of a post.</param>
internal sealed record SavedBeside(
    IReadOnlyList<Post> Posts,
    IReadOnlyList<BatchLine> Lines,
    params IReadOnlyList<(Guid Post, Guid Pixel)> PixelsOfPosts
)
{
    /// <summary>What else is done in the same transaction, after all this is written.</summary>
    public Func<Task>? Then { get; init; }

    public static SavedBeside Nothing { get; } = new([], []);
}

/// <summary>Saves links in one transaction, all or none, and tells the edge. Random slugs that clash in the moment of saving are drawn
/// again.</summary>
internal sealed class LinkSaving(CursusDb db, LinkFeed feed)
{
    private const int Tries = 3;

    /// <summary>Saves the <paramref name="plans"/>. Where wanted slugs are taken, nothing is saved and the states say which, by place in the
    /// list.</summary>
    /// <param name="alongside">Makes what is saved together with the links, such as their post.</param>
    /// <param name="progress">Is told how many links are written; they are saved only when all are.</param>
    public async Task<(IReadOnlyList<Link> Links, IReadOnlyList<(int Place, SlugState State)> Taken)> Save(
        IReadOnlyList<LinkPlan> plans,
        CurrentMember member,
        Instant now,
        Func<IReadOnlyList<Link>, SavedBeside> alongside,
        CancellationToken cancel,
        IProgress<int>? progress = null
    )
    {
        for (var attempt = 1; ; attempt++)
        {
            if (await Taken(plans, now, cancel) is { Count: > 0 } taken)
            {
                return ([], taken);
            }

            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            var links = await Build(plans, member, now, cancel);
            try
            {
                var pixels = links.Zip(plans).SelectMany(l => l.Second.PixelIds.Select(p => (l.First.Id, p))).ToList();
                var beside = alongside(links);
                await Write(links, pixels, beside, progress, cancel);
                await (beside.Then?.Invoke() ?? Task.CompletedTask);
                await transaction.CommitAsync(cancel);
            }
            catch (PostgresException e) when (SlugTaken.Is(e) && attempt < Tries)
            {
                // Somebody else saved the same slug in this moment. The check above now says which, or new random ones are drawn.
                db.ChangeTracker.Clear();
                continue;
            }

            await feed.CatchUp();
            return (links, []);
        }
    }

    private async Task Write(
        IReadOnlyList<Link> links,
        List<(Guid Link, Guid Pixel)> pixels,
        SavedBeside beside,
        IProgress<int>? progress,
        CancellationToken cancel
    )
    {
        // What is changed or new beside them, such as tags, comes first, since links refer to it.
        await db.SaveChangesAsync(cancel);
        await db.WriteRows(links, cancel, progress);
        await db.WritePairs("link_tags", "link_id", "tag_id", [.. links.SelectMany(l => l.Tags.Select(t => (l.Id, t.Id)))], cancel);
        await db.WritePairs("link_pixels", "link_id", "pixel_id", pixels, cancel);
        await db.WriteRows(beside.Posts, cancel);
        await db.WritePairs("post_pixels", "post_id", "pixel_id", beside.PixelsOfPosts, cancel);
        await db.WriteRows([.. beside.Posts.SelectMany(p => p.Placements)], cancel);
        await db.WriteRows(beside.Lines, cancel);
    }

    /// <summary>Wanted slugs that are not free, by place in the list.</summary>
    private async Task<IReadOnlyList<(int Place, SlugState State)>> Taken(IReadOnlyList<LinkPlan> plans, Instant now, CancellationToken cancel)
    {
        var requests = plans
            .Select((plan, i) => (Place: i, plan))
            .Where(p => p.plan.Slug is not null)
            .Select(p => (p.Place, Request: new SlugRequest(p.plan.Domain.Id, p.plan.Slug, p.plan.Title, p.plan.Channel?.Key ?? "")))
            .ToList();
        var states = await SlugCheck.Run(db, [.. requests.Select(w => w.Request)], now, cancel);
        return [.. requests.Zip(states, (w, state) => (w.Place, state)).Where(s => s.state.IsTaken)];
    }

    /// <summary>Makes the links with their slugs and tags, frees slugs whose block has passed; the caller holds the transaction and saves.</summary>
    private async Task<IReadOnlyList<Link>> Build(IReadOnlyList<LinkPlan> plans, CurrentMember member, Instant now, CancellationToken cancel)
    {
        var tags = await TagsOfLinks.FindOrAdd(db, member.WorkspaceId, [.. plans.SelectMany(p => p.TagNames)], cancel);
        var slugs = new Dictionary<LinkPlan, string>(ReferenceEqualityComparer.Instance);
        foreach (var onDomain in plans.GroupBy(p => p.Domain.Id))
        {
            var wanted = onDomain.Where(p => p.Slug is not null).ToList();
            await SlugCheck.Free(db, onDomain.Key, [.. wanted.Select(p => p.Slug!.Key)], now, cancel);
            wanted.ForEach(p => slugs[p] = p.Slug!.Text);
            var without = onDomain.Where(p => p.Slug is null).ToList();
            foreach (var (plan, slug) in without.Zip(await SlugCheck.Draw(db, onDomain.Key, without.Count, cancel)))
            {
                slugs[plan] = slug;
            }
        }

        return [.. plans.Select(plan => plan.Make(slugs[plan], tags, member, now))];
    }
}
