using Cursus.Core.Accounts;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Access;

/// <summary>Holds every password that is chosen against <see cref="PasswordRule"/>, with the names that belong to the account.</summary>
internal sealed class PasswordCheck(CursusDb db) : IPasswordValidator<Account>
{
    public async Task<IdentityResult> ValidateAsync(UserManager<Account> manager, Account user, string? password)
    {
        var workspaces = await db.Members.Where(m => m.AccountId == user.Id).Select(m => m.Workspace!.Name).ToListAsync();
        return PasswordRule.Check(password ?? "", [user.Email, user.Name, "Cursus", .. workspaces]) is { } error
            ? IdentityResult.Failed(new IdentityError { Code = error.Code, Description = error.Text })
            : IdentityResult.Success;
    }
}
