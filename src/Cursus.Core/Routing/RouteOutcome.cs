using System.Text.Json.Serialization;

namespace Cursus.Core.Routing;

/// <summary>What visitors get: pages that share them, one alone or several, or nothing but a page that says so.</summary>
public sealed record RouteOutcome
{
    /// <summary>The most pages of a split.</summary>
    public const int MaxPages = 20;

    /// <summary>The longest text of a closed link, in characters.</summary>
    public const int MaxClosedText = 300;

    /// <summary>Tells the split of others of its link, so that who gets which page of one says nothing of another; never changes.</summary>
    public Guid Id { get; init; } = Guid.NewGuid();

    /// <summary>Where it is closed, the page that stands for the others, or none.</summary>
    public IReadOnlyList<RoutePage> Pages { get; init; } = [];

    /// <summary>Whether what others get is closed to these visitors.</summary>
    public bool IsClosed { get; init; }

    /// <summary>Whether a page that is known to be dead gives its visitors to the others until it is back.</summary>
    public bool HandsOverDead { get; init; }

    /// <summary>What visitors read where it is closed and no page stands for it; null for the usual words.</summary>
    public string? ClosedText { get; init; }

    /// <summary>Whether several pages share the visitors.</summary>
    [JsonIgnore]
    public bool IsSplit => Pages.Count > 1;
}

/// <summary>A page of a route.</summary>
/// <param name="Destination">As entered; at the edge its finished address.</param>
/// <param name="Weight">Its share of the visitors in whole percent.</param>
/// <param name="Slots">Which of the split's slots are its own; see <see cref="SplitSlots"/>.</param>
/// <param name="Name">What people call it.</param>
/// <param name="Number">Tells the page of others of its link; a number is never given to another page. See <see cref="RoutePages"/>.</param>
/// <param name="IsDead">Whether it is known to be dead; only at the edge.</param>
public sealed record RoutePage(
    string Destination,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.Never)] int Weight,
    IReadOnlyList<SlotRange> Slots,
    string? Name = null,
    byte Number = 0,
    bool IsDead = false
);
