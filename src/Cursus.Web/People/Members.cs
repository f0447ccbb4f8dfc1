using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.People;

/// <summary>/members: who works in this workspace.</summary>
public static class Members
{
    /// <param name="IsMe">Whether it is the member who asks.</param>
    /// <param name="HasTwoSteps">Whether they sign in in two steps; told to owners only.</param>
    public sealed record Response(Guid Id, string Name, string Email, string Role, Instant JoinedAt, bool IsMe, bool? HasTwoSteps);

    /// <param name="Role">viewer, editor or owner.</param>
    public sealed record Edit(Role? Role);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/members", List).ForViewers().WithSummary("Members of the workspace");
        api.MapPatch("/members/{id:guid}", ChangeRole).ForOwners().WithSummary("Change a member’s role");
        api.MapPost("/members/{id:guid}/hand-over", HandOver).ForOwners().WithSummary("Make a member an owner in my place; I become an editor");
        api.MapDelete("/members/{id:guid}", Remove).ForOwners().WithSummary("Remove a member; what they made stays");
        api.MapPost("/members/leave", Leave).ForViewers().WhileArchived().WithSummary("Leave the workspace; its last owner can’t");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            await page.Of(
                db.Members.Include(m => m.Account)
                    .Where(m => m.WorkspaceId == member.WorkspaceId)
                    .OrderByDescending(m => m.Role)
                    .ThenBy(m => m.Account!.Name),
                m => new Response(
                    m.Id,
                    m.Account!.Name,
                    m.Account.Email!,
                    RolePolicies.Name(m.Role),
                    m.CreatedAt,
                    m.Id == member.Id,
                    member.Role == Role.Owner ? m.Account.TwoFactorEnabled : null
                ),
                cancel
            )
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> ChangeRole(
        Guid id,
        Edit request,
        CurrentMember current,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Membership.Hold(db, current.WorkspaceId, cancel);
        if (await Find(db, current, id, cancel) is not { } member)
        {
            return ApiProblem.NotFound("member");
        }

        if (request.Role is not { } role)
        {
            return ApiProblem.Invalid("role", new ValidationError("role", "Choose a role: viewer, editor or owner."));
        }

        if (member.Role == role)
        {
            return TypedResults.NoContent();
        }

        if (member.Role == Role.Owner && !await Membership.HasOtherOwner(db, member, cancel))
        {
            return LastOwner();
        }

        audit.Add(AuditAction.RoleChanged, "members", id, member.Account!.Name, $"{RolePolicies.Name(member.Role)} → {RolePolicies.Name(role)}");
        member.Role = role;
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> HandOver(
        Guid id,
        CurrentMember current,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Membership.Hold(db, current.WorkspaceId, cancel);
        if (await Find(db, current, id, cancel) is not { } heir)
        {
            return ApiProblem.NotFound("member");
        }

        if (id == current.Id)
        {
            return ApiProblem.Conflict("hand-over-to-oneself", "You are an owner already. Choose somebody else.");
        }

        var self = await db.Members.SingleAsync(m => m.Id == current.Id, cancel);
        if (self.Role != Role.Owner)
        {
            return ApiProblem.Conflict("not-owner-any-more", "You are no longer an owner. Reload the page.");
        }

        audit.Add(
            AuditAction.RoleChanged,
            "members",
            id,
            heir.Account!.Name,
            $"{RolePolicies.Name(heir.Role)} → owner, in place of {current.Account.Name}"
        );
        (heir.Role, self.Role) = (Role.Owner, Role.Editor);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    private static Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember current,
        CursusDb db,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    ) => End(id, id == current.Id ? AuditAction.Left : AuditAction.Removed, current, db, audit, clock, cancel);

    private static Task<Results<NoContent, ProblemHttpResult>> Leave(
        CurrentMember current,
        CursusDb db,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    ) => End(current.Id, AuditAction.Left, current, db, audit, clock, cancel);

    private static async Task<Results<NoContent, ProblemHttpResult>> End(
        Guid id,
        AuditAction action,
        CurrentMember current,
        CursusDb db,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Membership.Hold(db, current.WorkspaceId, cancel);
        if (await Find(db, current, id, cancel) is not { } member)
        {
            return ApiProblem.NotFound("member");
        }

        if (member.Role == Role.Owner && !await Membership.HasOtherOwner(db, member, cancel))
        {
            return LastOwner();
        }

        audit.Add(action, "members", id, member.Account!.Name);
        await Membership.End(db, member, clock.GetCurrentInstant(), cancel);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    private static Task<Member?> Find(CursusDb db, CurrentMember current, Guid id, CancellationToken cancel) =>
        db.Members.Include(m => m.Account).SingleOrDefaultAsync(m => m.Id == id && m.WorkspaceId == current.WorkspaceId, cancel);

    private static ProblemHttpResult LastOwner() =>
        ApiProblem.Conflict("last-owner", "A workspace needs an owner, and this is its only one. Make somebody else an owner first.");
}
