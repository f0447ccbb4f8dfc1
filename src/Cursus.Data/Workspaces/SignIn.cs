using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>An account signed in in one browser. The browser's cookie names it; without it the cookie is worth nothing, wherever it was copied
/// to.</summary>
public sealed class SignIn
{
    /// <summary>How long a browser that isn't used stays signed in.</summary>
    public static readonly Duration Life = Duration.FromDays(30);

    /// <summary>How long a browser stays signed in however much it is used.</summary>
    public static readonly Duration LongestLife = Duration.FromDays(180);

    public Guid Id { get; init; } = Guid.NewGuid();
    public Guid AccountId { get; init; }
    public Instant CreatedAt { get; init; }

    /// <summary>When it was last used, to a day.</summary>
    public Instant LastUsedAt { get; set; }

    /// <summary>The browser and the system it runs on, as far as it says.</summary>
    public string? Device { get; init; }

    /// <summary>The network address it signed in from.</summary>
    public string? Address { get; init; }

    /// <summary>The country of that address (ISO 3166-1); null where unknown.</summary>
    public string? Country { get; init; }
}
