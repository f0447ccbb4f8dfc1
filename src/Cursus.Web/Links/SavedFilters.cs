using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>/saved-filters: what links were narrowed to, kept under a name for everybody in the workspace.</summary>
public static class SavedFilters
{
    private const int MaxName = 80;
    private const int MaxFilter = 2000;

    /// <param name="Filter">As a query string of the list of links.</param>
    public sealed record Request(string? Name = null, string? Filter = null);

    /// <param name="Filter">As a query string of the list of links.</param>
    public sealed record Response(Guid Id, string Name, string Filter, Instant CreatedAt);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/saved-filters", List).ForViewers().WithSummary("Saved filters of links");
        api.MapPost("/saved-filters", Add).ForEditors().WithSummary("Save a filter");
        api.MapPatch("/saved-filters/{id:guid}", Change).ForEditors().WithSummary("Rename or replace a saved filter");
        api.MapDelete("/saved-filters/{id:guid}", Remove).ForEditors().WithSummary("Delete a saved filter; links are kept");
    }

    private static Response Of(SavedFilter filter) => new(filter.Id, filter.Name, filter.Filter, filter.CreatedAt);

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(db.SavedFilters.Where(f => f.WorkspaceId == member.WorkspaceId).OrderBy(f => f.Name), Of, cancel));

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var filter = new SavedFilter
        {
            WorkspaceId = member.WorkspaceId,
            Name = "",
            Filter = "",
            CreatedBy = member.Id,
            CreatedAt = clock.GetCurrentInstant(),
        };
        if (await Apply(new(request.Name ?? "", request.Filter ?? ""), filter, member, db, cancel) is { } problem)
        {
            return problem;
        }

        db.Add(filter);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/saved-filters/{filter.Id}", Of(filter));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (await db.SavedFilters.FirstOrDefaultAsync(f => f.Id == id && f.WorkspaceId == member.WorkspaceId, cancel) is not { } filter)
        {
            return ApiProblem.NotFound("saved filter");
        }

        if (await Apply(request, filter, member, db, cancel) is { } problem)
        {
            return problem;
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(Of(filter));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(db.SavedFilters.Where(f => f.Id == id && f.WorkspaceId == member.WorkspaceId), "saved-filters", id, f => f.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("saved filter");

    private static async Task<ProblemHttpResult?> Apply(
        Request request,
        SavedFilter filter,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        var (name, kept) = (request.Name?.Trim() ?? filter.Name, request.Filter?.TrimStart('?') ?? filter.Filter);
        if (name.Length is 0 or > MaxName)
        {
            return ApiProblem.Invalid("name", new ValidationError("filter-name", $"Enter a filter name of at most {MaxName} characters."));
        }

        if (kept.Length is 0 or > MaxFilter)
        {
            return ApiProblem.Invalid("filter", new ValidationError("filter", "Choose at least one filter before saving."));
        }

        if (await db.SavedFilters.AnyAsync(f => f.WorkspaceId == member.WorkspaceId && f.Id != filter.Id && f.Name == name, cancel))
        {
            return ApiProblem.Conflict("filter-taken", $"There is already a filter called “{name}”. Choose another name.");
        }

        (filter.Name, filter.Filter) = (name, kept);
        return null;
    }
}
