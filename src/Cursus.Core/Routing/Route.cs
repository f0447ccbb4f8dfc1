using System.Text.Json.Serialization;

namespace Cursus.Core.Routing;

/// <summary>How long a visitor keeps the page of a split.</summary>
public enum RouteMemory : byte
{
    /// <summary>For a day, without a cookie: visitors are told apart by the day's key.</summary>
    Day,

    /// <summary>For thirty days, by a cookie of the short domain.</summary>
    [JsonStringEnumMemberName("30-days")]
    ThirtyDays,
}

/// <summary>Where a link leads whom: rules that are read from the top, and what holds for everyone else. The first rule that is on and whose
/// conditions all hold decides.</summary>
public sealed record Route
{
    /// <summary>The most rules of a route.</summary>
    public const int MaxRules = 50;

    public RouteMemory Remember { get; init; }

    public IReadOnlyList<RouteRule> Rules { get; init; } = [];

    /// <summary>What holds for everyone else; null for the link's own destination.</summary>
    public RouteOutcome? Otherwise { get; init; }
}

/// <summary>One rule of a route.</summary>
/// <param name="When">All of them must hold.</param>
/// <param name="To">What visitors get for whom it holds.</param>
/// <param name="Name">What people call it; null for its conditions in words.</param>
/// <param name="IsOff">Switched off without being lost.</param>
/// <param name="Number">Tells the rule of others of its link; a number is never given to another rule.</param>
public sealed record RouteRule(RouteConditions When, RouteOutcome To, string? Name = null, bool IsOff = false, byte Number = 0);
