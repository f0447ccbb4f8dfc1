using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>What a member may do. Each role includes the ones before it.</summary>
public enum Role : byte
{
    /// <summary>Reads everything in the workspace.</summary>
    Viewer = 0,

    /// <summary>Makes and changes posts, links, channels, campaigns and tags.</summary>
    Editor = 1,

    /// <summary>Sets the workspace up: domains, members, tokens.</summary>
    Owner = 2,
}

/// <summary>An account's place in a workspace.</summary>
public sealed class Member
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }
    public Guid AccountId { get; init; }
    public Role Role { get; set; }
    public Instant CreatedAt { get; init; }

    /// <summary>Whether the digest of each week comes by e-mail; nobody gets it who hasn't asked for it.</summary>
    public bool WantsDigest { get; set; }

    /// <summary>Monday of the last week of which the digest was sent.</summary>
    public LocalDate? DigestSentFor { get; set; }

    /// <summary>First day of the last week whose digest the person has read.</summary>
    public LocalDate? DigestReadFor { get; set; }

    /// <summary>When the person left or was removed. The entry stays, since history says who did what; see <see cref="WorkspacesModel"/>.</summary>
    public Instant? LeftAt { get; set; }

    public Workspace? Workspace { get; init; }
    public Account? Account { get; init; }
}
