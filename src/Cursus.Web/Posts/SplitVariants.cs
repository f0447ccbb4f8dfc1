using Cursus.Core;
using Cursus.Core.Comparing;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Posts;

/// <summary>
/// PUT and DELETE /posts/{id}/variants/{channel}/split: to which part of the channel's readers each variant was shown, as where a mailing goes to 30 % with the logo and to 70 % with
/// the button. Clicks of variants are compared by it.
/// </summary>
public static class SplitVariants
{
    /// <param name="Parts">For the link of each variant a whole percentage; together 100.</param>
    public sealed record Request(IReadOnlyDictionary<Guid, int>? Parts);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPut("/posts/{id:guid}/variants/{channel}/split", Set).ForEditors().WithSummary("Say to which part of the readers each variant was shown");
        api.MapDelete("/posts/{id:guid}/variants/{channel}/split", TakeBack).ForEditors().WithSummary("Count the variants as shown alike");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Set(
        Guid id, string channel, Request request, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var placements = await Placements(id, channel, member, db).ToListAsync(cancel);
        if (placements.Count == 0)
        {
            return ApiProblem.NotFound("placement");
        }

        var parts = request.Parts ?? new Dictionary<Guid, int>();
        if (!parts.Keys.ToHashSet().SetEquals(placements.Select(p => p.LinkId)))
        {
            return ApiProblem.Invalid("parts", new Flaw("split-incomplete", "Give a part to each variant that the post has on this channel, and to nothing else. It may have changed meanwhile; read it anew."));
        }

        if (Split.Check([.. parts.Values]) is { } flaw)
        {
            return ApiProblem.Invalid("parts", flaw);
        }

        placements.ForEach(p => p.Exposure = parts[p.LinkId]);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> TakeBack(Guid id, string channel, CurrentMember member, CursusDb db, CancellationToken cancel)
    {
        var placements = await Placements(id, channel, member, db).ToListAsync(cancel);
        placements.ForEach(p => p.Exposure = null);
        await db.SaveChangesAsync(cancel);
        return placements.Count > 0 ? TypedResults.NoContent() : ApiProblem.NotFound("placement");
    }

    private static IQueryable<Placement> Placements(Guid id, string channel, CurrentMember member, CursusDb db) =>
        db.Placements.Where(p => p.PostId == id && p.Post!.WorkspaceId == member.WorkspaceId && p.Link!.DeletedAt == null && p.Link.Channel!.Key == channel);
}
