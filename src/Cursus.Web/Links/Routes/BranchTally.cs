using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data.Links;
using Route = Cursus.Core.Routing.Route;

namespace Cursus.Web.Links.Routes;

/// <summary>A page with what it got.</summary>
/// <param name="People">Counted by day.</param>
/// <param name="SharedOut">How many of them fell by lot for certain, each once; what a split is checked by.</param>
internal readonly record struct PageTally(RoutePage Page, long People, long SharedOut, long Clicks)
{
    public static PageTally operator +(PageTally one, PageTally other) =>
        one with
        {
            People = one.People + other.People,
            SharedOut = one.SharedOut + other.SharedOut,
            Clicks = one.Clicks + other.Clicks,
        };
}

/// <summary>A branch of a route with what its pages got.</summary>
/// <param name="Rule">The rule's number; 0 for everyone else.</param>
/// <param name="Pages">Those of the outcome, in its order.</param>
/// <param name="Fallback">What the link's fallback got instead of them; null where it got nothing.</param>
internal sealed record BranchTally(byte Rule, RouteOutcome? Outcome, IReadOnlyList<PageTally> Pages, PageTally? Fallback)
{
    public bool IsSplit => Outcome is { IsClosed: false, IsSplit: true };

    /// <summary>Branches of the same key have the same pages with the same shares.</summary>
    public string Key => string.Join('\n', Pages.Select(p => $"{p.Page.Weight} {p.Page.Destination}"));

    /// <summary>The branches of a link, its rules in their order, and everyone else last.</summary>
    public static IEnumerable<BranchTally> Of(Link link, Route route, IReadOnlyCollection<WayCount> counts)
    {
        var byRule = counts.Where(c => c.Link == link.Id).ToLookup(c => c.Rule);
        return route
            .Rules.Select(r => (r.Number, To: (RouteOutcome?)r.To))
            .Append((Number: (byte)0, To: route.Otherwise))
            .Select(b => Branch(b.Number, b.To));

        BranchTally Branch(byte rule, RouteOutcome? outcome)
        {
            IReadOnlyList<RoutePage> pages = outcome?.Pages ?? [new(link.Destination, 100, [])];
            const byte fallback = (byte)LinkPage.Fallback;
            return new(
                rule,
                outcome,
                [.. pages.Select(p => Tally(p))],
                byRule[rule].Any(w => w.Page == fallback) ? Tally(new(link.Fallback ?? "", 0, [], "Fallback", fallback)) : null
            );

            // Whoever is known for thirty days falls by lot once, on however many of them they come, so that one day alone can be checked.
            PageTally Tally(RoutePage page)
            {
                var own = byRule[rule].Where(w => w.Page == page.Number).ToList();
                return new(
                    page,
                    own.Sum(w => (long)w.People),
                    own.Sum(w => route.Remember == RouteMemory.ThirtyDays ? w.PeopleOfFullestDay : (long)w.People),
                    own.Sum(w => (long)w.Clicks)
                );
            }
        }
    }

    /// <summary>This branch and that of another link of the same key, together.</summary>
    public BranchTally With(BranchTally other) =>
        this with
        {
            Pages = [.. Pages.Zip(other.Pages, (one, more) => one + more)],
            Fallback = (Fallback, other.Fallback) switch
            {
                ({ } one, { } more) => one + more,
                var (one, more) => one ?? more,
            },
        };
}
