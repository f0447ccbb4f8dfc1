using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using Npgsql;
using Route = Cursus.Core.Routing.Route;

namespace Cursus.Web.Links.Routes;

/// <summary>How many people took each way of a link since its rules were last changed, and whether its splits work as set.</summary>
public static class RouteFigures
{
    /// <param name="Since">When the link’s rules were last changed, or from when on single clicks are kept; null for the link’s whole life.</param>
    /// <param name="Branches">The link’s rules in their order, and everyone else last.</param>
    public sealed record Response(Instant? Since, IReadOnlyList<Branch> Branches);

    /// <param name="Rule">The rule’s number; 0 for everyone else.</param>
    /// <param name="People">Counted by day: whoever comes on two days counts twice. Visitors who were turned away aren’t counted.</param>
    /// <param name="Clicks">People’s clicks.</param>
    /// <param name="Split">Whether the split works as set; null where there is none.</param>
    /// <param name="Says">The same in a sentence, and what the figures don’t say.</param>
    public sealed record Branch(int Rule, long People, long Clicks, IReadOnlyList<Page> Pages, SplitCall? Split = null, string? Says = null);

    /// <param name="Number">Tells the page in clicks; 0 for the link’s own destination, 1 for its fallback.</param>
    /// <param name="ShareSet">In whole percent; null for a page that is no part of a split.</param>
    /// <param name="ShareGot">Part of the branch’s people, 0 to 1; null where nobody came.</param>
    public sealed record Page(int Number, string Destination, string? Name, int? ShareSet, double? ShareGot, long People, long Clicks);

    /// <summary>A split that some links of a post have alike.</summary>
    /// <param name="Links">How many.</param>
    public sealed record PostSplit(int Links, Branch Figures);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/links/{id:guid}/routes/figures", Show)
            .ForViewers()
            .WithSummary("How many people took each way of a link since its rules were last changed, and whether its splits work as set");
        api.MapGet("/posts/{id:guid}/routes/figures", ShowPost)
            .ForViewers()
            .WithSummary("The splits of a post’s links with the people each page got; those with the same pages and shares together");
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Show(
        Guid id,
        CurrentMember member,
        CursusDb db,
        NpgsqlDataSource source,
        CancellationToken cancel
    )
    {
        if (await EditLink.Find(id, member, db, cancel) is not { } link)
        {
            return ApiProblem.NotFound("link");
        }

        var since = await Since(link, member, db, cancel);
        var branches = await Tallies([(link, since)], member, source, cancel);
        var dead = await WayCounts.DeadPages(source, [id], cancel);
        return TypedResults.Ok(new Response(since, [.. branches.Select(b => Figures(b, dead))]));
    }

    private static async Task<Results<Ok<IReadOnlyList<PostSplit>>, ProblemHttpResult>> ShowPost(
        Guid id,
        CurrentMember member,
        CursusDb db,
        NpgsqlDataSource source,
        CancellationToken cancel
    )
    {
        if (!await db.Posts.AnyAsync(p => p.Id == id && p.WorkspaceId == member.WorkspaceId, cancel))
        {
            return ApiProblem.NotFound("post");
        }

        var links = await db
            .Links.Where(l => l.Route != null && l.DeletedAt == null && db.Posts.Any(p => p.Id == id && p.Placements.Any(x => x.LinkId == l.Id)))
            .AsNoTracking()
            .ToListAsync(cancel);
        var asked = new List<(Link, Instant?)>();
        foreach (var link in links)
        {
            asked.Add((link, await Since(link, member, db, cancel)));
        }

        var splits = (await Tallies(asked, member, source, cancel)).Where(b => b.IsSplit).GroupBy(b => b.Key);
        var dead = await WayCounts.DeadPages(source, [.. links.Select(l => l.Id)], cancel);
        return TypedResults.Ok<IReadOnlyList<PostSplit>>([
            .. splits.Select(s => new PostSplit(s.Count(), Figures(s.Aggregate((one, other) => one.With(other)), dead))),
        ]);
    }

    private static async Task<List<BranchTally>> Tallies(
        IReadOnlyList<(Link Link, Instant? Since)> links,
        CurrentMember member,
        NpgsqlDataSource source,
        CancellationToken cancel
    )
    {
        var asked = links.Select(l => (l.Link.Id, l.Since ?? Instant.FromUnixTimeSeconds(0))).ToList();
        var counts = await WayCounts.Of(source, asked, member.Zone, cancel);
        return [.. links.SelectMany(l => BranchTally.Of(l.Link, l.Link.Route is { } text ? RouteText.Read(text) : new Route(), counts))];
    }

    /// <summary>From when on the link has led everybody as it does, as far as single clicks are kept.</summary>
    private static async Task<Instant?> Since(Link link, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var versions = db.LinkVersions.AsNoTracking().Where(v => v.LinkId == link.Id).OrderByDescending(v => v.Number);
        Instant? changed = null;
        await foreach (var version in versions.AsAsyncEnumerable().WithCancellation(cancel))
        {
            var state = Core.Links.LinkState.FromJson(version.State);
            if (!RouteVersions.LeadAlike(state.Route, link.Route) || state.Destination != link.Destination)
            {
                changed = version.Until;
                break;
            }
        }

        var kept = member.Workspace.ClicksKeptFrom is { } day ? member.Zone.AtStartOfDay(day).ToInstant() : (Instant?)null;
        return kept > (changed ?? link.CreatedAt) ? kept : changed;
    }

    private static Branch Figures(BranchTally tally, HashSet<string> dead)
    {
        IReadOnlyList<PageTally> all = tally.Fallback is { } fallback ? [.. tally.Pages, fallback] : tally.Pages;
        var people = all.Sum(p => p.People);
        var figures = new Branch(tally.Rule, people, all.Sum(p => p.Clicks), [.. all.Select((p, place) => PageOf(p, place < tally.Pages.Count))]);
        if (!tally.IsSplit)
        {
            return figures;
        }

        var call = SplitCheck.Of([.. tally.Pages.Select(p => (p.Page.Weight, p.SharedOut))]);
        var shared = tally.Pages.Select(p => new SharedPage(p.Page, p.SharedOut)).ToList();
        return figures with
        {
            Split = call,
            Says = $"{SplitWords.Of(call, shared, tally.Outcome!.HandsOverDead, p => dead.Contains(p.Destination))} {SplitWords.Caution}",
        };

        Page PageOf(PageTally page, bool isShared) =>
            new(
                page.Page.Number,
                page.Page.Destination,
                page.Page.Name,
                isShared && tally.IsSplit ? page.Page.Weight : null,
                people == 0 ? null : (double)page.People / people,
                page.People,
                page.Clicks
            );
    }
}
