using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Cursus.Web.Audit;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Links;

/// <summary>/tags: coloured words by which links are found again.</summary>
public static class Tags
{
    /// <param name="Color">Place in the set of ten colours, 0 to 9.</param>
    public sealed record Request(string? Name = null, short? Color = null);

    /// <param name="Links">How many links have it, not counting deleted ones.</param>
    public sealed record Response(Guid Id, string Name, short Color, int Links);

    /// <param name="Into">Id of the tag that stays.</param>
    public sealed record MergeRequest(Guid? Into);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/tags", List).ForViewers().WithSummary("Tags");
        api.MapPost("/tags", Add).ForEditors().WithSummary("Add a tag");
        api.MapGet("/tags/{id:guid}", Get).ForViewers().WithSummary("One tag");
        api.MapPatch("/tags/{id:guid}", Change).ForOwners().WithSummary("Rename or recolour a tag");
        api.MapPost("/tags/{id:guid}/merge", Merge).ForOwners().WithSummary("Merge a tag into another; its links get the other tag");
        api.MapDelete("/tags/{id:guid}", Remove).ForOwners().WithSummary("Delete a tag; its links are kept");
    }

    private static IQueryable<Response> Read(CursusDb db, CurrentMember member, Guid? id = null) =>
        db
            .Tags.Where(t => t.WorkspaceId == member.WorkspaceId && (id == null || t.Id == id))
            .OrderBy(t => t.Name)
            .Select(t => new Response(t.Id, t.Name, t.Color, t.Links.Count(l => l.DeletedAt == null)));

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    ) => TypedResults.Ok(await page.Of(Read(db, member), t => t, cancel));

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Get(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Read(db, member, id).FirstOrDefaultAsync(cancel) is { } tag ? TypedResults.Ok(tag) : ApiProblem.NotFound("tag");

    private static async Task<Results<Created<Response>, ProblemHttpResult>> Add(
        Request request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (Check(request.Name ?? "", request.Color) is { } error)
        {
            return ApiProblem.Invalid(error.Field, error.Error);
        }

        var name = request.Name!.Trim();
        if (await IsTaken(db, member, name, except: null, cancel))
        {
            return Taken(name);
        }

        var count = await db.Tags.CountAsync(t => t.WorkspaceId == member.WorkspaceId, cancel);
        var tag = new Tag
        {
            WorkspaceId = member.WorkspaceId,
            Name = name,
            Color = request.Color ?? (short)(count % 10),
        };
        db.Add(tag);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Created($"/api/v1/tags/{tag.Id}", new Response(tag.Id, tag.Name, tag.Color, 0));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Change(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (await Find(id, member, db, cancel) is not { } tag)
        {
            return ApiProblem.NotFound("tag");
        }

        if (Check(request.Name ?? tag.Name, request.Color) is { } error)
        {
            return ApiProblem.Invalid(error.Field, error.Error);
        }

        var name = request.Name?.Trim() ?? tag.Name;
        if (await IsTaken(db, member, name, except: id, cancel))
        {
            return Taken(name);
        }

        (tag.Name, tag.Color) = (name, request.Color ?? tag.Color);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(await Read(db, member, id).SingleAsync(cancel));
    }

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Merge(
        Guid id,
        MergeRequest request,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    )
    {
        if (await Find(id, member, db, cancel) is not { } tag)
        {
            return ApiProblem.NotFound("tag");
        }

        if (request.Into is not { } into || into == id || await Find(into, member, db, cancel) is not { } other)
        {
            return ApiProblem.Invalid("into", new ValidationError("tag-unknown", "Choose another tag to merge into."));
        }

        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await db.Database.ExecuteSqlAsync(
            $"insert into link_tags (link_id, tag_id) select link_id, {into} from link_tags where tag_id = {id} on conflict do nothing",
            cancel
        );
        db.Remove(tag);
        audit.Add(AuditAction.Deleted, "tags", id, tag.Name, $"merged into “{other.Name}”");
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(await Read(db, member, into).SingleAsync(cancel));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Remove(
        Guid id,
        CurrentMember member,
        CursusDb db,
        AuditTrail audit,
        CancellationToken cancel
    ) =>
        await audit.Delete(db.Tags.Where(t => t.Id == id && t.WorkspaceId == member.WorkspaceId), "tags", id, t => t.Name, cancel)
            ? TypedResults.NoContent()
            : ApiProblem.NotFound("tag");

    private static (string Field, ValidationError Error)? Check(string name, short? color) =>
        name.Trim().Length is 0 or > TagsOfLinks.MaxNameLength
            ? ("name", new ValidationError("tag-name", $"Enter a tag of at most {TagsOfLinks.MaxNameLength} characters."))
        : color is < 0 or > 9 ? ("color", new ValidationError("color", "A colour is a number from 0 to 9."))
        : null;

    private static ProblemHttpResult Taken(string name) => ApiProblem.Conflict("tag-taken", $"There is already a tag called “{name}”.");

    private static Task<bool> IsTaken(CursusDb db, CurrentMember member, string name, Guid? except, CancellationToken cancel) =>
        db.Tags.AnyAsync(
            t => t.WorkspaceId == member.WorkspaceId && t.Id != except && EF.Functions.ILike(t.Name, name.Replace("_", "\\_").Replace("%", "\\%")),
            cancel
        );

    private static Task<Tag?> Find(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        db.Tags.FirstOrDefaultAsync(t => t.Id == id && t.WorkspaceId == member.WorkspaceId, cancel);
}
