using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Mail;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Accounts.TwoStep;

/// <summary>The second step of signing in, after the password: a code of the authenticator app, or one of the recovery codes. A passkey stands for
/// both steps.</summary>
internal sealed class SecondStep(
    CursusDb db,
    UserManager<Account> accounts,
    SignInGuard guard,
    BrowserSignIn browsers,
    AuditTrail audit,
    MailQueue mails,
    IClock clock
)
{
    private const int RecoveryCodes = 10;
    private const int RecoveryHalf = 5;
    private const int CodeDigits = 6;

    /// <summary>What is missing from a sign-in whose password is right; null where nothing is.</summary>
    public async Task<ProblemHttpResult?> Missing(HttpContext context, Account account, string? code)
    {
        if (!account.TwoFactorEnabled)
        {
            return null;
        }

        if (string.IsNullOrWhiteSpace(code))
        {
            return ApiProblem.Of(
                401,
                "second-step",
                account.HasAuthenticator
                    ? "Enter the code from your authenticator app, or one of your recovery codes."
                    : "Sign in with your passkey, or enter one of your recovery codes."
            );
        }

        if (await Redeem(account, code))
        {
            return null;
        }

        guard.WasWrong(context, account.Email!);
        return ApiProblem.Of(
            401,
            "wrong-code",
            "That code is wrong, or has been used. Wait for the next one in your app, or enter a recovery code that you haven’t used yet."
        );
    }

    /// <summary>Whether the code is the app's at this time. A code counts once, also of two that come at once.</summary>
    public async Task<bool> RedeemOfApp(Account account, string code)
    {
        var digits = string.Concat(code.Where(char.IsAsciiDigit));
        // Identity compares numbers: a zero more in front would be the same code, and another one here.
        return digits.Length == CodeDigits
            && await accounts.VerifyTwoFactorTokenAsync(account, TokenOptions.DefaultAuthenticatorProvider, digits)
            && await db.Database.ExecuteSqlAsync(
                $"insert into used_codes (account_id, code, used_at) values ({account.Id}, {digits}, {clock.GetCurrentInstant()}) on conflict do nothing"
            ) == 1;
    }

    /// <summary>Saves that a way to do the second step is there. With the first come recovery codes.</summary>
    /// <param name="what">The way in words, such as “an authenticator app”.</param>
    /// <returns>New recovery codes; null where there are some already.</returns>
    public async Task<IReadOnlyList<string>?> Added(HttpContext context, Account account, string what, CancellationToken cancel)
    {
        var isFirst = !account.TwoFactorEnabled;
        await accounts.SetTwoFactorEnabledAsync(account, true);
        // Whoever signed in with the password alone, wherever that was, does so again.
        var kept = AccessCookies.SignInOf(context);
        if (isFirst)
        {
            await db.SignIns.Where(s => s.AccountId == account.Id && s.Id != kept).ExecuteDeleteAsync(cancel);
        }

        await Tell(account, $"added {what}", $"You can now use {what} when you sign in.", cancel);
        await Keep(account, kept);
        return isFirst ? await NewRecoveryCodes(account) : null;
    }

    /// <summary>Saves that a way to do the second step is gone; with the last one, two-step sign-in is over.</summary>
    public async Task Removed(HttpContext context, Account account, string what, CancellationToken cancel)
    {
        var isLast = !account.HasAuthenticator && (await accounts.GetPasskeysAsync(account)).Count == 0;
        if (isLast)
        {
            await accounts.SetTwoFactorEnabledAsync(account, false);
            await accounts.GenerateNewTwoFactorRecoveryCodesAsync(account, 0);
        }

        var rest = isLast ? " Your password alone signs you in." : "";
        await Tell(account, $"removed {what}", $"You can no longer use {what} when you sign in.{rest}", cancel);
        await Keep(account, AccessCookies.SignInOf(context));
    }

    /// <summary>Replaces all recovery codes.</summary>
    public async Task<IReadOnlyList<string>> NewRecoveryCodes(Account account) =>
        [.. (await accounts.GenerateNewTwoFactorRecoveryCodesAsync(account, RecoveryCodes))!];

    /// <summary>Notes a change in the log, and tells the person by e-mail.</summary>
    public async Task Tell(Account account, string done, string mail, CancellationToken cancel)
    {
        await audit.AddEverywhere(account, AuditAction.TwoStepChanged, "account", account.Name, done, cancel);
        mails.Add(MailKind.TwoStepChanged, account.Email!, account.Id, mail);
        await db.SaveChangesAsync(cancel);
    }

    /// <summary>Takes all ways of the second step from an account that is about to be saved: only its password is left.</summary>
    public static async Task Forget(CursusDb db, Account account, CancellationToken cancel)
    {
        await db.UserTokens.Where(t => t.UserId == account.Id).ExecuteDeleteAsync(cancel);
        await db.UserPasskeys.Where(p => p.UserId == account.Id).ExecuteDeleteAsync(cancel);
        (account.TwoFactorEnabled, account.HasAuthenticator) = (false, false);
    }

    private async Task<bool> Redeem(Account account, string code)
    {
        if (account.HasAuthenticator && await RedeemOfApp(account, code))
        {
            return true;
        }

        // As people copy them: in small letters, with or without the hyphen.
        var letters = string.Concat(code.Where(char.IsAsciiLetterOrDigit)).ToUpperInvariant();
        return letters.Length == 2 * RecoveryHalf
            && (await accounts.RedeemTwoFactorRecoveryCodeAsync(account, $"{letters[..RecoveryHalf]}-{letters[RecoveryHalf..]}")).Succeeded;
    }

    /// <summary>The browser's cookie is of the account as it was before.</summary>
    private Task Keep(Account account, Guid? signIn) => signIn is { } kept ? browsers.Keep(account, kept) : Task.CompletedTask;
}
