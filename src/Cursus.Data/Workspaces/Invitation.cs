using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>Somebody who was asked to join a workspace and hasn't answered. It is deleted when it is accepted or withdrawn.</summary>
public sealed class Invitation
{
    /// <summary>How long the link in the e-mail works.</summary>
    public static readonly Duration Life = Duration.FromDays(7);

    /// <summary>The longest line of one's own, in characters.</summary>
    public const int MaxMessage = 500;

    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>As it was typed.</summary>
    public required string Email { get; init; }

    /// <summary>As Identity compares addresses; once in a workspace.</summary>
    public required string NormalizedEmail { get; init; }

    public Role Role { get; set; }

    /// <summary>A line of the inviting person's own, shown in the e-mail and on the page it leads to.</summary>
    public string? Message { get; set; }

    /// <summary>The member who sent it last.</summary>
    public Guid InvitedBy { get; set; }

    public Instant CreatedAt { get; init; }
    public Instant ExpiresAt { get; set; }

    /// <summary>Each link names the version it was made for, so that sending it again makes the earlier link worthless.</summary>
    public int Version { get; set; } = 1;

    public Workspace? Workspace { get; init; }
}
