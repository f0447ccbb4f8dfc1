using NodaTime;

namespace Cursus.Core.Routing;

/// <summary>A route tried on a visitor, with the reason at each rule.</summary>
/// <param name="Why">One sentence for each rule, in their order.</param>
public sealed record RouteTrial(RouteDecision Decision, IReadOnlyList<string> Why)
{
    /// <param name="visit">Its answers must not change while it is asked.</param>
    public static RouteTrial Of<T>(Route route, Guid link, DateTimeZone zone, ref T visit)
        where T : IRouteVisit, allows ref struct
    {
        ArgumentNullException.ThrowIfNull(route);
        var decision = RouteDecision.Of(route, link, zone, ref visit);
        var asked = new RouteQuestions(route, zone);
        var why = new List<string>();
        for (var place = 0; place < route.Rules.Count; place++)
        {
            var rule = route.Rules[place];
            why.Add(
                place == decision.Rule ? "Decides: all its conditions hold."
                : rule.IsOff ? "Passed over: it is switched off."
                : place > decision.Rule ? "Not asked: a rule above it has decided."
                : asked.FirstUnmet(rule, ref visit) is { } unmet ? $"Doesn’t hold: the visit isn’t “{RouteWords.Of(unmet, rule.When, zone)}”."
                : "Not asked."
            );
        }

        return new(decision, why);
    }
}
