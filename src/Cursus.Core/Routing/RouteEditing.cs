namespace Cursus.Core.Routing;

/// <summary>What a route keeps of the one before it: visitors of a split stay where they were as far as its weights allow, and a rule that is still
/// there has the number by which its clicks are found.</summary>
public static class RouteEditing
{
    /// <summary>The route as it follows on the one before.</summary>
    /// <param name="before">Null where the link had none.</param>
    public static Route After(Route? before, Route route)
    {
        ArgumentNullException.ThrowIfNull(route);
        var had = before is null ? [] : before.Rules.ToList();
        var last = had.Select(r => r.Number).DefaultIfEmpty().Max();
        var rules = new List<RouteRule>();
        foreach (var rule in route.Rules)
        {
            var former = had.Find(r => IsSame(r, rule)) ?? had.Find(r => Shares(r.To, rule.To) > 0);
            if (former is not null)
            {
                had.Remove(former);
            }

            rules.Add(rule with { To = Kept(former?.To, rule.To), Number = former?.Number ?? ++last });
        }

        return route with
        {
            Rules = rules,
            Otherwise = route.Otherwise is { } otherwise ? Kept(before?.Otherwise, otherwise) : null,
        };
    }

    private static bool IsSame(RouteRule former, RouteRule rule) => RouteText.Of(former.When) == RouteText.Of(rule.When);

    private static int Shares(RouteOutcome one, RouteOutcome other) => one.Pages.Count(p => other.Pages.Any(o => o.Destination == p.Destination));

    private static RouteOutcome Kept(RouteOutcome? former, RouteOutcome outcome)
    {
        if (outcome.Pages.Count == 0)
        {
            return outcome;
        }

        var free = former?.Pages.ToList() ?? [];
        var had = outcome
            .Pages.Select(page =>
            {
                var at = free.FindIndex(p => p.Destination == page.Destination);
                IReadOnlyList<SlotRange> slots = at < 0 ? [] : free[at].Slots;
                free.RemoveRange(Math.Max(at, 0), at < 0 ? 0 : 1);
                return slots;
            })
            .ToList();
        var slots = SplitSlots.Moved(had, [.. outcome.Pages.Select(p => outcome.IsClosed ? 100 : p.Weight)]);
        return outcome with { Id = former?.Id ?? outcome.Id, Pages = [.. outcome.Pages.Select((p, i) => p with { Slots = slots[i] })] };
    }
}
