using Cursus.Core;
using Cursus.Core.Clicks;
using Cursus.Data;
using Cursus.Web.Addresses;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>GET and PATCH /workspace: what holds for everything in the workspace.</summary>
public static class WorkspaceSettings
{
    /// <param name="Redirect">Redirect type of new links where their domain has none.</param>
    /// <param name="IsVocabularyLocked">Whether editors must use agreed words.</param>
    /// <param name="OfficeNetworks">Networks whose visitors are the team's and are not counted.</param>
    /// <param name="LeavesOutByBehaviour">Whether clicks are left out for what visitors do, as mail scanners do.</param>
    /// <param name="ClicksKeptMonths">For how many months single clicks are kept; 0 for ever. What they were counted as stays.</param>
    /// <param name="ClicksKeptFrom">The first day of which single clicks are still there; null where none have been deleted.</param>
    public sealed record Response(
        string Name, string TimeZone, int Redirect, bool IsVocabularyLocked, IReadOnlyList<string> OfficeNetworks, bool LeavesOutByBehaviour, int ClicksKeptMonths, LocalDate? ClicksKeptFrom);

    /// <summary>What is left out stays.</summary>
    /// <param name="ClicksKeptMonths">0, 14, 26 or 38. Older clicks are deleted within the hour, for good.</param>
    public sealed record Edit(
        int? Redirect = null, bool? IsVocabularyLocked = null, IReadOnlyList<string>? OfficeNetworks = null, bool? LeavesOutByBehaviour = null, int? ClicksKeptMonths = null);

    private const int MostNetworks = 50;

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/workspace", (CurrentMember member) => Of(member.Workspace)).ForViewers().WithSummary("The workspace and its defaults");
        api.MapPatch("/workspace", Change).ForOwners().WithSummary("Change the workspace’s defaults");
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(Edit request, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var workspace = await db.Workspaces.SingleAsync(w => w.Id == member.WorkspaceId, cancel);
        var errors = new FieldErrors();
        workspace.Redirect = Vocabulary.ReadRedirect(request.Redirect, workspace.Redirect, errors);
        workspace.IsVocabularyLocked = request.IsVocabularyLocked ?? workspace.IsVocabularyLocked;
        workspace.OfficeNetworks = request.OfficeNetworks is null ? workspace.OfficeNetworks : ReadNetworks(request.OfficeNetworks, errors);
        workspace.LeavesOutByBehaviour = request.LeavesOutByBehaviour ?? workspace.LeavesOutByBehaviour;
        workspace.ClicksKeptMonths = (short)(request.ClicksKeptMonths ?? workspace.ClicksKeptMonths);
        if (request.ClicksKeptMonths is { } months and not 0 && !RetentionRule.Months.Contains(months))
        {
            errors.Add("clicksKeptMonths", new Flaw("clicks-kept-months", $"Individual clicks are kept for {string.Join(", ", RetentionRule.Months)} months, or forever (0)."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(Of(workspace));
    }

    private static string[] ReadNetworks(IReadOnlyList<string> typed, FieldErrors errors)
    {
        if (typed.Count > MostNetworks)
        {
            errors.Add("officeNetworks", new Flaw("office-networks-many", $"You can exclude at most {MostNetworks} networks."));
        }

        var networks = new List<string>();
        foreach (var one in typed.Where(t => !string.IsNullOrWhiteSpace(t)))
        {
            if (OfficeNetwork.TryParse(one.Trim(), out var network, out var flaw))
            {
                networks.Add(network.Value.ToString());
            }
            else
            {
                errors.Add("officeNetworks", flaw);
            }
        }

        return [.. networks.Distinct()];
    }

    private static Response Of(Data.Workspaces.Workspace w) => new(w.Name, w.TimeZone, w.Redirect, w.IsVocabularyLocked, w.OfficeNetworks, w.LeavesOutByBehaviour, w.ClicksKeptMonths, w.ClicksKeptFrom);
}
