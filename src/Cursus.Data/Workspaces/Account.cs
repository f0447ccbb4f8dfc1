using Microsoft.AspNetCore.Identity;

namespace Cursus.Data.Workspaces;

/// <summary>Somebody who can sign in. What they may do is said by their <see cref="Member"/> entries.</summary>
public sealed class Account : IdentityUser<Guid>
{
    public Account() => Id = Guid.CreateVersion7();

    /// <summary>The person's name as shown to colleagues.</summary>
    public required string Name { get; set; }

    /// <summary>How this person wants numbers written, one of <see cref="Core.NumberLanguage.Tags"/>; as their workspace writes them where
    /// null.</summary>
    public string? NumberLanguage { get; set; }

    /// <summary>Whether an authenticator app has been set up. Identity's <c>TwoFactorEnabled</c> is true with either this or a passkey.</summary>
    public bool HasAuthenticator { get; set; }

    /// <summary>The view that sign-in leads to.</summary>
    public StartPage StartPage { get; set; }
}

/// <summary>Views that people may begin with.</summary>
public enum StartPage : byte
{
    Send = 0,
    Links = 1,
    Compare = 2,
    Digest = 3,
}
