using Cursus.Core.Routing;

namespace Cursus.Web.Links.Routes;

/// <summary>Where a link leads whom, in requests and responses.</summary>
/// <param name="Remember">How long a visitor keeps the page of a split: <c>day</c> without a cookie, <c>30-days</c> with one on the short
/// domain.</param>
/// <param name="Rules">Read from the top; the first that is on and holds whole decides.</param>
/// <param name="Otherwise">What everyone else gets; the link's own destination if omitted.</param>
/// <param name="RouteId">The saved route that a link follows, in place of all others here; not in saved routes themselves.</param>
public sealed record RouteBody(
    RouteMemory Remember = RouteMemory.Day,
    IReadOnlyList<RuleBody>? Rules = null,
    OutcomeBody? Otherwise = null,
    Guid? RouteId = null
)
{
    /// <summary>Whether it gives rules or pages of its own.</summary>
    internal bool HasRules => Otherwise is not null || Rules is { Count: > 0 };
}

/// <summary>One rule: <c>to</c> or <c>closed</c> says what visitors get for whom all of <c>when</c> holds.</summary>
/// <param name="HandsOverWhileDead">Whether the other pages of a split get the visitors of one that is broken until it is back.</param>
/// <param name="Off">Switched off without being lost.</param>
/// <param name="Words">The conditions in words; ignored in requests.</param>
/// <param name="Number">Tells the rule in clicks; ignored in requests.</param>
/// <param name="People">How many people a rule with <c>first</c> has let through; ignored in requests.</param>
public sealed record RuleBody(
    WhenBody? When = null,
    IReadOnlyList<PageBody>? To = null,
    ClosedBody? Closed = null,
    bool HandsOverWhileDead = false,
    string? Name = null,
    bool Off = false,
    string? Words = null,
    int? Number = null,
    int? People = null
);

/// <summary>Conditions, all of which must hold.</summary>
/// <param name="Countries">ISO 3166-1 codes, or <c>unknown</c>.</param>
/// <param name="NotCountries">The same, of which it must be none.</param>
/// <param name="Systems">Operating systems as reports name them, such as Android.</param>
/// <param name="Languages">Language tags, such as <c>de</c> or <c>fr-CA</c>.</param>
/// <param name="From">An instant, or a day or time in the workspace's time zone.</param>
/// <param name="Until">The same; a day alone is the last one.</param>
/// <param name="Weekdays">1 to 7, Monday is 1.</param>
/// <param name="Hours">In the workspace's time zone, such as <c>22:00-06:00</c>; hours that cross midnight belong to the day on which they
/// begin.</param>
/// <param name="First">For so many people, not counting machines and the team; a few more where several processes answer.</param>
/// <param name="Networks">Names of networks that the visitor came from, as reports name them.</param>
public sealed record WhenBody(
    IReadOnlyList<string>? Countries = null,
    IReadOnlyList<string>? NotCountries = null,
    IReadOnlyList<RouteDevice>? Devices = null,
    IReadOnlyList<string>? Systems = null,
    IReadOnlyList<string>? Languages = null,
    string? From = null,
    string? Until = null,
    IReadOnlyList<int>? Weekdays = null,
    string? Hours = null,
    int? First = null,
    IReadOnlyList<string>? Networks = null,
    QueryBody? Query = null
);

/// <summary>A parameter of the short address.</summary>
/// <param name="EqualTo">Its value; any if omitted.</param>
public sealed record QueryBody(string? Name, [property: System.Text.Json.Serialization.JsonPropertyName("equals")] string? EqualTo = null);

/// <summary>What everyone else gets.</summary>
/// <param name="HandsOverWhileDead">Whether the other pages of a split get the visitors of one that is broken until it is back.</param>
public sealed record OutcomeBody(IReadOnlyList<PageBody>? To = null, bool HandsOverWhileDead = false);

/// <summary>A page, or one of those that share the visitors.</summary>
/// <param name="Destination">As for links.</param>
/// <param name="Weight">Share of the visitors in whole percent; 100 for a page alone.</param>
/// <param name="Number">Tells the page in clicks; ignored in requests.</param>
public sealed record PageBody(string? Destination, int? Weight = null, string? Name = null, int? Number = null);

/// <summary>What visitors get to whom it is closed.</summary>
/// <param name="Text">What they read; a usual sentence if omitted.</param>
/// <param name="Page">Where they are led instead of reading it.</param>
public sealed record ClosedBody(string? Text = null, string? Page = null);
