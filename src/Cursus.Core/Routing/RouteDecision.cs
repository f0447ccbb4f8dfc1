using NodaTime;

namespace Cursus.Core.Routing;

/// <summary>What a route gives one visitor.</summary>
/// <param name="Rule">Place of the rule that decided, from zero; null for everyone else.</param>
/// <param name="Outcome">Null for the link's own destination.</param>
/// <param name="Page">The page of the outcome; null where it is closed, or the link's own destination.</param>
public readonly record struct RouteDecision(int? Rule, RouteOutcome? Outcome, RoutePage? Page)
{
    /// <summary>Decides for one visitor.</summary>
    public static RouteDecision Of<T>(Route route, Guid link, DateTimeZone zone, ref T visit)
        where T : IRouteVisit, allows ref struct
    {
        ArgumentNullException.ThrowIfNull(route);
        var asked = new RouteQuestions(route, zone);
        for (var rule = 0; rule < route.Rules.Count; rule++)
        {
            if (!route.Rules[rule].IsOff && asked.FirstUnmet(route.Rules[rule], ref visit) is null)
            {
                return Given(rule, route.Rules[rule].To, link, visit.Visitor);
            }
        }

        return Everyone(route, link, visit.Visitor);
    }

    /// <summary>What those get for whom no rule is asked: machines and previews.</summary>
    public static RouteDecision Everyone(Route route, Guid link, long visitor)
    {
        ArgumentNullException.ThrowIfNull(route);
        return route.Otherwise is { } otherwise ? Given(null, otherwise, link, visitor) : default;
    }

    private static RouteDecision Given(int? rule, RouteOutcome outcome, Guid link, long visitor) =>
        new(
            rule,
            outcome,
            outcome.IsSplit ? Shared(outcome, link, visitor)
                : outcome.Pages is [var only] ? only
                : null
        );

    /// <summary>The visitor's own page; where that is dead and hands its visitors over, one of the others by their shares.</summary>
    private static RoutePage Shared(RouteOutcome outcome, Guid link, long visitor)
    {
        var slot = SplitSlots.Of(visitor, link, outcome.Id);
        var page = outcome.Pages.First(p => p.Slots.Any(r => slot >= r.From && slot < r.To));
        if (!outcome.HandsOverDead || !page.IsDead)
        {
            return page;
        }

        var living = outcome.Pages.Where(p => p.Weight > 0 && !p.IsDead).ToList();
        var rest = (long)SplitSlots.Of(~visitor, link, outcome.Id) * living.Sum(p => p.Weight) / SplitSlots.Count;
        foreach (var other in living)
        {
            if ((rest -= other.Weight) < 0)
            {
                return other;
            }
        }

        return page;
    }
}
