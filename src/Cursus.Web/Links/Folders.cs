using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Links;

/// <summary>/folders: places to keep links together, one level deep.</summary>
public static class Folders
{
    public const int MaxName = 60;

    public sealed record Request(string? Name);

    public sealed record Response(Guid Id, string Name, int Links);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/folders", List).ForViewers().WithSummary("Folders");
        api.MapPost("/folders", Add).ForEditors().WithSummary("Add a folder");
        api.MapGet("/folders/{id:guid}", Get).ForViewers().WithSummary("One folder");
        api.MapPatch("/folders/{id:guid}", Rename).ForEditors().WithSummary("Rename a folder");
        api.MapDelete("/folders/{id:guid}", Remove).ForEditors().WithSummary("Delete a folder; its links are kept");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(Read(db, member), f => f, cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Read(db, member, id).FirstOrDefaultAsync(cancel) is { } folder ? TypedResults.Ok(folder) : ApiProblem.NotFound("folder");

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (await Check(request.Name, except: null, member, db, cancel) is { } problem)
        {
            return problem;
        }

        var folder = new Folder { WorkspaceId = member.WorkspaceId, Name = request.Name!.Trim() };
        db.Add(folder);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/folders/{folder.Id}", new Response(folder.Id, folder.Name, 0));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Rename(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (await Check(request.Name, id, member, db, cancel) is { } problem)
        {
            return problem;
        }

        var name = request.Name!.Trim();
        return
            await db
                .Folders.Where(f => f.Id == id && f.WorkspaceId == member.WorkspaceId)
                .ExecuteUpdateAsync(f => f.SetProperty(x => x.Name, name), cancel) == 1
            ? TypedResults.Ok(await Read(db, member, id).SingleAsync(cancel))
            : ApiProblem.NotFound("folder");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(db.Folders.Where(f => f.Id == id && f.WorkspaceId == member.WorkspaceId), "folders", id, f => f.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("folder");

    private static async Task<ProblemHttpResult?> Check(string? typed, Guid? except, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        if (typed?.Trim() is not { Length: > 0 and <= MaxName } name)
        {
            return ApiProblem.Invalid("name", new ValidationError("folder-name", $"Enter a folder name of at most {MaxName} characters."));
        }

        return await db.Folders.AnyAsync(f => f.WorkspaceId == member.WorkspaceId && f.Name == name && f.Id != except, cancel)
            ? ApiProblem.Conflict("folder-taken", $"There is already a folder called “{name}”.")
            : null;
    }

    private static IQueryable<Response> Read(CursusDb db, CurrentMember member, Guid? id = null) =>
        db
            .Folders.Where(f => f.WorkspaceId == member.WorkspaceId && (id == null || f.Id == id))
            .OrderBy(f => f.Name)
            .Select(f => new Response(f.Id, f.Name, db.Links.Count(l => l.FolderId == f.Id && l.DeletedAt == null)));
}
