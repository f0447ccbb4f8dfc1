using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Accounts.TwoStep;
using Cursus.Web.Audit;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Accounts;

/// <summary>POST /account/delete: a person goes, and what they made stays.</summary>
public static class DeleteAccount
{
    /// <summary>What history calls whoever has deleted their account.</summary>
    private const string NameAfterwards = "Former member";

    /// <param name="Password">The account’s password, so that nobody does it in passing.</param>
    public sealed record Request(string? Password);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapPost("/account/delete", Handle)
            .ForViewers()
            .BeforeTwoSteps()
            .WithSummary("Delete my account; links and posts stay. The last owner of a workspace can’t");

    private static async Task<Results<NoContent, ProblemHttpResult>> Handle(
        Request request,
        HttpContext context,
        CurrentMember current,
        CursusDb db,
        AccountChange change,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await change.Unproven(context, current.Account, request.Password, "password") is { } wrong)
        {
            return wrong;
        }

        var id = current.Account.Id;
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var members = await db.Members.Include(m => m.Workspace).Where(m => m.AccountId == id).OrderBy(m => m.WorkspaceId).ToListAsync(cancel);
        foreach (var member in members)
        {
            await Membership.Hold(db, member.WorkspaceId, cancel);
        }

        var alone = new List<string>();
        foreach (var member in members.Where(m => m.Role == Role.Owner))
        {
            if (!await Membership.HasOtherOwner(db, member, cancel))
            {
                alone.Add(member.Workspace!.Name);
            }
        }

        if (alone.Count > 0)
        {
            return ApiProblem.Conflict(
                "last-owner",
                $"You are the only owner of {string.Join(", ", alone)}. Make somebody else an owner there first."
            );
        }

        var account = await db.Users.SingleAsync(a => a.Id == id, cancel);
        foreach (var member in members)
        {
            audit.Add(member.WorkspaceId, account, AuditAction.Left, "members", member.Id, account.Name);
            await Membership.End(db, member, clock.GetCurrentInstant(), cancel);
        }

        // The row stays for history, without anything that says who it was.
        (account.Name, account.Email, account.NormalizedEmail) = (NameAfterwards, null, null);
        account.UserName = account.NormalizedUserName = $"DELETED-{id:N}";
        (account.PasswordHash, account.SecurityStamp) = (null, Guid.NewGuid().ToString("N"));
        await db.SignIns.Where(s => s.AccountId == id).ExecuteDeleteAsync(cancel);
        await SecondStep.Forget(db, account, cancel);
        await db.EmailChanges.Where(c => c.AccountId == id).ExecuteDeleteAsync(cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        await context.SignOutAsync(IdentityConstants.ApplicationScheme);
        return TypedResults.NoContent();
    }
}
