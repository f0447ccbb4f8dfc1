using Cursus.Core.Addresses.Urls;
using NodaTime;

namespace Cursus.Core.Routing;

/// <summary>A condition of a rule, by what it asks.</summary>
public enum RouteQuestion
{
    Time,
    Week,
    Country,
    Device,
    System,
    Language,
    Network,
    Query,

    /// <summary>The last, since only those are counted for whom all else holds.</summary>
    First,
}

/// <summary>Asks the conditions of a route's rules of one visit, the cheapest first.</summary>
internal struct RouteQuestions(Route route, DateTimeZone zone)
{
    private LocalDateTime? local;
    private string? language;
    private bool knowsLanguage;

    /// <summary>The first condition that doesn't hold; null where all do.</summary>
    public RouteQuestion? FirstUnmet<T>(RouteRule rule, ref T visit)
        where T : IRouteVisit, allows ref struct
    {
        var when = rule.When;
        if ((when.From is { } from && visit.Now < from) || (when.Until is { } until && visit.Now >= until))
        {
            return RouteQuestion.Time;
        }

        if (when.Week is { } week && !week.Holds(local ??= visit.Now.InZone(zone).LocalDateTime))
        {
            return RouteQuestion.Week;
        }

        if (when.Countries.Count + when.NotCountries.Count > 0)
        {
            var country = visit.Country();
            if ((when.Countries.Count > 0 && !when.Countries.Contains(country)) || when.NotCountries.Contains(country))
            {
                return RouteQuestion.Country;
            }
        }

        return when.Devices.Count > 0 && !when.Devices.Contains(visit.Device()) ? RouteQuestion.Device
            : when.Systems.Count > 0 && !when.Systems.Contains(visit.System(), StringComparer.OrdinalIgnoreCase) ? RouteQuestion.System
            : when.Languages.Count > 0 && !when.Languages.Contains(Language(ref visit), StringComparer.OrdinalIgnoreCase) ? RouteQuestion.Language
            : when.Networks.Count > 0 && !when.Networks.Contains(visit.Network(), StringComparer.OrdinalIgnoreCase) ? RouteQuestion.Network
            : when.Query is { } query && !Has(visit.Query(), query) ? RouteQuestion.Query
            : when.First is { } count && !visit.IsAmongFirst(rule.Number, count) ? RouteQuestion.First
            : null;
    }

    /// <summary>The one of all languages of the route that the visitor wants most, so that a rule doesn't take those who would rather have
    /// another's.</summary>
    private string? Language<T>(ref T visit)
        where T : IRouteVisit, allows ref struct
    {
        if (!knowsLanguage)
        {
            language = LanguagePreference.Of(visit.AcceptLanguage()).Lookup([.. route.Rules.Where(r => !r.IsOff).SelectMany(r => r.When.Languages)]);
            knowsLanguage = true;
        }

        return language;
    }

    private static bool Has(string query, QueryCondition condition) =>
        query
            .TrimStart('?')
            .Split('&', StringSplitOptions.RemoveEmptyEntries)
            .Any(p => QueryParameter.NameOf(p) == condition.Name && (condition.EqualTo is null || QueryParameter.ValueOf(p) == condition.EqualTo));
}
