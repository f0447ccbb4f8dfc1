using Cursus.Core.Addresses;
using Cursus.Data;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Addresses;

/// <summary>A slug that somebody wants, or an empty one that asks for a proposal.</summary>
/// <param name="Wanted">Null asks for a readable slug made from title and channel.</param>
internal sealed record SlugWish(Slug? Wanted, string Title, string ChannelKey);

/// <summary>What came of a wish.</summary>
/// <param name="Slug">The wanted slug, or the proposed one, which is free.</param>
/// <param name="Alternatives">Three free ones where the wanted one is taken; else empty.</param>
internal sealed record SlugState(string Slug, bool IsTaken, IReadOnlyList<string> Alternatives);

/// <summary>Finds out, in one query for all rows, which slugs are taken and what is free instead.</summary>
internal static class SlugCheck
{
    private const int CandidatesEach = 14;
    private const int Offered = 3;

    public static async Task<IReadOnlyList<SlugState>> Run(CursusDb db, Guid domainId, IReadOnlyList<SlugWish> wishes, int year, CancellationToken cancel)
    {
        var candidates = wishes.Select(w => Candidates(w, year)).ToList();
        var keys = candidates.SelectMany(c => c).Select(s => s.ToLowerInvariant()).Distinct().ToList();
        var used = (await db.Links.Where(l => l.DomainId == domainId && keys.Contains(l.SlugKey)).Select(l => l.SlugKey).ToListAsync(cancel)).ToHashSet();

        // Earlier rows come first: a later row that wants or is offered the same slug gets another.
        var states = new List<SlugState>();
        var wanted = wishes.Select(w => w.Wanted?.Key).OfType<string>().ToHashSet();
        foreach (var (wish, row) in wishes.Zip(candidates))
        {
            var isTaken = wish.Wanted is { } slug && !used.Add(slug.Key);
            var free = row.Where(s => !used.Contains(s.ToLowerInvariant()) && !(wish.Wanted is null && wanted.Contains(s.ToLowerInvariant())));
            if (wish.Wanted is not null)
            {
                states.Add(new SlugState(wish.Wanted.Text, isTaken, isTaken ? [.. free.Take(Offered)] : []));
                continue;
            }

            var proposed = free.First();
            used.Add(proposed.ToLowerInvariant());
            states.Add(new SlugState(proposed, IsTaken: false, []));
        }

        return states;
    }

    private static List<string> Candidates(SlugWish wish, int year)
    {
        var first = wish.Wanted?.Text ?? SlugMaker.Readable(wish.Title, wish.ChannelKey);
        var others = SlugMaker.Alternatives(first, wish.Title, wish.ChannelKey, year).Take(CandidatesEach);

        // Random ones at the end, so that there is always something free.
        return [first, .. others, SlugMaker.Random(), SlugMaker.Random(), SlugMaker.Random()];
    }
}
