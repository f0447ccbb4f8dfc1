using NodaTime;

namespace Cursus.Core.Routing;

/// <summary>What a route gives one visitor.</summary>
/// <param name="Rule">Place of the rule that decided, from zero; null for everyone else.</param>
/// <param name="Outcome">Null for the link's own destination.</param>
/// <param name="Page">The page of the outcome; null where it is closed, or the link's own destination.</param>
public readonly record struct RouteDecision(int? Rule, RouteOutcome? Outcome, RoutePage? Page)
{
    /// <summary>Decides for one visitor.</summary>
    /// <param name="isDead">Whether the page of a number is known to be dead.</param>
    public static RouteDecision Of<T>(Route route, Guid link, DateTimeZone zone, ref T visit, Func<int, bool> isDead)
        where T : IRouteVisit, allows ref struct
    {
        ArgumentNullException.ThrowIfNull(route);
        ArgumentNullException.ThrowIfNull(isDead);
        var asked = new RouteQuestions(route, zone);
        for (var rule = 0; rule < route.Rules.Count; rule++)
        {
            if (!route.Rules[rule].IsOff && asked.FirstUnmet(route.Rules[rule].When, rule, ref visit) is null)
            {
                return Given(rule, route.Rules[rule].To, link, visit.Visitor, isDead);
            }
        }

        return Everyone(route, link, visit.Visitor, isDead);
    }

    /// <summary>What those get for whom no rule is asked: machines and previews.</summary>
    public static RouteDecision Everyone(Route route, Guid link, long visitor, Func<int, bool> isDead)
    {
        ArgumentNullException.ThrowIfNull(route);
        return route.Otherwise is { } otherwise ? Given(null, otherwise, link, visitor, isDead) : default;
    }

    private static RouteDecision Given(int? rule, RouteOutcome outcome, Guid link, long visitor, Func<int, bool> isDead) =>
        new(
            rule,
            outcome,
            outcome.IsClosed ? null
                : outcome.IsSplit ? Shared(outcome, link, visitor, isDead)
                : outcome.Pages[0]
        );

    /// <summary>The visitor's own page; where that is dead and hands its visitors over, one of the others by their shares.</summary>
    private static RoutePage Shared(RouteOutcome outcome, Guid link, long visitor, Func<int, bool> isDead)
    {
        var slot = SplitSlots.Of(visitor, link, outcome.Id);
        var page = outcome.Pages.First(p => p.Slots.Any(r => slot >= r.From && slot < r.To));
        if (!outcome.HandsOverDead || !isDead(page.Number))
        {
            return page;
        }

        var living = outcome.Pages.Where(p => p.Weight > 0 && !isDead(p.Number)).ToList();
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
