using System.Text.Json.Serialization;
using Cursus.Core.Batches;
using Cursus.Data;
using Cursus.Data.Batches;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Cursus.Web.Runs;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>POST /batches/{id}/preview, /report and /run: what a list would make, in short and line by line, and making it.</summary>
public static class RunBatch
{
    private const int PreviewedRows = 8;

    /// <summary>Remarks that are shown; a list of many lines can have one for each, and the report has them all.</summary>
    private const int ShownRemarks = 200;

    /// <param name="Links">Number of new links from valid lines, including renamed ones.</param>
    /// <param name="Renamed">How many of these get a different slug from the list's.</param>
    /// <param name="TakenOver">Existing links that the list updates.</param>
    /// <param name="Skipped">Links left out because their slug is taken.</param>
    /// <param name="GoodLines">Lines with nothing wrong.</param>
    /// <param name="Problems">What is wrong, with its lines; the first two hundred different things.</param>
    /// <param name="Hints">Values that are probably misspellings of agreed ones; only a warning.</param>
    /// <param name="NewCampaigns">Campaigns named in the list that don't exist yet.</param>
    /// <param name="NewFolders">Folders created with the links.</param>
    /// <param name="OpenRedirects">Words in the list that need a redirect type chosen for them, or have one.</param>
    /// <param name="OpenDomains">Domains in the list that need one of the workspace's chosen for them, or have one.</param>
    /// <param name="IsDayOrderOpen">Whether days can be read two ways.</param>
    /// <param name="Errors">What is wrong with the settings, by field.</param>
    /// <param name="Rows">The first lines as they would turn out; those with problems come first.</param>
    public sealed record Preview(
        int Links,
        int Renamed,
        int TakenOver,
        int Skipped,
        int Lines,
        int GoodLines,
        IReadOnlyList<LineRemark> Problems,
        IReadOnlyList<LineRemark> Hints,
        IReadOnlyList<string> NewCampaigns,
        IReadOnlyList<string> NewFolders,
        IReadOnlyList<string> OpenRedirects,
        IReadOnlyList<string> OpenDomains,
        bool IsDayOrderOpen,
        IReadOnlyDictionary<string, string[]> Errors,
        IReadOnlyList<Row> Rows
    );

