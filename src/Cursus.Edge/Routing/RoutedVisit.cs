using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Core.Routing;
using NodaTime;

namespace Cursus.Edge.Routing;

/// <summary>A visit as a link's rules may ask about it. What isn't asked isn't read.</summary>
internal ref struct RoutedVisit(
    Guid link,
    VisitReader.Visitor visitor,
    VisitorHeaders headers,
    long key,
    string query,
    AgentBook agents,
    FirstPeople people
) : IRouteVisit
{
    private readonly VisitorHeaders headers = headers;
    private UserAgentReading? agent;

    public readonly Instant Now => visitor.At;

    public readonly long Visitor => key;

    /// <summary>Who it is, by headers and user agent together.</summary>
    public ClickKind Kind => visitor.Kind == ClickKind.Person ? Agent.Kind : visitor.Kind;

    private UserAgentReading Agent => agent ??= agents.Of(headers.UserAgent, new(Hints, visitor.Signs));

    private readonly ClientHints Hints => ClientHints.Read(headers.Platform, headers.Mobile, headers.FormFactors);

    public readonly CountryCode Country() => visitor.Country;

    public RouteDevice Device() => RouteDevices.Of(Agent.Device);

    public string System() => Agent.Os;

    public readonly string AcceptLanguage() => headers.AcceptLanguage.ToString();

    public readonly string Network()
    {
        Span<char> host = stackalloc char[ReferrerHost.MaxLength];
        return ReferrerSite.Of(host[..ReferrerHost.Read(headers.Referer, host)].ToString()).Network;
    }

    public readonly string Query() => query;

    public readonly bool IsAmongFirst(byte rule, int count) => people.IsAmong(link, rule, count, key, visitor.Kind == ClickKind.Person);
}
