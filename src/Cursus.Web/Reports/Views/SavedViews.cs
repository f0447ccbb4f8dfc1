using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Reports;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Reports.Views;

/// <summary>/views: questions that are kept under a name.</summary>
public static class SavedViews
{
    private const int MaxName = 80;
    private const int MaxQuestion = 2000;

    /// <param name="Question">As a query string of /reports/breakdown.</param>
    public sealed record Request(string? Name = null, string? Question = null, bool? IsPinned = null);

    /// <param name="Question">As a query string of /reports/breakdown, with how it is shown.</param>
    /// <param name="CreatedBy">A member's name; null if they have left.</param>
    /// <param name="Shares">The addresses where it can be read without an account, newest first.</param>
    public sealed record Response(
        Guid Id,
        string Name,
        string Question,
        bool IsPinned,
        string? CreatedBy,
        Instant CreatedAt,
        IReadOnlyList<ViewShares.Response> Shares
    );

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/views", List).ForViewers().WithSummary("Saved views, pinned ones first");
        api.MapPost("/views", Add).ForEditors().WithSummary("Save a view");
        api.MapGet("/views/{id:guid}", Get).ForViewers().WithSummary("One saved view");
        api.MapPatch("/views/{id:guid}", Change).ForEditors().WithSummary("Rename, pin or replace a saved view");
        api.MapDelete("/views/{id:guid}", Remove).ForEditors().WithSummary("Delete a view and all its shared links");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(Whole(db, member).OrderByDescending(v => v.IsPinned).ThenBy(v => v.Name), Of, cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Whole(db, member).FirstOrDefaultAsync(v => v.Id == id, cancel) is { } view ? TypedResults.Ok(Of(view)) : ApiProblem.NotFound("view");

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var view = new SavedView
        {
            WorkspaceId = member.WorkspaceId,
            Name = "",
            Question = "",
            CreatedBy = member.Id,
            CreatedAt = now,
        };
        if (await Apply(request with { Name = request.Name ?? "", Question = request.Question ?? "" }, view, member, db, now, cancel) is { } problem)
        {
            return problem;
        }

        db.Add(view);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/views/{view.Id}", Of(await Whole(db, member).SingleAsync(v => v.Id == view.Id, cancel)));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (await Whole(db, member).FirstOrDefaultAsync(v => v.Id == id, cancel) is not { } view)
        {
            return ApiProblem.NotFound("view");
        }

        if (await Apply(request, view, member, db, clock.GetCurrentInstant(), cancel) is { } problem)
        {
            return problem;
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(Of(view));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(db.SavedViews.Where(v => v.Id == id && v.WorkspaceId == member.WorkspaceId), "views", id, v => v.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("view");

    private static async Task<ProblemHttpResult?> Apply(
        Request request,
        SavedView view,
        CurrentMember member,
        CursusDb db,
        Instant now,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        if (request.Name?.Trim() is { } name)
        {
            if (name.Length is 0 or > MaxName)
            {
                errors.Add("name", new ValidationError("view-name", $"Enter a view name of at most {MaxName} characters."));
            }
            else if (await db.SavedViews.AnyAsync(v => v.WorkspaceId == view.WorkspaceId && v.Name == name && v.Id != view.Id, cancel))
            {
                return ApiProblem.Conflict("view-taken", $"There is already a view called “{name}”. Choose another name, or delete that one first.");
            }

            view.Name = name;
        }

        if (request.Question is { } question)
        {
            if (question.Length > MaxQuestion)
            {
                errors.Add(
                    "question",
                    new ValidationError(
                        "question-too-long",
                        $"This view is too long to save (at most {MaxQuestion:N0} characters). Remove some filters."
                    )
                );
            }
            else
            {
                QuestionReader.Read(question, member.Workspace, now, errors);
            }

            view.Question = question;
        }

        view.IsPinned = request.IsPinned ?? view.IsPinned;
        return errors.Any ? ApiProblem.Invalid(errors) : null;
    }

    private static IQueryable<SavedView> Whole(CursusDb db, CurrentMember member) =>
        db.SavedViews.Where(v => v.WorkspaceId == member.WorkspaceId).Include(v => v.Creator!.Account).Include(v => v.Shares);

    private static Response Of(SavedView view) =>
        new(
            view.Id,
            view.Name,
            view.Question,
            view.IsPinned,
            view.Creator?.Account?.Name,
            view.CreatedAt,
            [.. view.Shares.OrderByDescending(s => s.CreatedAt).Select(ViewShares.Of)]
        );
}
