using Cursus.Data;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity.EntityFrameworkCore;

namespace Cursus.Web.Access;

/// <summary>Keeps accounts as Identity does, but what an authenticator app and the recovery codes are made of is sealed with the installation's keys:
/// a backup of the database lets nobody make codes.</summary>
internal sealed class AccountStore(CursusDb db, IDataProtectionProvider protection) : UserOnlyStore<Account, CursusDb, Guid>(db)
{
    private readonly IDataProtector seal = protection.CreateProtector("Cursus.AccountToken");

    public override Task SetTokenAsync(Account user, string loginProvider, string name, string? value, CancellationToken cancellationToken) =>
        base.SetTokenAsync(user, loginProvider, name, value is null ? null : seal.Protect(value), cancellationToken);

    public override async Task<string?> GetTokenAsync(Account user, string loginProvider, string name, CancellationToken cancellationToken) =>
        await base.GetTokenAsync(user, loginProvider, name, cancellationToken) is { } text ? seal.Unprotect(text) : null;
}
