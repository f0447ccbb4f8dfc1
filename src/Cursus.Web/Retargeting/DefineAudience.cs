using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Retargeting;

/// <summary>GET /pixels/{id}/definition: what to paste into the ad network so that it gathers the visitors of a link, a post or a campaign.</summary>
public static class DefineAudience
{
    private const int MostAlso = 20;

    /// <param name="Name">Proposed name of the audience.</param>
    /// <param name="Contains">The visited address contains one of these.</param>
    /// <param name="IsShared">True if one text matches exactly these links.</param>
    /// <param name="AlsoFits">Other short addresses that would be merged too.</param>
    /// <param name="LinksWithoutPixel">How many of the links don't fire this pixel, so their visitors are missing.</param>
    public sealed record Response(
        string Name,
        IReadOnlyList<string> Contains,
        bool IsShared,
        IReadOnlyList<string> AlsoFits,
        int Links,
        int LinksWithoutPixel
    );

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/pixels/{id:guid}/definition", Handle).ForViewers().WithSummary("What to paste into the ad network to define an audience");

    /// <param name="link">Id of a link, or</param>
    /// <param name="post">id of a post, or</param>
    /// <param name="campaign">key of a campaign; everything that the pixel fires for where all are left out.</param>
    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        Guid id,
        Guid? link,
        Guid? post,
        string? campaign,
        CurrentMember member,
        CursusDb db,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        if (await Pixels.Find(id, member, db, cancel) is not { } pixel)
        {
            return ApiProblem.NotFound("pixel");
        }

        var live = db.Links.Where(l => l.WorkspaceId == member.WorkspaceId && l.DeletedAt == null);
        var firing = db.PixelsOfLinks.Where(p => p.PixelId == id).Select(p => p.LinkId);
        var (chosen, name) =
            link is not null ? (live.Where(l => l.Id == link), await live.Where(l => l.Id == link).Select(l => l.Title).FirstOrDefaultAsync(cancel))
            : post is not null
                ? (
                    live.Where(l => l.Placement!.PostId == post),
                    await db.Posts.Where(p => p.Id == post && p.WorkspaceId == member.WorkspaceId).Select(p => p.Title).FirstOrDefaultAsync(cancel)
                )
            : campaign is not null
                ? (
                    live.Where(l => l.Campaign!.Key == campaign),
                    await db
                        .Campaigns.Where(c => c.Key == campaign && c.WorkspaceId == member.WorkspaceId)
                        .Select(c => c.Name)
                        .FirstOrDefaultAsync(cancel)
                )
            : (live.Where(l => firing.Contains(l.Id)), pixel.Name);
        if (name is null)
        {
            return ApiProblem.NotFound(
                link is not null ? "link"
                : post is not null ? "post"
                : "campaign"
            );
        }

        var ids = await chosen.Select(l => l.Id).ToHashSetAsync(cancel);
        var all = await live.Select(l => new
            {
                l.Id,
                Domain = l.Domain!.Name,
                l.Slug,
            })
            .ToListAsync(cancel);
        var addresses = all.ToLookup(l => ids.Contains(l.Id), l => Seen(options.ShortUrl(l.Domain, l.Slug)));
        var definition = AudienceDefinition.Of(name == pixel.Name ? name : $"{name}, by {pixel.Name}", [.. addresses[true]], [.. addresses[false]]);
        return TypedResults.Ok(
            new Response(
                definition.Name,
                definition.Contains,
                definition.IsShared,
                [.. definition.AlsoFits.Take(MostAlso)],
                ids.Count,
                ids.Count - await chosen.CountAsync(l => firing.Contains(l.Id), cancel)
            )
        );
    }

    /// <summary>A short address as networks compare it, without its scheme.</summary>
    private static string Seen(string shortUrl) => shortUrl[(shortUrl.IndexOf("://", StringComparison.Ordinal) + 3)..];
}
