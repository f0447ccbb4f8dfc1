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

    public Instant CreatedAt { get; init; }
    public Instant? LastUsedAt { get; set; }

    public Member? Member { get; init; }

    /// <summary>Makes a token for a member; the text is returned once and not kept.</summary>
    public static (ApiToken Token, string Text) Make(Guid memberId, string name, Instant now)
    {
        var text = "cursus_" + Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(32));
        return (
            new ApiToken
            {
                MemberId = memberId,
                Name = name,
                Hash = HashOf(text),
                Start = text[..13],
                CreatedAt = now,
            },
            text
        );
    }

    public static byte[] HashOf(string text) => SHA256.HashData(Encoding.UTF8.GetBytes(text));
}
