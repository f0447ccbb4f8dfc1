using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Links.Routes;
using NodaTime;
using Route = Cursus.Core.Routing.Route;

namespace Cursus.Web.Demo;

/// <summary>The demo's routed links: a split over two membership pages, an event that leads to its recording afterwards, a shop by country.</summary>
internal sealed class DemoRoutes(CursusDb db, DemoScenario scenario, DateTimeZone zone, LocalDate today, Instant begun, Func<string, string> address)
{
    private readonly Dictionary<string, SavedRoute> saved = [];

    /// <summary>Gives the links of a post their route; nothing where the scenario has none for it.</summary>
    public void Add(string post, Link link)
    {
        if (scenario.Routes.FirstOrDefault(r => r.Post == post) is not { } file)
        {
            return;
        }

        var route = new Route { Rules = [.. file.Rules.Select(Rule)], Otherwise = file.Split.Count == 0 ? null : Split(file.Split) };
        link.RouteId = file.SavedAs is { } name ? Saved(name, route, link.WorkspaceId).Id : null;
        link.Route = RouteText.Of(RoutesOfLinks.Numbered(link, route)!);
        RoutesOfLinks.Use(link);
    }

    private SavedRoute Saved(string name, Route route, Guid workspace)
    {
        if (saved.TryGetValue(name, out var made))
        {
            return made;
        }

        short last = 0;
        return saved[name] = db.Add(
            new SavedRoute
            {
                WorkspaceId = workspace,
                Name = name,
                Route = RouteText.Of(RouteEditing.After(null, route, ref last)!),
                LastRule = last,
                ChangedAt = begun,
            }
        ).Entity;
    }

    /// <summary>The clicks of a link with the ways that its route gives them.</summary>
    public IEnumerable<Click> Led(Link link, IEnumerable<Click> clicks)
    {
        if (link.Route is not { } text)
        {
            return clicks;
        }

        var route = RouteText.Read(text);
        return clicks.Select(click =>
        {
            var visit = new DemoVisit(click);
            var decision =
                click.Kind == ClickKind.Person
                    ? RouteDecision.Of(route, link.Id, zone, ref visit)
                    : RouteDecision.Everyone(route, link.Id, click.Visitor);
            return click with { Page = decision.Page?.Number ?? 0, Rule = decision.Rule is { } rule ? route.Rules[rule].Number : (byte)0 };
        });
    }

    private RouteRule Rule(DemoScenario.RuleFile file) =>
        new(
            new()
            {
                Countries = [.. file.Countries.Select(c => CountryCode.Of(c))],
                From = file.EndedDaysAgo is { } days ? zone.AtLeniently(today.PlusDays(-days).At(new LocalTime(22, 0))).ToInstant() : null,
            },
            new() { Pages = [new(address(file.Page), 100, [])] },
            file.Name
        );

    private RouteOutcome Split(IEnumerable<DemoScenario.SharedPageFile> pages) =>
        new() { Pages = [.. pages.Select(p => new RoutePage(address(p.Page), p.Weight, [], p.Name))], HandsOverDead = true };

    private sealed class DemoVisit(Click click) : IRouteVisit
    {
        private UserAgentReading Agent => UserAgentReading.Of(click.UserAgent, default);

        public Instant Now => click.At;

        public long Visitor => click.Visitor;

        public CountryCode Country() => click.Country;

        public RouteDevice Device() => RouteDevices.Of(Agent.Device);

        public string System() => Agent.Os;

        public string AcceptLanguage() => click.Language;

        public string Network() => ReferrerSite.Of(click.ReferrerHost).Network;

        public string Query() => "";

        public bool IsAmongFirst(byte rule, int count) => false;
    }
}
