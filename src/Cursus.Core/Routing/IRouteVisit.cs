using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Core.Routing;

/// <summary>What rules may ask of a visit. Each is asked for only where a rule needs it, and at most once.</summary>
public interface IRouteVisit
{
    /// <summary>The moment of the visit.</summary>
    public Instant Now { get; }

    /// <summary>Tells the visitor from others: the key of the day, or of the thirty days of a cookie.</summary>
    public long Visitor { get; }

    public CountryCode Country();

    public RouteDevice Device();

    /// <summary>The operating system, as clicks name it.</summary>
    public string System();

    /// <summary>The value of the <c>Accept-Language</c> field.</summary>
    public string AcceptLanguage();

    /// <summary>Name of the network that the visitor came from; the host of a page that belongs to none that is known; empty where unknown.</summary>
    public string Network();

    /// <summary>The query of the short address, with or without its question mark.</summary>
    public string Query();

    /// <summary>Whether the visitor is one of the first <paramref name="count"/> people whom the rule of this number let through. Asked last, since
    /// whoever is asked about takes a place.</summary>
    public bool IsAmongFirst(byte rule, int count);
}
