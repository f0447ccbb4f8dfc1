using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Data;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Posts;

/// <summary>
/// PUT and DELETE /posts/{id}/variants/{channel}/split: to which part of the channel's readers each variant was shown, as where a mailing goes to 30
/// % with the logo and to 70 % with the button. Clicks of variants are compared by it.
/// </summary>
public static class SplitVariants
{
    /// <param name="Parts">A whole percentage for each variant's link; they add up to 100.</param>
    public sealed record Request(IReadOnlyDictionary<Guid, int>? Parts);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPut("/posts/{id:guid}/variants/{channel}/split", Set).ForEditors().WithSummary("Set the share of readers that saw each variant");
        api.MapDelete("/posts/{id:guid}/variants/{channel}/split", TakeBack).ForEditors().WithSummary("Treat the variants as shown equally");
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Set(
        Guid id,
        string channel,
        Request request,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        var placements = await Placements(id, channel, member, db).ToListAsync(cancel);
        if (placements.Count == 0)
        {
            return ApiProblem.NotFound("placement");
        }

        var parts = request.Parts ?? new Dictionary<Guid, int>();
        if (!parts.Keys.ToHashSet().SetEquals(placements.Select(p => p.LinkId)))
        {
            return ApiProblem.Invalid(
                "parts",
                new ValidationError(
                    "split-incomplete",
                    "Give each variant of this post on this channel a share, and nothing else. The post may have changed since; load it again."
                )
            );
        }

        if (Split.Check([.. parts.Values]) is { } error)
        {
            return ApiProblem.Invalid("parts", error);
        }

        placements.ForEach(p => p.Exposure = parts[p.LinkId]);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> TakeBack(
        Guid id,
        string channel,
        CurrentMember member,
        CursusDb db,
        CancellationToken cancel
    )
    {
        var placements = await Placements(id, channel, member, db).ToListAsync(cancel);
        placements.ForEach(p => p.Exposure = null);
        await db.SaveChangesAsync(cancel);
        return placements.Count > 0 ? TypedResults.NoContent() : ApiProblem.NotFound("placement");
    }

    private static IQueryable<Placement> Placements(Guid id, string channel, CurrentMember member, CursusDb db) =>
        db.Placements.Where(p =>
            p.PostId == id && p.Post!.WorkspaceId == member.WorkspaceId && p.Link!.DeletedAt == null && p.Link.Channel!.Key == channel
        );
}
