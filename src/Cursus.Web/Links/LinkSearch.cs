using Cursus.Core.Links;
using Cursus.Data;
using Cursus.Data.Links;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Links;

/// <summary>Finds links by words: each of them must stand somewhere in what the link is found by, as a word, its beginning, or a part of it.
/// Where no link has them all, those with nearly the same words are taken.</summary>
internal static class LinkSearch
{
    /// <summary>How much of their groups of three letters two words must share to be nearly the same. Where two letters of eight have changed places,
    /// 5 of 13 are shared.</summary>
    private const double NearEnough = 0.35;

    /// <summary>Links that have all the words.</summary>
    public static IQueryable<Link> Having(this IQueryable<Link> links, IReadOnlyList<string> words) =>
        words.Aggregate(links, (found, word) =>
            word.Length >= SearchWords.ShortestInside
                ? found.Where(l => EF.Functions.Like(l.Text!.Words, $"%{word}%"))
                : found.Where(l => l.Text!.Vector.Matches(EF.Functions.ToTsQuery("simple", $"'{word}':*")))
        );

    /// <summary>Links that have all the words but for slips. Call within <see cref="AllowSlips"/>.</summary>
    public static IQueryable<Link> NearlyHaving(this IQueryable<Link> links, IReadOnlyList<string> words) =>
        words.Aggregate(links, (found, word) =>
            word.Length >= SearchWords.ShortestNear
                ? found.Where(l => EF.Functions.TrigramsAreWordSimilar(word, l.Text!.Words))
                : found.Having([word])
        );

    /// <summary>Sets for the open transaction how near is near enough.</summary>
    public static Task AllowSlips(CursusDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync(
            $"select set_config('pg_trgm.word_similarity_threshold', {NearEnough.ToString(System.Globalization.CultureInfo.InvariantCulture)}, true)",
            cancel
        );

    /// <summary>Those first whose slug was typed, present or earlier, then by where the words stand: slug and title before campaign and tags before
    /// destination and note; the newest of equals first.</summary>
    /// <param name="isNear">Whether the words are only nearly there.</param>
    public static IOrderedQueryable<Link> BestFirst(this IQueryable<Link> links, string typed, IReadOnlyList<string> words, bool isNear)
    {
        var slug = typed.Trim().ToLowerInvariant();
        slug = slug[(slug.LastIndexOf('/') + 1)..];
        var asked = string.Join(" & ", words.Select(w => $"'{w}':*"));
        var all = string.Join(' ', words);
        var exact = links.OrderByDescending(l => l.SlugKey == slug || l.Aliases.Any(a => a.SlugKey == slug));
        return (
            isNear
                ? exact.ThenByDescending(l => EF.Functions.TrigramsWordSimilarity(all, l.Text!.Words))
                : exact.ThenByDescending(l => l.Text!.Vector.Rank(EF.Functions.ToTsQuery("simple", asked)))
        )
            .ThenByDescending(l => l.CreatedAt)
            .ThenByDescending(l => l.Id);
    }
}
