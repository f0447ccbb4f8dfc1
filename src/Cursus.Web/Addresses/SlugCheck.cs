using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using Cursus.Data;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Addresses;

/// <summary>A slug that somebody wants on a domain, or an empty one that asks for a proposal.</summary>
/// <param name="Wanted">Null asks for a readable slug made from title and channel.</param>
/// <param name="Else">What to do if the wanted one is taken.</param>
internal sealed record SlugRequest(Guid DomainId, Slug? Wanted, string Title, string ChannelKey, SlugElse Else = SlugElse.OffersOthers);

/// <summary>What to do if a wanted slug is taken.</summary>
internal enum SlugElse
{
    OffersOthers,
    TakesAnother,
    Nothing,
}

/// <summary>What came of a request.</summary>
/// <param name="Slug">The wanted slug, or the proposed one, which is free.</param>
/// <param name="IsTaken">Whether the wanted slug can't be had.</param>
/// <param name="Alternatives">Three free ones where the wanted one is taken and no other does; else empty.</param>
/// <param name="Holder">The link that has the wanted slug; null where nobody has it, or an earlier request.</param>
internal sealed record SlugState(string Slug, bool IsTaken, IReadOnlyList<string> Alternatives, LinkWithSlug? Holder)
{
    /// <summary>The deleted link that holds the wanted slug still, if that is why it is taken.</summary>
    public BlockedSlug? Blocked =>
        Holder is { DeletedAt: { } deleted } ? new BlockedSlug(Holder.LinkId, deleted, SlugCheck.BlockedUntil(deleted)) : null;
}

/// <summary>A link that has a slug.</summary>
/// <param name="IsFormer">Whether it is only found by it still, after its address was changed.</param>
/// <param name="DeletedAt">When it was deleted; its slug is kept for it.</param>
internal sealed record LinkWithSlug(Guid LinkId, bool IsFormer, Instant? DeletedAt);

/// <summary>A slug reserved for its deleted link.</summary>
/// <param name="Until">When the slug becomes free.</param>
public sealed record BlockedSlug(Guid LinkId, Instant DeletedAt, Instant Until);

/// <summary>Finds out, in one query for all rows, which slugs are taken and what is free instead.</summary>
internal static class SlugCheck
{
    private const int CandidatesEach = 14;
    private const int Offered = 3;

    private static readonly Duration Block = Duration.FromDays(Slug.BlockedDays);

    /// <summary>Until when the slug of a link deleted at that time is kept for it.</summary>
    public static Instant BlockedUntil(Instant deletedAt) => deletedAt + Block;

    public static async Task<IReadOnlyList<SlugState>> Run(CursusDb db, IReadOnlyList<SlugRequest> requests, Instant now, CancellationToken cancel)
    {
        var wanted = requests.Where(w => w.Wanted is not null).Select(w => (w.DomainId, w.Wanted!.Key)).ToHashSet();
        var held = await Held(db, wanted, now, cancel);

        // Others are looked for only where they are needed: for many rows that is the greater part of the work.
        var seen = held.Keys.ToHashSet();
        var candidates = requests
            .Select(w =>
                w.Wanted is null || (!seen.Add((w.DomainId, w.Wanted.Key)) && w.Else != SlugElse.Nothing) ? Candidates(w, now.InUtc().Year) : []
            )
            .ToList();
        var others = requests.Zip(candidates).SelectMany(c => c.Second.Select(s => (c.First.DomainId, s.ToLowerInvariant()))).ToHashSet();

        // Earlier rows come first: a later row that wants or is offered the same slug gets another.
        var used = held.Keys.Concat((await Held(db, others, now, cancel)).Keys).ToHashSet();
        var states = new List<SlugState>();
        foreach (var (request, row) in requests.Zip(candidates))
        {
            if (request.Wanted is { } slug)
            {
                var key = (request.DomainId, slug.Key);
                var isTaken = !used.Add(key);
                var holder = held.GetValueOrDefault(key);
                if (!isTaken || request.Else != SlugElse.TakesAnother)
                {
                    states.Add(
                        new SlugState(
                            slug.Text,
                            isTaken,
                            isTaken ? [.. row.Where(s => !used.Contains((request.DomainId, s.ToLowerInvariant()))).Take(Offered)] : [],
                            holder
                        )
                    );
                    continue;
                }
            }

            var proposed = row.First(s =>
                !used.Contains((request.DomainId, s.ToLowerInvariant())) && !wanted.Contains((request.DomainId, s.ToLowerInvariant()))
            );
            used.Add((request.DomainId, proposed.ToLowerInvariant()));
            states.Add(new SlugState(proposed, IsTaken: false, [], Holder: null));
        }

        return states;
    }

