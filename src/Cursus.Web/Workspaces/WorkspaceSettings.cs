using Cursus.Core;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Clicks;
using Cursus.Core.Links;
using Cursus.Core.Reports;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Audit;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Workspaces;

/// <summary>GET and PATCH /workspace: what holds for everything in the workspace.</summary>
public static class WorkspaceSettings
{
    /// <param name="PublicName">The name shown to visitors and readers of shared views; null for the workspace's name.</param>
    /// <param name="WeekStart">The day on which weeks begin.</param>
    /// <param name="NumberLanguage">How numbers in sentences are written, as a language tag.</param>
    /// <param name="NumberLanguages">The available tags.</param>
    /// <param name="Redirect">Redirect type of new links whose domain has none of its own.</param>
    /// <param name="SlugKind">How slugs of new posts are generated.</param>
    /// <param name="Options">Options of new links whose domain has none of its own.</param>
    /// <param name="IsVocabularyLocked">Whether editors must use agreed words.</param>
    /// <param name="TwoStepOf">Who must sign in in two steps to work here.</param>
    /// <param name="OfficeNetworks">Networks whose visitors are the team's and are not counted.</param>
    /// <param name="LeavesOutByBehaviour">Whether clicks are excluded because of visitors' behaviour, as mail scanners' are.</param>
    /// <param name="ClicksKeptMonths">How many months individual clicks are kept; 0 for ever. Their totals stay.</param>
    /// <param name="ClicksKeptFrom">The first day with individual clicks; null if none have been deleted.</param>
    public sealed record Response(
        string Name,
        string? PublicName,
        string TimeZone,
        WeekStart WeekStart,
        string NumberLanguage,
        IReadOnlyList<string> NumberLanguages,
        int Redirect,
        SlugKind SlugKind,
        LinkOptions Options,
        bool IsVocabularyLocked,
        TwoStepRule TwoStepOf,
        IReadOnlyList<string> OfficeNetworks,
        bool LeavesOutByBehaviour,
        int ClicksKeptMonths,
        LocalDate? ClicksKeptFrom
    );

    /// <summary>Omitted fields stay as they are. The time zone has an operation of its own, because past days are counted again.</summary>
    /// <param name="PublicName">An empty string removes it, so the name itself is shown.</param>
    /// <param name="ClicksKeptMonths">0, 14, 26 or 38. Older clicks are deleted within the hour, for good.</param>
    public sealed record Edit(
        string? Name = null,
        string? PublicName = null,
        WeekStart? WeekStart = null,
        string? NumberLanguage = null,
        int? Redirect = null,
        SlugKind? SlugKind = null,
        LinkOptionsPatch? Options = null,
        bool? IsVocabularyLocked = null,
        TwoStepRule? TwoStepOf = null,
        IReadOnlyList<string>? OfficeNetworks = null,
        bool? LeavesOutByBehaviour = null,
        int? ClicksKeptMonths = null
    );

    /// <summary>The longest name of a workspace, in characters.</summary>
    internal const int MaxName = 100;

    private const int MostNetworks = 50;

