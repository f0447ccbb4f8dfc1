using System.Security.Claims;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Accounts;
using Cursus.Web.Accounts.TwoStep;
using Cursus.Web.Audit;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.People;

/// <summary>/invitations/look and /invitations/accept: the page that an invitation's link leads to.</summary>
public static class AcceptInvitation
{
    /// <param name="Secret">What stands behind # in the link.</param>
    public sealed record LookRequest(string? Secret);

    /// <param name="HasAccount">Whether there is an account with this e-mail address, so its password is asked for instead of a new one.</param>
    /// <param name="IsSignedIn">Whether this browser is signed in with that account, so nothing is asked for.</param>
    /// <param name="SignedInAs">E-mail address of another account that this browser is signed in with; null if none.</param>
    public sealed record Response(
        string Workspace,
        string Email,
        string Role,
        string? InvitedBy,
        string? Message,
        bool HasAccount,
        bool IsSignedIn,
        string? SignedInAs
    );

    /// <param name="Name">The person’s name, for a new account.</param>
    /// <param name="Password">A password for the new account, or that of the account there is; not needed if signed in with it.</param>
    /// <param name="Code">Where two-step sign-in of that account is on, the code of its authenticator app, or a recovery code.</param>
    public sealed record Request(string? Secret, string? Name = null, string? Password = null, string? Code = null);

    /// <param name="WorkspaceKey">The workspace’s part of addresses, as in /w/northmoor.</param>
    public sealed record Accepted(string WorkspaceKey);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/invitations/look", Look)
            .ForAnybody()
            .RequireRateLimiting(AccessSetup.SignInLimit)
            .WithSummary("What an invitation is to, by the secret from its link");
        api.MapPost("/invitations/accept", Accept)
            .ForAnybody()
            .RequireRateLimiting(AccessSetup.SignInLimit)
            .WithSummary("Accept an invitation, and sign in");
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Look(
        LookRequest request,
        HttpContext context,
        CursusDb db,
        LinkSecret secrets,
        UserManager<Account> accounts,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Find(request.Secret, isHeld: false, db, secrets, clock, cancel) is not { } invitation)
        {
            return Over();
        }

        var account = await accounts.FindByEmailAsync(invitation.Email);
        var signedIn = await SignedIn(context, db, cancel);
        var by = await db.Everybody.Where(m => m.Id == invitation.InvitedBy).Select(m => m.Account!.Name).FirstOrDefaultAsync(cancel);
        return TypedResults.Ok(
            new Response(
                await db.Workspaces.Where(w => w.Id == invitation.WorkspaceId).Select(w => w.Name).SingleAsync(cancel),
                invitation.Email,
                RolePolicies.Name(invitation.Role),
                by,
                invitation.Message,
                account is not null,
                signedIn is not null && signedIn.Id == account?.Id,
                signedIn is not null && signedIn.Id != account?.Id ? signedIn.Email : null
            )
        );
    }

    private static async Task<Results<Ok<Accepted>, ProblemHttpResult>> Accept(
        Request request,
        HttpContext context,
        CursusDb db,
        LinkSecret secrets,
        UserManager<Account> accounts,
        AccountChange change,
        SecondStep step,
        BrowserSignIn browsers,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (OwnPage.Error(context.Request) is { } foreign)
        {
            return foreign;
        }

        // Of two who accept at once, and of two invitations to one address, the second waits and then finds how things stand.
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        if (await Find(request.Secret, isHeld: true, db, secrets, clock, cancel) is not { } invitation)
        {
            return Over();
        }

        await db.Database.ExecuteSqlAsync($"select pg_advisory_xact_lock(hashtext({invitation.NormalizedEmail}))", cancel);
        await Membership.Hold(db, invitation.WorkspaceId, cancel);
        var account = await accounts.FindByEmailAsync(invitation.Email);
        var (isNew, signedIn) = (account is null, await SignedIn(context, db, cancel));
        if (account is null)
        {
            (account, var errors) = await Make(request, invitation, accounts);
            if (errors.Any)
            {
                return ApiProblem.Invalid(errors);
            }
        }
        else if (signedIn?.Id != account.Id && await change.Unproven(context, account, request.Password, "password") is { } wrong)
        {
            return wrong;
        }
        else if (signedIn?.Id != account.Id && await step.Missing(context, account, request.Code) is { } missing)
        {
            return missing;
        }

        var member = await Membership.Begin(db, invitation.WorkspaceId, account.Id, invitation.Role, clock.GetCurrentInstant(), cancel);
        db.Remove(invitation);
        audit.Add(invitation.WorkspaceId, account, AuditAction.Joined, "members", member.Id, account.Name, RolePolicies.Name(invitation.Role));
        await db.SaveChangesAsync(cancel);
        if (signedIn?.Id != account.Id)
        {
            await browsers.SignIn(context, account, isNew, cancel);
        }

        await transaction.CommitAsync(cancel);
        var key = await db.Workspaces.Where(w => w.Id == invitation.WorkspaceId).Select(w => w.Key).SingleAsync(cancel);
        return TypedResults.Ok(new Accepted(key));
    }

    private static async Task<(Account Account, FieldErrors Errors)> Make(Request request, Invitation invitation, UserManager<Account> accounts)
    {
        var errors = new FieldErrors();
        var account = new Account
        {
            Name = Profile.ReadName(request.Name, errors),
            Email = invitation.Email,
            UserName = invitation.Email,
            EmailConfirmed = true,
        };
        if (!errors.Any && await accounts.CreateAsync(account, request.Password ?? "") is { Succeeded: false } refused)
        {
            errors = AccountChange.Errors(refused, "password");
        }

        return (account, errors);
    }

    /// <param name="isHeld">Whether others who ask for it wait until the transaction is over.</param>
    private static async Task<Invitation?> Find(string? secret, bool isHeld, CursusDb db, LinkSecret secrets, IClock clock, CancellationToken cancel)
    {
        if (
            secrets.Read(LinkPurpose.Invitation, secret)?.Split(' ') is not [var text, var number]
            || !Guid.TryParse(text, out var id)
            || !int.TryParse(number, out var version)
        )
        {
            return null;
        }

        var now = clock.GetCurrentInstant();
        var found = isHeld ? db.Invitations.FromSql($"select * from invitations where id = {id} for update") : db.Invitations.Where(i => i.Id == id);
        return await found.SingleOrDefaultAsync(i => i.Version == version && i.ExpiresAt > now, cancel);
    }

    /// <summary>The account that this browser is signed in with, in whatever workspace.</summary>
    private static async Task<Account?> SignedIn(HttpContext context, CursusDb db, CancellationToken cancel)
    {
        if (
            !Guid.TryParse(context.User.FindFirstValue(ClaimTypes.NameIdentifier), out var account)
            || AccessCookies.SignInOf(context) is not { } browser
        )
        {
            return null;
        }

        return await db.SignIns.AnyAsync(s => s.Id == browser && s.AccountId == account, cancel)
            ? await db.Users.SingleOrDefaultAsync(a => a.Id == account, cancel)
            : null;
    }

    private static ProblemHttpResult Over() =>
        ApiProblem.Conflict(
            "invitation-over",
            "This invitation has been accepted or withdrawn, was sent again with another link, or is more than 7 days old. If you have joined, sign in; if not, ask for a new one."
        );
}
