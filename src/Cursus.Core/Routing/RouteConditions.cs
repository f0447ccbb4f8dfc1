using System.Text.Json.Serialization;
using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Core.Routing;

/// <summary>Conditions of a rule. What is null or empty asks for nothing.</summary>
public sealed record RouteConditions
{
    /// <summary>The country is one of these; the unknown one is a value of its own.</summary>
    public IReadOnlyList<CountryCode> Countries { get; init; } = [];

    /// <summary>The country is none of these.</summary>
    public IReadOnlyList<CountryCode> NotCountries { get; init; } = [];

    public IReadOnlyList<RouteDevice> Devices { get; init; } = [];

    /// <summary>Operating systems, as clicks name them.</summary>
    public IReadOnlyList<string> Systems { get; init; } = [];

    /// <summary>The language that the visitor's browser asks for before all others of the route; see <see cref="LanguagePreference"/>.</summary>
    public IReadOnlyList<string> Languages { get; init; } = [];

    public Instant? From { get; init; }

    /// <summary>The first moment at which it no longer holds.</summary>
    public Instant? Until { get; init; }

    public WeekHours? Week { get; init; }

    /// <summary>The most people that a rule can count.</summary>
    public const int MaxFirst = 100_000;

    /// <summary>It holds for so many people, and then for nobody else.</summary>
    public int? First { get; init; }

    /// <summary>Networks that the visitor came from, by their names.</summary>
    public IReadOnlyList<string> Networks { get; init; } = [];

    public QueryCondition? Query { get; init; }

    /// <summary>Whether it asks for nothing, so that it would hold for everybody.</summary>
    [JsonIgnore]
    public bool AreNone =>
        Countries.Count + NotCountries.Count + Devices.Count + Systems.Count + Languages.Count + Networks.Count == 0
        && this is { From: null, Until: null, Week: null, First: null, Query: null };
}

/// <summary>A parameter of the short address.</summary>
/// <param name="Name">As it is written.</param>
/// <param name="EqualTo">Its value; null where it only has to be there.</param>
public sealed record QueryCondition(string Name, string? EqualTo = null);

/// <summary>What visitors hold in their hands, as routes tell it.</summary>
public enum RouteDevice : byte
{
    Phone,
    Tablet,
    Computer,

    /// <summary>A television, console or watch, or nobody knows.</summary>
    Other,
}