    internal static readonly ValidationError NoName = new("workspace-name", $"Enter a name of at most {MaxName} characters.");
    internal static readonly ValidationError NoTimeZone = new("time-zone", "Choose a time zone, such as Europe/London.");

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/workspace", (CurrentMember member) => Of(member.Workspace)).ForViewers().WithSummary("The workspace and its defaults");
        api.MapPatch("/workspace", Change).ForOwners().WithSummary("Change the workspace’s defaults");
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Edit request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        AuditTrail audit,
        AuditDetail details,
        CancellationToken cancel
    )
    {
        var workspace = await db.Workspaces.SingleAsync(w => w.Id == member.WorkspaceId, cancel);
        var (errors, before) = (new FieldErrors(), Of(workspace));
        SetNames(workspace, request, errors);
        workspace.WeekStart = (IsoDayOfWeek?)request.WeekStart ?? workspace.WeekStart;
        workspace.NumberLanguage = request.NumberLanguage ?? workspace.NumberLanguage;
        if (!NumberLanguage.Tags.Contains(workspace.NumberLanguage))
        {
            errors.Add("numberLanguage", NumberLanguage.Error(request.NumberLanguage));
        }

        workspace.SlugKind = request.SlugKind ?? workspace.SlugKind;
        workspace.Options = Vocabulary.ReadOptions(request.Options, errors).Over(workspace.Options);
        workspace.Redirect = Vocabulary.ReadRedirect(request.Redirect, workspace.Redirect, errors);
        workspace.IsVocabularyLocked = request.IsVocabularyLocked ?? workspace.IsVocabularyLocked;
        workspace.TwoStepOf = request.TwoStepOf ?? workspace.TwoStepOf;
        if (workspace.TwoStepOf > before.TwoStepOf && !member.Account.TwoFactorEnabled)
        {
            errors.Add(
                "twoStepOf",
                new ValidationError("two-step-off", "Set up two-step sign-in in your own account first; otherwise this would shut you out.")
            );
        }

        workspace.OfficeNetworks = request.OfficeNetworks is null ? workspace.OfficeNetworks : ReadNetworks(request.OfficeNetworks, errors);
        workspace.LeavesOutByBehaviour = request.LeavesOutByBehaviour ?? workspace.LeavesOutByBehaviour;
        workspace.ClicksKeptMonths = (short)(request.ClicksKeptMonths ?? workspace.ClicksKeptMonths);
        if (request.ClicksKeptMonths is { } months and not 0 && !RetentionRule.Months.Contains(months))
        {
            errors.Add(
                "clicksKeptMonths",
                new ValidationError(
                    "clicks-kept-months",
                    $"Individual clicks are kept for {string.Join(", ", RetentionRule.Months)} months, or forever (0)."
                )
            );
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (details.Of(before, Of(workspace)) is { } detail)
        {
            audit.Add(AuditAction.SettingsChanged, "workspace", detail: detail);
        }

        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok(Of(workspace));
    }

    private static void SetNames(Workspace workspace, Edit request, FieldErrors errors)
    {
        workspace.Name = request.Name?.Trim() ?? workspace.Name;
        workspace.PublicName =
            request.PublicName is null ? workspace.PublicName
            : request.PublicName.Trim() is { Length: > 0 } shown ? shown
            : null;
        if (workspace.Name.Length is 0 or > MaxName)
        {
            errors.Add("name", NoName);
        }

        if (workspace.PublicName?.Length > MaxName)
        {
            errors.Add("publicName", NoName);
        }
    }

    private static string[] ReadNetworks(IReadOnlyList<string> typed, FieldErrors errors)
    {
        if (typed.Count > MostNetworks)
        {
            errors.Add("officeNetworks", new ValidationError("office-networks-many", $"You can exclude at most {MostNetworks} networks."));
        }

        var networks = new List<string>();
        foreach (var one in typed.Where(t => !string.IsNullOrWhiteSpace(t)))
        {
            if (OfficeNetwork.TryParse(one.Trim(), out var network, out var error))
            {
                networks.Add(network.Value.ToString());
            }
            else
            {
                errors.Add("officeNetworks", error);
            }
        }

        return [.. networks.Distinct()];
    }

    private static Response Of(Workspace w) =>
        new(
            w.Name,
            w.PublicName,
            w.TimeZone,
            (WeekStart)w.WeekStart,
            w.NumberLanguage,
            NumberLanguage.Tags,
            w.Redirect,
            w.SlugKind,
            w.Options,
            w.IsVocabularyLocked,
            w.TwoStepOf,
            w.OfficeNetworks,
            w.LeavesOutByBehaviour,
            w.ClicksKeptMonths,
            w.ClicksKeptFrom
        );
}
