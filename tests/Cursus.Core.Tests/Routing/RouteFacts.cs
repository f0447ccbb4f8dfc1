using Cursus.Core.Clicks;
using Cursus.Core.Routing;
using NodaTime;

namespace Cursus.Core.Tests.Routing;

/// <summary>A visit of which everything is known beforehand.</summary>
internal sealed record RouteFacts : IRouteVisit
{
    public Instant At { get; init; } = Instant.FromUtc(2026, 12, 1, 9, 0);
    public long Key { get; init; }
    public string CountryCodeText { get; init; } = "";
    public RouteDevice Held { get; init; } = RouteDevice.Computer;
    public string Os { get; init; } = "Other";
    public string Languages { get; init; } = "";
    public string From { get; init; } = "";
    public string Parameters { get; init; } = "";

    /// <summary>How many people were let through before.</summary>
    public int Before { get; init; }

    Instant IRouteVisit.Now => At;

    long IRouteVisit.Visitor => Key;

    CountryCode IRouteVisit.Country() => CountryCode.Of(CountryCodeText);

    RouteDevice IRouteVisit.Device() => Held;

    string IRouteVisit.System() => Os;

    string IRouteVisit.AcceptLanguage() => Languages;

    string IRouteVisit.Network() => From;

    string IRouteVisit.Query() => Parameters;

    bool IRouteVisit.IsAmongFirst(byte rule, int count) => Before < count;

    public RouteDecision Decide(Route route, Guid link = default, DateTimeZone? zone = null)
    {
        var visit = this;
        return RouteDecision.Of(route, link, zone ?? DateTimeZone.Utc, ref visit);
    }
}
