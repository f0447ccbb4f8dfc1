using Cursus.Core.Addresses;
using Cursus.Data.Retargeting;
using NodaTime;

namespace Cursus.Data.Addresses;

/// <summary>A short domain of a workspace. The edge answers on it once it is verified.</summary>
public sealed class ShortDomain
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid WorkspaceId { get; init; }

    /// <summary>Lower-case ASCII host name without port.</summary>
    public required string Name { get; init; }

    /// <summary>When it was found to point here; null while it does not.</summary>
    public Instant? VerifiedAt { get; set; }

    /// <summary>New links take this domain unless another is chosen. One for each workspace.</summary>
    public bool IsDefault { get; set; }

    /// <summary>Where the bare domain leads; null shows a plain page.</summary>
    public string? BarePage { get; set; }

    /// <summary>Where an unknown slug leads; null shows a plain page.</summary>
    public string? UnknownPage { get; set; }

    /// <summary>Where links that have ended lead; null shows a plain page.</summary>
    public string? EndedPage { get; set; }

    /// <summary>Redirect type of new links; the workspace's where null.</summary>
    public short? Redirect { get; set; }

    /// <summary>Whether new links take <see cref="Options"/> of this domain; else the workspace's.</summary>
    public bool HasOwnOptions { get; set; }

    /// <summary>Options of new links, where it has its own.</summary>
    public LinkOptions Options { get; set; } = LinkOptions.Plain;

    /// <summary>Secret text that the owner puts into a TXT record to prove that the domain is theirs.</summary>
    public string Proof { get; init; } = "";

    /// <summary>When its records were looked up last.</summary>
    public Instant? CheckedAt { get; set; }

    /// <summary>When they will be looked up next; null where nothing is to be checked.</summary>
    public Instant? NextCheckAt { get; set; }

    /// <summary>Since when a verified domain's records have been wrong; its links go on working as long as visitors arrive.</summary>
    public Instant? FailingSince { get; set; }

    /// <summary>JSON: each record with what is expected and what was found.</summary>
    public string Findings { get; set; } = "[]";

    /// <summary>When the current certificate expires; null if none was seen.</summary>
    public Instant? CertificateEndsAt { get; set; }

    /// <summary>When its certificate was looked at last.</summary>
    public Instant? CertificateCheckedAt { get; set; }

    public Instant CreatedAt { get; init; }

    /// <summary>Pixels that fire for all its links.</summary>
    public List<Pixel> Pixels { get; init; } = [];
}
