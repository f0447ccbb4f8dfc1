namespace Cursus.Core.Routing;

/// <summary>What a route keeps of the one before it: visitors of a split stay where they were as far as its weights allow, and a rule that is still
/// there has the number by which its clicks are found.</summary>
public static class RouteEditing
{
    /// <summary>How many rules a link can have had.</summary>
    public const byte MaxRulesEver = byte.MaxValue;

    /// <summary>The route as it follows on the one before; null where the link has had too many rules.</summary>
    /// <param name="before">Null where the link had none.</param>
    /// <param name="last">The last number that was given to a rule of the link; becomes the one that is by now.</param>
    public static Route? After(Route? before, Route route, ref short last)
    {
        ArgumentNullException.ThrowIfNull(route);
        var had = before is null ? [] : before.Rules.ToList();

        // A rule that is still there comes before one that only leads to the same pages.
        var former = new Dictionary<int, RouteRule>();
        foreach (var isFormer in new Func<RouteRule, RouteRule, bool>[] { IsSame, (was, rule) => Shares(was.To, rule.To) })
        {
            foreach (var (place, rule) in route.Rules.Index().Where(r => !former.ContainsKey(r.Index)))
            {
                if (had.Find(was => isFormer(was, rule)) is { } found)
                {
                    had.Remove(found);
                    former[place] = found;
                }
            }
        }

        if (last + route.Rules.Count - former.Count > MaxRulesEver)
        {
            return null;
        }

        var rules = new List<RouteRule>();
        foreach (var (place, rule) in route.Rules.Index())
        {
            var was = former.GetValueOrDefault(place);
            rules.Add(rule with { To = Kept(was?.To, rule.To), Number = was?.Number ?? (byte)++last });
        }

        return route with
        {
            Rules = rules,
            Otherwise = route.Otherwise is { } otherwise ? Kept(before?.Otherwise, otherwise) : null,
        };
    }

    /// <summary>Whether both lead everybody to the same pages by the same rules, whatever numbers these have.</summary>
    public static bool LeadAlike(Route one, Route other) => RouteText.Of(Unnumbered(one)) == RouteText.Of(Unnumbered(other));

    private static Route Unnumbered(Route route) =>
        route with
        {
            Rules = [.. route.Rules.Select(r => r with { Number = 0, To = Unnumbered(r.To) })],
            Otherwise = route.Otherwise is { } otherwise ? Unnumbered(otherwise) : null,
        };

    private static RouteOutcome Unnumbered(RouteOutcome outcome) =>
        outcome with
        {
            Id = Guid.Empty,
            Pages = [.. outcome.Pages.Select(p => p with { Number = 0, Slots = [] })],
        };

    private static bool IsSame(RouteRule former, RouteRule rule) => RouteText.Of(former.When) == RouteText.Of(rule.When);

    private static bool Shares(RouteOutcome one, RouteOutcome other) => one.Pages.Any(p => other.Pages.Any(o => o.Destination == p.Destination));

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
