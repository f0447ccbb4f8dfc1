using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data.Links;
using Route = Cursus.Core.Routing.Route;

namespace Cursus.Web.Links.Routes;

/// <summary>Keeps the pages of a link with its route. The link's pages must be loaded.</summary>
internal static class RoutesOfLinks
{
    /// <summary>The route with numbers for its rules and pages, as it follows on the one that the link has; null where the link has had too many
    /// rules or pages.</summary>
    public static Route? Numbered(Link link, Route route)
    {
        var had = link.RoutedPages.ToDictionary(p => p.Destination, p => (byte)p.Number);
        var last = link.LastRule;
        if (
            !RoutePages.CanNumber(route, had)
            || RouteEditing.After(link.Route is { } before ? RouteText.Read(before) : null, route, ref last) is not { } after
        )
        {
            return null;
        }

        link.LastRule = last;
        return RoutePages.Numbered(after, had).Route;
    }

    /// <summary>The link with these rules, or without any; null where it has had too many rules or pages.</summary>
    public static LinkState? Given(Link link, LinkState state, GivenRoute? given)
    {
        if (given is null)
        {
            return state with { Route = null, RouteId = null };
        }

        return Numbered(link, given.Route) is { } numbered ? state with { Route = RouteText.Of(numbered), RouteId = given.SavedRoute } : null;
    }

    /// <summary>Notes which pages the link's route leads to by now. Those that it had stay with their numbers.</summary>
    public static void Use(Link link)
    {
        var used = link.Route is { } text
            ? RoutePages.Outcomes(RouteText.Read(text)).SelectMany(o => o.Pages).DistinctBy(p => p.Number).ToDictionary(p => (short)p.Number)
            : [];
        foreach (var page in link.RoutedPages)
        {
            page.IsUsed = used.Remove(page.Number);
        }

        link.RoutedPages.AddRange(
            used.Values.Select(p => new RoutedPage
            {
                LinkId = link.Id,
                Number = p.Number,
                Destination = p.Destination,
                IsUsed = true,
            })
        );
    }
}