    /// <summary>Takes slugs from links that were deleted so long ago that others may have them. Call in the transaction that gives them
    /// away.</summary>
    public static async Task Free(CursusDb db, Guid domainId, IReadOnlyList<string> keys, Instant now, CancellationToken cancel)
    {
        var freed = now - Block;
        await db.LinkAliases.Where(a => a.DomainId == domainId && keys.Contains(a.SlugKey) && a.Link!.DeletedAt <= freed).ExecuteDeleteAsync(cancel);
        await db
            .Links.Where(l =>
                db.Addresses.Any(a => a.DomainId == domainId && keys.Contains(a.SlugKey) && a.Kind == AddressKind.Link && a.TargetId == l.Id)
                && l.DeletedAt <= freed
                && l.SlugFreedAt == null
            )
            .ExecuteUpdateAsync(l => l.SetProperty(x => x.SlugFreedAt, now), cancel);
    }

    /// <summary>Random slugs for a domain, as long as it takes for them to be free nearly always.</summary>
    public static async Task<IReadOnlyList<string>> Draw(CursusDb db, Guid domainId, int count, CancellationToken cancel)
    {
        var length = SlugMaker.LengthFor(await db.Links.LongCountAsync(l => l.DomainId == domainId, cancel) + count);
        var drawn = new HashSet<string>();
        while (drawn.Count < count)
        {
            var fresh = Enumerable.Range(0, count - drawn.Count).Select(_ => SlugMaker.Random(length)).ToList();
            var taken = await db.Addresses.Where(a => a.DomainId == domainId && fresh.Contains(a.SlugKey)).Select(a => a.SlugKey).ToListAsync(cancel);
            drawn.UnionWith(fresh.Except(taken));
        }

        return [.. drawn];
    }

    /// <summary>Those of the slugs that a link holds, or keeps after it was deleted.</summary>
    private static async Task<Dictionary<(Guid DomainId, string Key), LinkWithSlug>> Held(
        CursusDb db,
        IReadOnlyCollection<(Guid DomainId, string Key)> slugs,
        Instant now,
        CancellationToken cancel
    )
    {
        if (slugs.Count == 0)
        {
            return [];
        }

        var domains = slugs.Select(s => s.DomainId).Distinct().ToList();
        var keys = slugs.Select(s => s.Key).Distinct().ToList();
        var freed = now - Block;
        return await db
            .Addresses.Where(a => domains.Contains(a.DomainId) && keys.Contains(a.SlugKey))
            .Join(
                db.Links.Where(l => l.DeletedAt == null || l.DeletedAt > freed),
                a => a.TargetId,
                l => l.Id,
                (a, l) =>
                    new
                    {
                        a.DomainId,
                        a.SlugKey,
                        l.Id,
                        IsFormer = a.Kind == AddressKind.FormerLink,
                        l.DeletedAt,
                    }
            )
            .ToDictionaryAsync(l => (l.DomainId, l.SlugKey), l => new LinkWithSlug(l.Id, l.IsFormer, l.DeletedAt), cancel);
    }

    private static List<string> Candidates(SlugRequest request, int year)
    {
        var first = request.Wanted?.Text ?? SlugMaker.Readable(request.Title, request.ChannelKey);
        var others = SlugMaker.Alternatives(first, request.Title, request.ChannelKey, year).Take(CandidatesEach);

        // Random ones at the end, so that there is always something free.
        return [first, .. others, SlugMaker.Random(), SlugMaker.Random(), SlugMaker.Random()];
    }
}
