using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Accounts;
using Cursus.Web.Audit;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Workspaces;

/// <summary>/workspace/archive, /workspace/delete and /workspace/restore: putting a workspace away, for a time or for good. Its links go on leading
/// where they lead until it is deleted.</summary>
public static class WorkspaceEnding
{
    /// <summary>For how long a deletion can be called off.</summary>
    private static readonly Duration Grace = Duration.FromDays(30);

    /// <param name="Name">The workspace's name, typed out.</param>
    /// <param name="Password">The account's password, so that nobody does it in passing.</param>
    public sealed record DeleteRequest(string? Name, string? Password);

    /// <param name="DeleteAt">When it is deleted; null where it is not going to be.</param>
    public sealed record Response(Instant? ArchivedAt, Instant? DeleteAt);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/workspace/archive", Archive)
            .ForOwners()
            .WhileArchived()
            .WithSummary("Archive the workspace: its links work, nothing can be changed");
        api.MapPost("/workspace/delete", Delete)
            .ForOwners()
            .WhileArchived()
            .WithSummary("Delete the workspace in 30 days, and archive it until then");
        api.MapPost("/workspace/restore", Restore)
            .ForOwners()
            .WhileArchived()
            .WithSummary("Bring the workspace back from the archive, and call off its deletion");
    }

    private static Task<Results<Ok<Response>, ProblemHttpResult>> Archive(
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    ) => Set(member, db, audit, clock.GetCurrentInstant(), null, "archived", cancel);

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Delete(
        DeleteRequest request,
        HttpContext context,
        CurrentMember member,
        CursusDb db,
        AccountChange change,
        AuditTrail audit,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (request.Name?.Trim() != member.Workspace.Name)
        {
            return ApiProblem.Invalid(
                "name",
                new ValidationError("workspace-name-typed", $"Type “{member.Workspace.Name}” to delete this workspace.")
            );
        }

        if (await change.Unproven(context, member.Account, request.Password, "password") is { } wrong)
        {
            return wrong;
        }

        var now = clock.GetCurrentInstant();
        return await Set(member, db, audit, member.Workspace.ArchivedAt ?? now, now + Grace, "to be deleted in 30 days", cancel);
    }

    private static Task<Results<Ok<Response>, ProblemHttpResult>> Restore(
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) => Set(member, db, audit, null, null, "restored", cancel);

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Set(
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        Instant? archivedAt,
        Instant? deleteAt,
        string detail,
        CancellationToken cancel
    )
    {
        var workspace = await db.Workspaces.SingleAsync(w => w.Id == member.WorkspaceId, cancel);
        (workspace.ArchivedAt, workspace.DeleteAt) = (archivedAt, deleteAt);
        audit.Add(AuditAction.SettingsChanged, "workspace", detail: detail);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Response(archivedAt, deleteAt));
    }
}
