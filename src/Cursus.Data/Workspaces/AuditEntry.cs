using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>What somebody did, written in the transaction that did it, and never changed afterwards: the database refuses to.</summary>
public sealed class AuditEntry
{
    /// <summary>How long entries are kept.</summary>
    public static readonly Duration Life = Duration.FromDays(400);

    /// <summary>Longest name and detail, in characters; what is longer is cut.</summary>
    public const int MaxText = 500;

    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public Instant At { get; init; }

    /// <summary>What was done, one of <see cref="AuditAction"/>.</summary>
    public AuditAction Action { get; init; }

    /// <summary>Whose account did it; null where the server did it by itself.</summary>
    public Guid? AccountId { get; init; }

    /// <summary>That person's name at the time.</summary>
    public required string Who { get; init; }

    /// <summary>Name of the API token that was used; null in a browser.</summary>
    public string? Token { get; init; }

    /// <summary>What kind of thing it was done to, as the API's paths name it, such as <c>links</c>.</summary>
    public required string Kind { get; init; }

    /// <summary>Which one, by what its path ends with; null where there is none or are several.</summary>
    public string? Thing { get; init; }

    /// <summary>Its name at the time.</summary>
    public string? Name { get; init; }

    /// <summary>What changed, in words.</summary>
    public string? Detail { get; init; }
}

/// <summary>What the audit log tells of.</summary>
public enum AuditAction : byte
{
    SignedIn = 1,
    PasswordChanged = 2,
    EmailChanged = 3,
    TwoStepChanged = 4,
    Invited = 10,
    InvitationWithdrawn = 11,
    Joined = 12,
    RoleChanged = 13,
    Removed = 14,
    Left = 15,
    TokenCreated = 20,
    TokenRevoked = 21,
    DomainAdded = 30,
    DomainChanged = 31,
    DestinationChanged = 40,
    Deleted = 50,
    Exported = 60,
    Imported = 61,
    SettingsChanged = 70,
    WorkspaceCreated = 71,
}
