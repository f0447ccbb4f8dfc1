using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
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

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/links/{id:guid}/routes/figures", Show)
            .ForViewers()
            .WithSummary("How many people took each way of a link since its rules were last changed, and whether its splits work as set");

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
        var counts = await WayCounts.Of(source, [(id, since ?? Instant.FromUnixTimeSeconds(0))], member.Zone, cancel);
        var dead = await WayCounts.DeadPages(source, id, cancel);
        return TypedResults.Ok(new Response(since, Branches(link, counts, p => dead.Contains(p.Number))));
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

    private static List<Branch> Branches(Link link, List<WayCount> counts, Func<RoutePage, bool> isBroken)
    {
        var route = link.Route is { } text ? RouteText.Read(text) : new Route();
        var isCounted = counts.ToLookup(c => c.Rule);
        return [.. route.Rules.Select(r => OfRule(r.Number, r.To, [.. isCounted[r.Number]])), OfRule(0, route.Otherwise, [.. isCounted[0]])];

        Branch OfRule(byte rule, RouteOutcome? outcome, WayCount[] ways)
        {
            var people = ways.Sum(w => (long)w.People);
            var isSplit = outcome is { IsClosed: false, IsSplit: true };
            IReadOnlyList<RoutePage> pages = outcome?.Pages ?? [new(link.Destination, 100, [])];
            var shown = pages.Select(p => PageOf(p.Number, p.Destination, p.Name, isSplit ? p.Weight : null)).ToList();
            if (ways.Any(w => w.Page == LinkFallback && pages.All(p => p.Number != LinkFallback)))
            {
                shown.Add(PageOf(LinkFallback, link.Fallback ?? "", "Fallback", shareSet: null));
            }

            if (!isSplit)
            {
                return new(rule, people, ways.Sum(w => (long)w.Clicks), shown);
            }

            var shared = pages.Select(p => new SharedPage(p, PeopleOf(p.Number))).ToList();
            var call = SplitCheck.Of([.. shared.Select(p => (p.Page.Weight, p.People))]);
            return new(
                rule,
                people,
                ways.Sum(w => (long)w.Clicks),
                shown,
                call,
                $"{SplitWords.Of(call, shared, outcome!.HandsOverDead, isBroken)} {SplitWords.Caution}"
            );

            // Whoever is known for thirty days falls by lot once, on however many of them they come, so that one day alone can be checked.
            long PeopleOf(byte page) =>
                ways.Where(w => w.Page == page).Sum(w => route.Remember == RouteMemory.ThirtyDays ? w.PeopleOfFullestDay : (long)w.People);

            Page PageOf(byte number, string destination, string? name, int? shareSet)
            {
                var own = ways.Where(w => w.Page == number).ToList();
                var got = own.Sum(w => (long)w.People);
                return new(number, destination, name, shareSet, people == 0 ? null : (double)got / people, got, own.Sum(w => (long)w.Clicks));
            }
        }
    }

    private const byte LinkFallback = (byte)Core.Links.LinkPage.Fallback;
}
