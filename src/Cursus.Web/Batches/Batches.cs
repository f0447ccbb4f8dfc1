using Cursus.Core.Batches;
using Cursus.Data;
using Cursus.Data.Batches;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Cursus.Web.Runs;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>/batches: many links at once from one list, which is uploaded first, looked at, and then made.</summary>
public static class Batches
{
    private const int MaxName = 200;
    private const int Samples = 5;

    /// <summary>Lists that nobody made links from are thrown away after this.</summary>
    private static readonly Duration Kept = Duration.FromDays(2);

    /// <param name="Lines">Lines that aren't empty, while the list waits.</param>
    /// <param name="Columns">The list's columns, while the list waits.</param>
    /// <param name="Remark">A note on how the list was read.</param>
    /// <param name="Progress">Where to find more.</param>
    /// <param name="Failure">Why the last attempt saved nothing.</param>
    /// <param name="Choices">What was chosen for the last list with the same columns; null if there was none.</param>
    /// <param name="Links">New links created.</param>
    /// <param name="TakenOver">Existing links that the list updated.</param>
    /// <param name="LeftOut">Lines that were left out.</param>
    public sealed record Response(
        Guid Id,
        string Name,
        BatchState State,
        Instant CreatedAt,
        Instant? DoneAt,
        int Lines,
        IReadOnlyList<Column> Columns,
        string? Remark,
        Progress? Progress,
        string? Failure,
        ListChoices? Choices,
        int Links,
        int TakenOver,
        int LeftOut
    );

    /// <param name="Field">What the column meant last time, or probably means; null if unclear.</param>
    /// <param name="Samples">The first few cells.</param>
    public sealed record Column(string Name, ListField? Field, IReadOnlyList<string> Samples);

    /// <param name="Done">Links written so far; nothing counts until all are.</param>
    public sealed record Progress(int Done, int Total);