    /// <param name="ShortUrl">Null if the slug is generated when the link is created.</param>
    /// <param name="Remark">Why it needs attention.</param>
    /// <param name="CreatedOn">The day it was created in the original tool.</param>
    /// <param name="ImportedClicks">Clicks counted there.</param>
    public sealed record Row(
        int Line,
        LineOutcome Outcome,
        string? Channel,
        string Title,
        string? ShortUrl,
        string FinalUrl,
        string? Folder,
        LocalDate? CreatedOn,
        [property: JsonPropertyName("broughtAlong")] long? ImportedClicks,
        string? Remark
    );

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/batches/{id:guid}/preview", PreviewIt)
            .ForEditors()
            .MakingLinks()
            .WithSummary("Preview a list, with everything wrong with its lines");
        api.MapPost("/batches/{id:guid}/report", Report)
            .ForEditors()
            .WithSummary("Preview a list line by line, as CSV")
            .Produces(200, contentType: CsvFile.ContentType);
        api.MapPost("/batches/{id:guid}/run", Run)
            .ForEditors()
            .MakingLinks()
            .WithSummary("Create the links of a list, all or none; poll the list for progress");
    }

    private static async Task<Results<Ok<Preview>, ProblemHttpResult>> PreviewIt(
        Guid id,
        BatchRequest request,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Waiting(id, member, db, cancel) is not { } batch)
        {
            return ApiProblem.NotFound("list that waits to be made");
        }

        var (table, plan) = await Plan(batch, request, member, db, options, clock, cancel);
        var rows = plan
            .Links.OrderBy(l => l.Outcome == LineOutcome.Made)
            .Take(PreviewedRows)
            .Select(l => new Row(
                l.Line,
                l.Outcome,
                l.Link.Channel?.Key,
                l.Link.Title,
                l.ShortUrl(options),
                l.FinalUrl,
                l.Link.Settings.Folder?.Name,
                l.Past.CreatedAt?.InZone(member.Zone).Date,
                l.Past.ImportedClicks,
                l.Remark
            ));
        var takenOver = plan.Links.Count(l => l.Outcome == LineOutcome.TakenOver);
        return TypedResults.Ok(
            new Preview(
                plan.Links.Count - takenOver,
                plan.Links.Count(l => l.Outcome == LineOutcome.Renamed),
                takenOver,
                plan.LeftOut.Count(l => l.Outcome == LineOutcome.Skipped),
                table.Rows.Count,
                plan.Errors.Any ? 0 : table.Rows.Count - plan.Problems.Lines.Count,
                [.. plan.Problems.All.Take(ShownRemarks)],
                [.. plan.Hints.All.Take(ShownRemarks)],
                [.. plan.NewCampaigns],
                [.. plan.NewFolders.Select(f => f.Name)],
                [.. plan.OpenRedirects],
                [.. plan.OpenDomains],
                plan.IsDayOrderOpen,
                plan.Errors.ByField,
                [.. rows]
            )
        );
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Report(
        Guid id,
        BatchRequest request,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Waiting(id, member, db, cancel) is not { } batch)
        {
            return ApiProblem.NotFound("list that waits to be made");
        }

        var (_, plan) = await Plan(batch, request, member, db, options, clock, cancel);
        return plan.Errors.Any ? ApiProblem.Invalid(plan.Errors) : LinesFile.Of(plan, options, member.Zone, batch.Name);
    }

    private static async Task<Results<Accepted<Batches.Response>, ProblemHttpResult>> Run(
        Guid id,
        BatchRequest request,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        LongRuns runs,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Waiting(id, member, db, cancel) is not { } batch)
        {
            return ApiProblem.NotFound("list that waits to be made");
        }

        // Said before a long list is planned for nothing; Start below says it to whoever comes at the same moment.
        if (runs.Find(id) is { IsOver: false })
        {
            return Running();
        }

        var (table, plan) = await Plan(batch, request, member, db, options, clock, cancel);
        if (plan.Errors.Any)
        {
            return ApiProblem.Invalid(plan.Errors);
        }

        if (plan.Problems.Lines.Count > 0 && !request.IsGoodOnly)
        {
            var first = plan.LeftOut.First(l => l.Outcome == LineOutcome.Refused);
            return ApiProblem.Invalid(
                "list",
                new(
                    "list-has-problems",
                    $"{plan.Problems.Lines.Count:N0} lines have problems. The first is line {first.Line}: {first.Remark} Correct them, or use only the valid lines."
                )
            );
        }

        if (plan.Links.Count == 0)
        {
            return ApiProblem.Invalid("list", new("list-nothing-good", "No line of this list can be used. Correct the list and upload it again."));
        }

        await RememberedLists.Keep(table, request, member, db, clock.GetCurrentInstant(), cancel);
        var run = runs.Start(id, member.WorkspaceId, plan.Links.Count, "no links were created", (services, run) =>
            ActivatorUtilities.CreateInstance<BatchMaking>(services).Make(batch, plan, request.IsGoodOnly, member, run)
        );
        return run is null ? Running() : TypedResults.Accepted($"/api/v1/batches/{id}", await Batches.Read(batch, db, runs, cancel));
    }

    private static ProblemHttpResult Running() => ApiProblem.Conflict("batch-running", "The links of this list are already being created.");

    private static Task<Batch?> Waiting(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        Batches.Mine(db, member).AsNoTracking().FirstOrDefaultAsync(b => b.Id == id && b.DoneAt == null, cancel);

    private static async Task<(ListTable Table, BatchPlan Plan)> Plan(
        Batch batch,
        BatchRequest request,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        // It could be read when it was uploaded.
        var table = ListFile.TryRead(batch.Content!, out var read, out var error, cancel) ? read : throw new InvalidDataException(error.Text);
        var now = clock.GetCurrentInstant();
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        return (table, await BatchPlan.Make(table, request, vocabulary, member, db, now, cancel));
    }
}
