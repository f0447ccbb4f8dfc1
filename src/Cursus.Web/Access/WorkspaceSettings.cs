using Cursus.Data;
using Cursus.Web.Addresses;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Access;

/// <summary>GET and PATCH /workspace: what holds for everything in the workspace.</summary>
public static class WorkspaceSettings
{
    /// <param name="Redirect">Redirect type of new links where their domain has none.</param>
    /// <param name="IsVocabularyLocked">Whether editors must use agreed words.</param>
    public sealed record Response(string Name, string TimeZone, int Redirect, bool IsVocabularyLocked);

    /// <summary>What is left out stays.</summary>
    public sealed record Edit(int? Redirect = null, bool? IsVocabularyLocked = null);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/workspace", (CurrentMember member) => Of(member.Workspace)).ForViewers().WithSummary("The workspace and its defaults");
        api.MapPatch("/workspace", Change).ForOwners().WithSummary("Change the workspace's defaults");
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(Edit request, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var workspace = await db.Workspaces.SingleAsync(w => w.Id == member.WorkspaceId, cancel);
        var errors = new FieldErrors();
        workspace.Redirect = Vocabulary.ReadRedirect(request.Redirect, workspace.Redirect, errors);
        workspace.IsVocabularyLocked = request.IsVocabularyLocked ?? workspace.IsVocabularyLocked;
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(Of(workspace));
    }

    private static Response Of(Data.Workspaces.Workspace w) => new(w.Name, w.TimeZone, w.Redirect, w.IsVocabularyLocked);
}