    /// <summary>State of a bulk list.</summary>
    public enum BatchState
    {
        Waiting,
        Running,
        Done,
    }

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/batches", List).ForEditors().WithSummary("Bulk lists, newest first");
        api.MapPost("/batches", Upload)
            .ForEditors()
            .MakingLinks()
            .Accepts<IFormFile>(
                "application/octet-stream",
                "text/plain",
                "text/csv",
                "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
            )
            .WithSummary("Upload a list as the request body: one address per line, CSV or XLSX. Creates no links yet");
        api.MapGet("/batches/{id:guid}", Get).ForEditors().WithSummary("One bulk list, with its progress");
        api.MapDelete("/batches/{id:guid}", Cancel).ForEditors().WithSummary("Cancel a running bulk list, or discard it");
    }

    internal static IQueryable<Batch> Mine(CursusDb db, CurrentMember member) => db.Batches.Where(b => b.WorkspaceId == member.WorkspaceId);

    internal static async Task<Response> Read(Batch batch, CursusDb db, LongRuns runs, CancellationToken cancel)
    {
        // A run is over when the edge knows its links as well, a moment after they are saved.
        var run = runs.Find(batch.Id);
        if (run is { IsOver: true, Failure: null } && batch.DoneAt is null)
        {
            await db.Entry(batch).ReloadAsync(cancel);
        }

        var state =
            run is { IsOver: false } ? BatchState.Running
            : batch.DoneAt is not null ? BatchState.Done
            : BatchState.Waiting;
        var outcomes =
            state == BatchState.Done
                ? await db
                    .BatchLines.Where(l => l.BatchId == batch.Id)
                    .GroupBy(l => l.Outcome)
                    .Select(g => new { g.Key, Count = g.Count() })
                    .ToDictionaryAsync(g => g.Key, g => g.Count, cancel)
                : [];
        var table = state == BatchState.Waiting && ListFile.TryRead(batch.Content!, out var read, out _, cancel) ? read : new ListTable([], [], []);
        var remembered = table.HasNames ? await RememberedLists.Find(table, batch.WorkspaceId, db, cancel) : null;
        var columns = table.Columns.Select(
            (name, i) =>
                new Column(
                    name,
                    (remembered?.Columns ?? table.Fields)[i],
                    [.. table.Rows.Select(r => r.Cells.ElementAtOrDefault(i) ?? "").Where(c => c.Length > 0).Take(Samples)]
                )
        );
        return new Response(
            batch.Id,
            batch.Name,
            state,
            batch.CreatedAt,
            batch.DoneAt,
            table.Rows.Count,
            [.. columns],
            table.Remark,
            state == BatchState.Running ? new Progress(run!.Done, run.Total) : null,
            state == BatchState.Waiting ? run?.Failure : null,
            remembered?.Choices,
            Of(LineOutcome.Made) + Of(LineOutcome.Renamed),
            Of(LineOutcome.TakenOver),
            Of(LineOutcome.Skipped) + Of(LineOutcome.Refused)
        );

        int Of(LineOutcome outcome) => outcomes.GetValueOrDefault(outcome);
    }

    private static async Task<Ok<Page<Summary>>> List([AsParameters] PageRequest page, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            await page.Of(
                Mine(db, member)
                    .OrderByDescending(b => b.CreatedAt)
                    .Select(b => new Summary(
                        b.Id,
                        b.Name,
                        b.CreatedAt,
                        b.DoneAt,
                        b.Lines.Count(l => l.LinkId != null),
                        b.Lines.Count(l => l.LinkId == null)
                    )),
                b => b,
                cancel
            )
        );

    /// <param name="DoneAt">When its links were created; null while they wait.</param>
    /// <param name="Links">Links created or updated.</param>
    /// <param name="LeftOut">Lines that were left out.</param>
    public sealed record Summary(Guid Id, string Name, Instant CreatedAt, Instant? DoneAt, int Links, int LeftOut);

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LongRuns runs,
        CancellationToken cancel
    ) =>
        await Mine(db, member).AsNoTracking().FirstOrDefaultAsync(b => b.Id == id, cancel) is { } batch
            ? TypedResults.Ok(await Read(batch, db, runs, cancel))
            : ApiProblem.NotFound("batch");

    /// <param name="name">Name of the file, for people.</param>
    private static async Task<Results<Created<Response>, ProblemHttpResult>> Upload(
        string? name,
        HttpRequest http,
        CurrentMember member,
        CursusDb db,
        LongRuns runs,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await ReadBody(http, cancel) is not { } content)
        {
            return ApiProblem.Of(
                413,
                "list-too-large",
                $"This file is larger than {ListFile.MaxBytes / 1024 / 1024} MB. Split the list and upload the parts one by one."
            );
        }

        if (!ListFile.TryRead(content, out _, out var error, cancel))
        {
            return ApiProblem.Invalid("list", error);
        }

        var now = clock.GetCurrentInstant();
        await db.Batches.Where(b => b.WorkspaceId == member.WorkspaceId && b.DoneAt == null && b.CreatedAt < now - Kept).ExecuteDeleteAsync(cancel);
        var title = string.IsNullOrWhiteSpace(name) ? "Pasted list" : name.Trim();
        var batch = new Batch
        {
            WorkspaceId = member.WorkspaceId,
            Name = title[..Math.Min(title.Length, MaxName)],
            Content = content,
            CreatedAt = now,
            CreatedBy = member.Id,
        };
        db.Add(batch);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/batches/{batch.Id}", await Read(batch, db, runs, cancel));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Cancel(
        Guid id,
        CurrentMember member,
        CursusDb db,
        LongRuns runs,
        CancellationToken cancel
    )
    {
        if (await Mine(db, member).Select(b => new { b.Id, b.DoneAt }).FirstOrDefaultAsync(b => b.Id == id, cancel) is not { } batch)
        {
            return ApiProblem.NotFound("batch");
        }

        if (batch.DoneAt is not null)
        {
            return ApiProblem.Conflict(
                "batch-done",
                "The links of this list have already been created. Undo within ten minutes, or delete them in Links."
            );
        }

        if (runs.Find(id) is { IsOver: false } run)
        {
            run.Cancel();
            return TypedResults.NoContent();
        }

        runs.Forget(id);
        await Mine(db, member).Where(b => b.Id == id && b.DoneAt == null).ExecuteDeleteAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>The body, or null where it is larger than any list taken.</summary>
    private static async Task<byte[]?> ReadBody(HttpRequest http, CancellationToken cancel)
    {
        using var content = new MemoryStream(http.ContentLength is { } length and <= ListFile.MaxBytes ? (int)length : 0);
        return !await RequestSize.TryCopy(http, content, ListFile.MaxBytes, cancel) ? null
            : content.Length == content.Capacity ? content.GetBuffer()
            : content.ToArray();
    }
}
