using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>/drafts: posts that this member has begun. They are nobody else's, and they may be as unfinished as they are.</summary>
public static class Drafts
{
    /// <summary>The oldest make room for new ones.</summary>
    private const int Kept = 20;

    public sealed record Response(Guid Id, PostRequest Content, Instant UpdatedAt);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/drafts", List).ForEditors().WithSummary("Your drafts, most recently changed first");
        api.MapPut("/drafts/{id:guid}", Keep).ForEditors().WithSummary("Save a draft under an ID chosen by the client");
        api.MapDelete("/drafts/{id:guid}", Discard).ForEditors().WithSummary("Discard a draft");
    }

    private static async Task<Ok<Page<Response>>> List(
        [AsParameters] PageRequest page,
        CurrentMember member,
        CursusDb db,
        SavedRequest saved,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            await page.Of(Mine(db, member).OrderByDescending(d => d.UpdatedAt), d => new Response(d.Id, saved.Read(d.Content), d.UpdatedAt), cancel)
        );

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Keep(
        Guid id,
        PostRequest content,
        CurrentMember member,
        CursusDb db,
        SavedRequest saved,
        IClock clock,
        CancellationToken cancel
    )
    {
        var (now, text) = (clock.GetCurrentInstant(), saved.Write(content));
        if (text.Length > SavedRequest.MaxLength)
        {
            return ApiProblem.Invalid("content", new ValidationError("draft-too-long", "This draft is too long to save. Split it into two posts."));
        }

        var draft = await db.Drafts.FirstOrDefaultAsync(d => d.Id == id, cancel);
        if (draft is not null && draft.MemberId != member.Id)
        {
            return ApiProblem.NotFound("draft");
        }

        if (draft is null)
        {
            draft = new Draft
            {
                Id = id,
                WorkspaceId = member.WorkspaceId,
                MemberId = member.Id,
                Content = text,
                UpdatedAt = now,
            };
            db.Add(draft);
        }

        (draft.Content, draft.UpdatedAt) = (text, now);
        await db.SaveChangesAsync(cancel);
        var old = await Mine(db, member).OrderByDescending(d => d.UpdatedAt).Skip(Kept).Select(d => d.Id).ToListAsync(cancel);
        await Mine(db, member).Where(d => old.Contains(d.Id)).ExecuteDeleteAsync(cancel);
        return TypedResults.Ok(new Response(id, content, now));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Discard(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await Mine(db, member).Where(d => d.Id == id).ExecuteDeleteAsync(cancel) == 1 ? TypedResults.NoContent() : ApiProblem.NotFound("draft");

    private static IQueryable<Draft> Mine(CursusDb db, CurrentMember member) => db.Drafts.Where(d => d.MemberId == member.Id);
}
