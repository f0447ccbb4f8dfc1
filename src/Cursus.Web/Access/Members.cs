using Cursus.Data;
using Cursus.Web.Lists;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Access;

/// <summary>/members: who works in this workspace.</summary>
public static class Members
{
    public sealed record Response(Guid Id, string Name, string Email, string Role);

    public static void Map(IEndpointRouteBuilder api) => api.MapGet("/members", List).ForViewers().WithSummary("Members of the workspace");

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
                m => new Response(m.Id, m.Account!.Name, m.Account.Email!, RolePolicies.Name(m.Role)),
                cancel
            )
        );
}
