using System.Text;

namespace Cursus.Core.Routing;

/// <summary>A route as the edge follows it: with finished addresses, and which of its pages are known to be dead.</summary>
public sealed class FinishedRoute
{
    private readonly Dictionary<byte, byte[]> addresses;

    /// <param name="route">Its destinations are finished addresses, its pages have numbers.</param>
    public FinishedRoute(Route route)
    {
        Route = route;
        addresses = RoutePages
            .Outcomes(route)
            .SelectMany(o => o.Pages)
            .DistinctBy(p => p.Number)
            .ToDictionary(p => p.Number, p => Encoding.UTF8.GetBytes(p.Destination));
    }

    public Route Route { get; }

    /// <summary>The address of a page, as UTF-8; empty where the route has no such page.</summary>
    public ReadOnlySpan<byte> AddressOf(byte page) => addresses.GetValueOrDefault(page);
}
