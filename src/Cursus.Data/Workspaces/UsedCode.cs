using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>A code of an authenticator app that somebody has signed in with: it counts once (RFC 6238, section 5.2).</summary>
public sealed class UsedCode
{
    /// <summary>How long codes are remembered: longer than any is taken.</summary>
    public static readonly Duration Life = Duration.FromMinutes(10);

    public Guid AccountId { get; init; }
    public required string Code { get; init; }
    public Instant UsedAt { get; init; }
}

/// <summary>Whose two-step sign-in a workspace asks for.</summary>
public enum TwoStepRule : byte
{
    Nobody = 0,
    Owners = 1,
    Everybody = 2,
}
