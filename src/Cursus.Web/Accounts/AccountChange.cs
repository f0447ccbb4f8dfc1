using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Mail;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Accounts;

/// <summary>Changes of what somebody signs in with: asked for with the password, saved whole, and told of.</summary>
internal sealed class AccountChange(CursusDb db, UserManager<Account> accounts, SignInGuard guard, AuditTrail audit, MailQueue mails)
{
    /// <summary>The error where a password isn't the account's; wrong ones are counted as they are on the sign-in page.</summary>
    public async Task<ProblemHttpResult?> Unproven(HttpContext context, Account account, string? password, string field)
    {
        if (!guard.MayTry(context, account.Email!))
        {
            context.Response.Headers.RetryAfter = "300";
            return ApiProblem.Of(429, "too-many", "Too many wrong passwords. Wait five minutes, then try again.");
        }

        // As the database knows it: a hash that is out of date is saved anew.
        if (await accounts.FindByIdAsync(account.Id.ToString()) is { } known && await accounts.CheckPasswordAsync(known, password ?? ""))
        {
            return null;
        }

        guard.WasWrong(context, account.Email!);
        return ApiProblem.Invalid(field, new ValidationError("wrong-password", "That isn’t your current password."));
    }

    /// <summary>Sets a new password, ends all sign-ins but one, notes it and tells the person; all of it or nothing.</summary>
    /// <param name="field">The field that a refused password came in.</param>
    /// <param name="kept">The sign-in that goes on; null for none.</param>
    public async Task<ProblemHttpResult?> Save(
        Account account,
        string field,
        Func<Account, Task<IdentityResult>> set,
        Guid? kept,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var result = await set(account);
        if (!result.Succeeded)
        {
            return ApiProblem.Invalid(Errors(result, field));
        }

        await db.SignIns.Where(s => s.AccountId == account.Id && s.Id != kept).ExecuteDeleteAsync(cancel);
        await audit.AddEverywhere(account, AuditAction.PasswordChanged, "account", account.Name, null, cancel);
        mails.Add(MailKind.PasswordChanged, account.Email!);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return null;
    }

    /// <summary>What Identity refuses, at the fields it is about.</summary>
    /// <param name="password">Name of the field with the password.</param>
    public static FieldErrors Errors(IdentityResult result, string password)
    {
        var errors = new FieldErrors();
        foreach (var error in result.Errors)
        {
            var isPassword = error.Code.StartsWith("password-", StringComparison.Ordinal);
            errors.Add(
                isPassword ? password : "email",
                isPassword ? new ValidationError(error.Code, error.Description)
                    : error.Code.StartsWith("Duplicate", StringComparison.Ordinal)
                        ? new ValidationError("email-taken", "There is an account with this e-mail address already.")
                    : new ValidationError("account", error.Description)
            );
        }

        return errors;
    }
}
