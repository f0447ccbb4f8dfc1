using System.Security.Cryptography;
using System.Text;
using NodaTime;

namespace Cursus.Data.Reports;

/// <summary>A secret address under which somebody without an account reads a saved view. Only its hash is stored, so that it can be shown
/// once.</summary>
public sealed class ViewShare
{
    public Guid Id { get; init; } = Guid.CreateVersion7();
    public Guid ViewId { get; init; }

    /// <summary>For whom it was made, in the words of whoever made it.</summary>
    public required string Name { get; init; }

    /// <summary>SHA-256 of the secret, which carries 192 random bits.</summary>
    public required byte[] Hash { get; init; }

    public Instant CreatedAt { get; init; }

    /// <summary>From when on it shows nothing any more; null for never.</summary>
    public Instant? ExpiresAt { get; init; }

    public Instant? LastSeenAt { get; set; }

    public SavedView? View { get; init; }

    /// <summary>Makes a share of a view; the secret is returned once and not kept.</summary>
    public static (ViewShare Share, string Secret) Make(Guid viewId, string name, Instant? expiresAt, Instant now)
    {
        var secret = Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(24));
        return (
            new ViewShare
            {
                ViewId = viewId,
                Name = name,
                Hash = HashOf(secret),
                ExpiresAt = expiresAt,
                CreatedAt = now,
            },
            secret
        );
    }

    public static byte[] HashOf(string secret) => SHA256.HashData(Encoding.UTF8.GetBytes(secret));
}
