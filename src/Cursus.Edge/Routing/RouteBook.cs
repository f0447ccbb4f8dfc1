using System.Collections.Concurrent;
using Cursus.Core.Routing;

namespace Cursus.Edge.Routing;

/// <summary>Routes of links as they were read last from their bytes, so that a visit doesn't read them again. What is kept is held against the bytes
/// at each visit, so that a changed route is followed at once.</summary>
internal sealed class RouteBook
{
    /// <summary>Links with routes are few; those that are in use at a time are fewer.</summary>
    private const int Most = 10_000;

    private readonly ConcurrentDictionary<Guid, (byte[] Bytes, FinishedRoute Route)> known = [];

    /// <summary>The route of a link; null where it has none.</summary>
    public FinishedRoute? Of(in LinkEntry link)
    {
        var bytes = link.Route;
        if (bytes.IsEmpty)
        {
            return null;
        }

        if (known.TryGetValue(link.Id, out var kept) && bytes.SequenceEqual(kept.Bytes))
        {
            return kept.Route;
        }

        var route = new FinishedRoute(RouteText.Read(bytes));
        if (known.Count >= Most)
        {
            known.Clear();
        }

        known[link.Id] = (bytes.ToArray(), route);
        return route;
    }
}
