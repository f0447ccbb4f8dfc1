using Microsoft.AspNetCore.Identity;

namespace Cursus.Data.Workspaces;

/// <summary>Somebody who can sign in. What they may do is said by their <see cref="Member"/> entries.</summary>
public sealed class Account : IdentityUser<Guid>
{
    public Account() => Id = Guid.CreateVersion7();

    /// <summary>The person's name as shown to colleagues.</summary>
    public required string Name { get; set; }
}
