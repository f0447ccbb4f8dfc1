using System.Security.Cryptography;
using System.Text;
using NodaTime;

namespace Cursus.Data.Workspaces;

/// <summary>A key with which a program acts as a member. Only its hash is stored, so it can be shown once.</summary>
public sealed class ApiToken
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid MemberId { get; init; }
    public required string Name { get; init; }

    /// <summary>SHA-256 of the token. A token carries 256 random bits, so a slow hash would add nothing.</summary>
    public required byte[] Hash { get; init; }

    /// <summary>The first characters, to tell tokens apart in a list.</summary>
    public required string Start { get; init; }

    /// <summary>The most it may do, however much its member may.</summary>
    public Role Role { get; init; } = Role.Owner;

    public TokenScope Scope { get; init; }

    /// <summary>Null where it works until it is revoked.</summary>
    public Instant? ExpiresAt { get; init; }

    public Instant CreatedAt { get; init; }
    public Instant? LastUsedAt { get; set; }

    public Member? Member { get; init; }

    /// <summary>Makes a token for a member; the text is returned once and not kept.</summary>
    public static (ApiToken Token, string Text) Make(
        Guid memberId,
        string name,
        Instant now,
        Role role = Role.Owner,
        TokenScope scope = TokenScope.Everything,
        Instant? expiresAt = null
    )
    {
        var text = "cursus_" + Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));
        return (
            new ApiToken
            {
                MemberId = memberId,
                Name = name,
                Hash = HashOf(text),
                Start = text[..13],
                Role = role,
                Scope = scope,
                ExpiresAt = expiresAt,
                CreatedAt = now,
            },
            text
        );
    }

    public static byte[] HashOf(string text) => SHA256.HashData(Encoding.UTF8.GetBytes(text));
}

/// <summary>What kind of requests a token is for.</summary>
public enum TokenScope : byte
{
    /// <summary>All that its role may.</summary>
    Everything = 0,

    /// <summary>Reading.</summary>
    Read = 1,

    /// <summary>Reading, and making posts and links.</summary>
    MakeLinks = 2,
}
