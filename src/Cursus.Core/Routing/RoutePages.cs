namespace Cursus.Core.Routing;

/// <summary>
/// The pages of a link's routes by their numbers, which clicks are written down with: 0 is the link's own destination, 1 its fallback, and each page
/// of a route has the next number that no page of the link has had, for ever.
/// </summary>
public static class RoutePages
{
    /// <summary>The number of the first page of a route.</summary>
    public const byte First = 2;

    /// <summary>How many pages a link can have had.</summary>
    public const int MaxEver = byte.MaxValue - First + 1;

    /// <summary>All outcomes of a route.</summary>
    public static IEnumerable<RouteOutcome> Outcomes(Route route)
    {
        ArgumentNullException.ThrowIfNull(route);
        return route.Otherwise is { } otherwise ? route.Rules.Select(r => r.To).Append(otherwise) : route.Rules.Select(r => r.To);
    }

    /// <summary>The destinations of a route, each once.</summary>
    public static IEnumerable<string> Destinations(Route route) => Outcomes(route).SelectMany(o => o.Pages).Select(p => p.Destination).Distinct();

    /// <summary>The one page that stands for all that everyone else gets, where only one can: that with the greatest share. Null for the link's own
    /// destination.</summary>
    public static RoutePage? OfEveryoneElse(Route route)
    {
        ArgumentNullException.ThrowIfNull(route);
        return route.Otherwise?.Pages.MaxBy(p => p.Weight);
    }

    /// <summary>The route with changed pages.</summary>
    public static Route With(Route route, Func<RoutePage, RoutePage> change)
    {
        ArgumentNullException.ThrowIfNull(route);
        return route with
        {
            Rules = [.. route.Rules.Select(r => r with { To = Of(r.To) })],
            Otherwise = route.Otherwise is { } otherwise ? Of(otherwise) : null,
        };

        RouteOutcome Of(RouteOutcome outcome) => outcome with { Pages = [.. outcome.Pages.Select(change)] };
    }

    /// <summary>The route with the numbers of its pages, and all that the link has had from then on.</summary>
    /// <param name="had">Destinations that have numbers.</param>
    /// <exception cref="InvalidOperationException">The link has had too many; see <see cref="CanNumber"/>.</exception>
    public static (Route Route, IReadOnlyDictionary<string, byte> Numbers) Numbered(Route route, IReadOnlyDictionary<string, byte> had)
    {
        ArgumentNullException.ThrowIfNull(had);
        if (!CanNumber(route, had))
        {
            throw new InvalidOperationException($"A link can have led to {MaxEver} pages at most.");
        }

        var numbers = had.ToDictionary();
        var next = had.Values.DefaultIfEmpty((byte)(First - 1)).Max() + 1;
        foreach (var destination in Destinations(route).Where(d => !numbers.ContainsKey(d)))
        {
            numbers[destination] = (byte)next++;
        }

        return (With(route, p => p with { Number = numbers[p.Destination] }), numbers);
    }

    /// <summary>Whether there are numbers left for the new pages of a route.</summary>
    public static bool CanNumber(Route route, IReadOnlyDictionary<string, byte> had) =>
        had.Count + Destinations(route).Count(d => !had.ContainsKey(d)) <= MaxEver;
}
