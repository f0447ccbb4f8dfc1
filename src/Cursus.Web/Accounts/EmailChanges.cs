using Cursus.Core;
using Cursus.Core.Accounts;
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

namespace Cursus.Web.Accounts;

/// <summary>/account/email: another e-mail address, which holds once it is confirmed at both.</summary>
public static class EmailChanges
{
    public sealed record Request(string? Email, string? Password);

    /// <param name="Secret">What stands behind # in the link of the e-mail.</param>
    public sealed record Confirmation(string? Secret);

    /// <param name="IsChanged">True when both addresses have confirmed; false while the other one hasn’t.</param>
    public sealed record Confirmed(string NewEmail, bool IsChanged);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPut("/account/email", Ask)
            .ForViewers()
            .BeforeTwoSteps()
            .WithSummary("Ask for another e-mail address; both addresses get a link to confirm it");
        api.MapDelete("/account/email", Cancel).ForViewers().BeforeTwoSteps().WithSummary("Keep the e-mail address after all");
        api.MapPost("/account/email/confirm", Confirm)
            .ForAnybody()
            .RequireRateLimiting(AccessSetup.SignInLimit)
            .WithSummary("Confirm another e-mail address by the secret from one of the two e-mails");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Ask(
        Request request,
        HttpContext context,
        CurrentMember member,
        CursusDb db,
        AccountChange change,
        MailQueue mails,
        IClock clock,
        CancellationToken cancel
    )
    {
        var account = member.Account;
        if (!EmailAddress.TryRead(request.Email, out var email))
        {
            return ApiProblem.Invalid("email", EmailAddress.Error(request.Email));
        }

        if (string.Equals(email, account.Email, StringComparison.OrdinalIgnoreCase))
        {
            return ApiProblem.Invalid("email", new ValidationError("email-same", "This is your e-mail address already."));
        }

        if (!mails.IsSetUp)
        {
            return ApiProblem.Conflict("no-mail-server", "This installation sends no e-mails, so a new address can’t be confirmed.");
        }

        if (await change.Unproven(context, account, request.Password, "password") is { } problem)
        {
            return problem;
        }

        // Whether somebody else has that address is said to nobody here: its owner gets the e-mail, and can't be changed to.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.EmailChanges.Where(c => c.AccountId == account.Id).ExecuteDeleteAsync(cancel);
        var made = new EmailChange
        {
            AccountId = account.Id,
            NewEmail = email,
            ExpiresAt = clock.GetCurrentInstant() + EmailChange.Life,
        };
        db.Add(made);
        mails.Add(MailKind.ConfirmOldEmail, account.Email!, made.Id);
        mails.Add(MailKind.ConfirmNewEmail, email, made.Id);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<NoContent> Cancel(CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        await db.EmailChanges.Where(c => c.AccountId == member.Account.Id).ExecuteDeleteAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<Ok<Confirmed>, ProblemHttpResult>> Confirm(
        Confirmation request,
        CursusDb db,
        UserManager<Account> accounts,
        LinkSecret secrets,
        AuditTrail audit,
        MailQueue mails,
        IClock clock,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (
            secrets.Read(LinkPurpose.EmailChange, request.Secret)?.Split(' ') is not [var text, var side]
            || !Guid.TryParse(text, out var id)
            || await db.EmailChanges.FromSql($"select * from email_changes where id = {id} for update").SingleOrDefaultAsync(cancel) is not { } change
            || change.ExpiresAt < clock.GetCurrentInstant()
        )
        {
            return ApiProblem.Conflict(
                "email-change-over",
                "This link has been used, was cancelled, or is more than a day old. Ask again in your account."
            );
        }

        change.IsConfirmedByOld |= side == "old";
        change.IsConfirmedByNew |= side == "new";
        if (!change.IsConfirmedByOld || !change.IsConfirmedByNew)
        {
            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
            return TypedResults.Ok(new Confirmed(change.NewEmail, IsChanged: false));
        }

        var account = (await accounts.FindByIdAsync(change.AccountId.ToString()))!;
        var before = account.Email!;
        db.Remove(change);
        (account.UserName, account.Email, account.EmailConfirmed) = (change.NewEmail, change.NewEmail, true);
        var result = await accounts.UpdateAsync(account);
        if (!result.Succeeded)
        {
            return ApiProblem.Invalid(AccountChange.Errors(result, "password"));
        }

        await audit.AddEverywhere(account, AuditAction.EmailChanged, "account", account.Name, $"{before} → {change.NewEmail}", cancel);
        mails.Add(MailKind.EmailChanged, before);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(new Confirmed(change.NewEmail, IsChanged: true));
    }
}
