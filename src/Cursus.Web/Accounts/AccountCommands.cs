using System.Security.Cryptography;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Accounts.TwoStep;
using Cursus.Web.Audit;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Accounts;

/// <summary>What whoever runs the installation can do for an account on the command line.</summary>
internal static class AccountCommands
{
    private const string Letters = "abcdefghjkmnpqrstuvwxyz23456789";
    private const int PasswordLength = 16;

    /// <summary>Prints a new API token of a member.</summary>
    public static async Task<int> MakeToken(IServiceProvider services, string email)
    {
        var (db, now) = (services.GetRequiredService<CursusDb>(), services.GetRequiredService<IClock>().GetCurrentInstant());
        var normalized = email.Trim().ToUpperInvariant();
        var member = await db.Members.Where(m => m.Account!.NormalizedEmail == normalized).OrderBy(m => m.CreatedAt).FirstOrDefaultAsync();
        if (member is null)
        {
            await Console.Error.WriteLineAsync($"No member has the e-mail address “{email}”.");
            return 1;
        }

        var (token, text) = ApiToken.Make(member.Id, "command line", now);
        db.AddRange(token, AuditTrail.ByCommand(member.WorkspaceId, now, AuditAction.TokenCreated, "tokens", token.Name, email));
        await db.SaveChangesAsync();
        Console.WriteLine(text);
        return 0;
    }

    /// <summary>Draws a new password for an account, ends its sign-ins, and prints it: the way back in where no e-mails are sent.</summary>
    /// <param name="isOneStep">Whether two-step sign-in is ended too, for whoever has lost their phone and their recovery codes.</param>
    public static async Task<int> SetPassword(IServiceProvider services, string email, bool isOneStep)
    {
        var (db, accounts) = (services.GetRequiredService<CursusDb>(), services.GetRequiredService<UserManager<Account>>());
        if (await accounts.FindByEmailAsync(email.Trim()) is not { } account)
        {
            await Console.Error.WriteLineAsync($"No account has the e-mail address “{email}”.");
            return 1;
        }

        var password = RandomNumberGenerator.GetString(Letters, PasswordLength);
        var now = services.GetRequiredService<IClock>().GetCurrentInstant();
        await using var transaction = await db.Database.BeginTransactionAsync();
        await accounts.ResetPasswordAsync(account, await accounts.GeneratePasswordResetTokenAsync(account), password);
        await db.SignIns.Where(s => s.AccountId == account.Id).ExecuteDeleteAsync();
        if (isOneStep)
        {
            await SecondStep.Forget(db, account, CancellationToken.None);
        }

        foreach (var workspace in await Membership.WorkspacesOf(db, account, CancellationToken.None))
        {
            db.Add(AuditTrail.ByCommand(workspace, now, AuditAction.PasswordChanged, "account", account.Name, account.Email));
            if (isOneStep)
            {
                db.Add(AuditTrail.ByCommand(workspace, now, AuditAction.TwoStepChanged, "account", account.Name, account.Email));
            }
        }

        await db.SaveChangesAsync();
        await transaction.CommitAsync();
        Console.WriteLine(password);
        return 0;
    }
}
