using Cursus.Core.Batches;
using Cursus.Data;
using Cursus.Data.Batches;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Cursus.Web.Runs;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>POST /batches/{id}/preview and /batches/{id}/run: what a list would make, and making it.</summary>
public static class RunBatch
{
    private const int PreviewedRows = 8;

    /// <param name="Links">Number of links that the good lines make.</param>
    /// <param name="GoodLines">Lines with nothing wrong.</param>
    /// <param name="Problems">Everything that is wrong, with its lines.</param>
    /// <param name="Hints">Values that were probably meant to be agreed ones; they keep nothing from being made.</param>
    /// <param name="NewCampaigns">Campaigns that lines name and nobody has added yet.</param>
    /// <param name="Errors">What is wrong with the settings, by field.</param>
    /// <param name="Rows">The first lines, as they would come out.</param>
    public sealed record Preview(
        int Links, int Lines, int GoodLines, IReadOnlyList<LineRemark> Problems, IReadOnlyList<LineRemark> Hints, IReadOnlyList<string> NewCampaigns,
        IReadOnlyDictionary<string, string[]> Errors, IReadOnlyList<Row> Rows);

    /// <param name="ShortUrl">Null where the slug is drawn when it is made.</param>
    public sealed record Row(int Line, string? Channel, string Title, string? ShortUrl, string FinalUrl);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPost("/batches/{id:guid}/preview", PreviewIt).ForEditors().WithSummary("What a list would make, with everything that is wrong with its lines");
        api.MapPost("/batches/{id:guid}/run", Run).ForEditors().WithSummary("Make the links of a list, all or none; ask the batch for its progress");
    }

    private static async Task<Results<Ok<Preview>, ProblemHttpResult>> PreviewIt(
        Guid id, BatchRequest request, CurrentMember member, CursusDb db, CursusOptions options, IClock clock, CancellationToken cancel)
    {
        if (await Waiting(id, member, db, cancel) is not { } batch)
        {
            return ApiProblem.NotFound("list that waits to be made");
        }

        var (table, plan) = await Plan(batch, request, member, db, options, clock, cancel);
        var rows = plan.Links.Take(PreviewedRows).Select(l => new Row(
            l.Line, l.Link.Channel?.Key, l.Link.Title, l.Link.Slug is { } slug ? options.ShortUrl(l.Link.Domain.Name, slug.Text) : null,
            l.Link.Destination.FinishedWith(l.Link.Sent).ToString()));
        return TypedResults.Ok(new Preview(
            plan.Links.Count, table.Rows.Count, plan.Errors.Any ? 0 : table.Rows.Count - plan.Problems.Lines.Count,
            plan.Problems.All, plan.Hints.All, [.. plan.NewCampaigns], plan.Errors.ByField, [.. rows]));
    }

    private static async Task<Results<Accepted<Batches.Response>, ProblemHttpResult>> Run(
        Guid id, BatchRequest request, CurrentMember member, CursusDb db, CursusOptions options, LongRuns runs, IClock clock, CancellationToken cancel)
    {
        if (await Waiting(id, member, db, cancel) is not { } batch)
        {
            return ApiProblem.NotFound("list that waits to be made");
        }

        var (_, plan) = await Plan(batch, request, member, db, options, clock, cancel);
        if (plan.Errors.Any)
        {
            return ApiProblem.Invalid(plan.Errors);
        }

        if (plan.Problems.Lines.Count > 0 && !request.IsGoodOnly)
        {
            var first = plan.LeftOut[0];
            return ApiProblem.Invalid("list", new("list-has-problems", $"{plan.Problems.Lines.Count:N0} lines have something wrong, the first is line {first.Line}: {first.Problem} Correct them, or make the good lines alone."));
        }

        if (plan.Links.Count == 0)
        {
            return ApiProblem.Invalid("list", new("list-nothing-good", "No line of this list can be made. Correct the list and drop it again."));
        }

        var run = runs.Start(id, member.WorkspaceId, plan.Links.Count, "no link was made", (services, run) =>
            ActivatorUtilities.CreateInstance<BatchMaking>(services).Make(batch, plan, request.IsGoodOnly, member, run));
        return run is null
            ? ApiProblem.Conflict("batch-running", "The links of this list are being made already.")
            : TypedResults.Accepted($"/api/v1/batches/{id}", await Batches.Read(batch, db, runs, cancel));
    }

    private static Task<Batch?> Waiting(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        Batches.Mine(db, member).AsNoTracking().FirstOrDefaultAsync(b => b.Id == id && b.DoneAt == null, cancel);

    private static async Task<(ListTable Table, BatchPlan Plan)> Plan(
        Batch batch, BatchRequest request, CurrentMember member, CursusDb db, CursusOptions options, IClock clock, CancellationToken cancel)
    {
        // It could be read when it was uploaded.
        var table = ListFile.TryRead(batch.Content!, out var read, out var flaw) ? read : throw new InvalidDataException(flaw.Text);
        var now = clock.GetCurrentInstant();
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        return (table, await BatchPlan.Make(table, request, vocabulary, db, now, now.InZone(member.Zone).Date, cancel));
    }
}
