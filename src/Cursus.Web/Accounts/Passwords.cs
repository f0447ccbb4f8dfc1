using Cursus.Core.Accounts;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Mail;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Accounts;

/// <summary>/account/password and /account/reset: changing a password that is known, and one that is forgotten.</summary>
public static class Passwords
{
    /// <summary>So many e-mails for a forgotten password go to one address within an hour.</summary>
    private const int MostResets = 3;

    /// <param name="Current">The password so far.</param>
    public sealed record ChangeRequest(string? Current, string? New);

    /// <param name="Email">The account's e-mail address.</param>
    public sealed record ResetRequest(string? Email);

    /// <param name="Secret">What stands behind # in the link of the e-mail.</param>
    public sealed record ResetConfirmation(string? Secret, string? Password);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPut("/account/password", Change).ForViewers().BeforeTwoSteps().WithSummary("Change my password; ends all other sign-ins");
        api.MapPost("/account/reset", Ask)
            .ForAnybody()
            .RequireRateLimiting(AccessSetup.SignInLimit)
            .WithSummary("Ask for an e-mail with a link to set a new password");
        api.MapPost("/account/reset/confirm", Confirm)
            .ForAnybody()
            .RequireRateLimiting(AccessSetup.SignInLimit)
            .WithSummary("Set a new password by the secret from the e-mail; ends all sign-ins");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Change(
        ChangeRequest request,
        HttpContext context,
        CurrentMember member,
        UserManager<Account> accounts,
        BrowserSignIn browsers,
        AccountChange change,
        CancellationToken cancel
    )
    {
        if (await change.Unproven(context, member.Account, request.Current, "current") is { } problem)
        {
            return problem;
        }

        var account = (await accounts.FindByIdAsync(member.Account.Id.ToString()))!;
        var signIn = AccessCookies.SignInOf(context);
        var result = await change.Save(account, "new", a => accounts.ChangePasswordAsync(a, request.Current!, request.New ?? ""), signIn, cancel);
        if (result is null && signIn is { } kept)
        {
            await browsers.Keep(account, kept);
        }

        return result is null ? TypedResults.NoContent() : result;
    }

    /// <summary>The same answer, after the same work, whether or not there is such an account: that comes out when the e-mail is written.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> Ask(
        ResetRequest request,
        CursusDb db,
        UserManager<Account> accounts,
        MailQueue mails,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (!EmailAddress.TryRead(request.Email, out var email))
        {
            return ApiProblem.Invalid("email", EmailAddress.Error(request.Email));
        }

        if (!mails.IsSetUp)
        {
            return ApiProblem.Conflict(
                "no-mail-server",
                "This installation sends no e-mails, so it can’t send you a link. Ask whoever runs it: “./cursus password --email …” sets a new password."
            );
        }

        var key = accounts.NormalizeEmail(email)!;
        var hourAgo = clock.GetCurrentInstant() - Duration.FromHours(1);
        var asked = await db.OutgoingMails.CountAsync(m => m.Kind == MailKind.PasswordReset && m.Recipient == key && m.CreatedAt > hourAgo, cancel);
        if (asked < MostResets)
        {
            mails.Add(MailKind.PasswordReset, key);
            await db.SaveChangesAsync(cancel);
        }

        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Confirm(
        ResetConfirmation request,
        UserManager<Account> accounts,
        LinkSecret secrets,
        AccountChange change,
        CancellationToken cancel
    )
    {
        if (
            secrets.Read(LinkPurpose.PasswordReset, request.Secret)?.Split(' ', 2) is not [var id, var token]
            || await accounts.FindByIdAsync(id) is not { } account
            || !await accounts.VerifyUserTokenAsync(account, TokenOptions.DefaultProvider, UserManager<Account>.ResetPasswordTokenPurpose, token)
        )
        {
            return ApiProblem.Conflict("reset-over", "This link has been used or is more than an hour old. Ask for a new one on the sign-in page.");
        }

        var result = await change.Save(account, "password", a => accounts.ResetPasswordAsync(a, token, request.Password ?? ""), kept: null, cancel);
        return result is null ? TypedResults.NoContent() : result;
    }
}
