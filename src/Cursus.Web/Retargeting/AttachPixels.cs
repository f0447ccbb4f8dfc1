using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Retargeting;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Retargeting;

/// <summary>Where pixels fire: PUT /pixels/{id}/attachments for campaigns, channels and domains, PUT /posts/{id}/pixels for a post. A link's own are
/// changed with the link.</summary>
public static class AttachPixels
{
    /// <summary>Omitted lists stay as they are.</summary>
    /// <param name="Campaigns">Keys.</param>
    /// <param name="Channels">Keys.</param>
    /// <param name="Domains">Names.</param>
    public sealed record Request(
        IReadOnlyList<string>? Campaigns = null,
        IReadOnlyList<string>? Channels = null,
        IReadOnlyList<string>? Domains = null
    );

    public sealed record PostRequest(IReadOnlyList<Guid>? Pixels);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapPut("/pixels/{id:guid}/attachments", Attach)
            .ForEditors()
            .WithSummary("Let a pixel fire for all links of campaigns, channels or domains");
        api.MapPut("/posts/{id:guid}/pixels", AttachToPost).ForEditors().WithSummary("Let pixels fire for all links of a post");
    }

    private static async Task<Results<Ok<Pixels.Response>, ProblemHttpResult>> Attach(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CancellationToken cancel
    )
    {
        if (await db.Pixels.FirstOrDefaultAsync(p => p.Id == id && p.WorkspaceId == member.WorkspaceId, cancel) is not { } pixel)
        {
            return ApiProblem.NotFound("pixel");
        }

        var errors = new FieldErrors();
        if (request.Campaigns is { } campaigns)
        {
            var all = await db.Campaigns.Include(c => c.Pixels).Where(c => c.WorkspaceId == member.WorkspaceId).ToListAsync(cancel);
            Set(pixel, all, c => c.Key, c => c.Pixels, campaigns, "campaigns", "campaign", errors);
        }

        if (request.Channels is { } channels)
        {
            var all = await db.Channels.Include(c => c.Pixels).Where(c => c.WorkspaceId == member.WorkspaceId).ToListAsync(cancel);
            Set(pixel, all, c => c.Key, c => c.Pixels, channels, "channels", "channel", errors);
        }

        if (request.Domains is { } domains)
        {
            var all = await db.Domains.Include(d => d.Pixels).Where(d => d.WorkspaceId == member.WorkspaceId).ToListAsync(cancel);
            Set(pixel, all, d => d.Name, d => d.Pixels, domains, "domains", "short domain", errors);
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.Ok((await Pixels.Find(id, member, db, cancel))!);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> AttachToPost(
        Guid id,
        PostRequest request,
        CurrentMember member,
        CursusDb db,
        LinkFeed feed,
        CancellationToken cancel
    )
    {
        if (await db.Posts.Include(p => p.Pixels).FirstOrDefaultAsync(p => p.Id == id && p.WorkspaceId == member.WorkspaceId, cancel) is not { } post)
        {
            return ApiProblem.NotFound("post");
        }

        var errors = new FieldErrors();
        var wanted = await PixelsOfWorkspace.Find(db, member.WorkspaceId, request.Pixels, errors, cancel);
        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        post.Pixels.Clear();
        post.Pixels.AddRange(wanted);
        await db.SaveChangesAsync(cancel);
        await feed.CatchUp();
        return TypedResults.NoContent();
    }

    private static void Set<T>(
        Pixel pixel,
        List<T> all,
        Func<T, string> keyOf,
        Func<T, List<Pixel>> pixelsOf,
        IReadOnlyList<string> wanted,
        string field,
        string what,
        FieldErrors errors
    )
    {
        foreach (var unknown in wanted.Except(all.Select(keyOf)))
        {
            errors.Add(field, new ValidationError($"{what.Replace(' ', '-')}-unknown", $"This workspace has no {what} “{unknown}”. Choose another."));
        }

        foreach (var place in all)
        {
            pixelsOf(place).Remove(pixel);
            if (wanted.Contains(keyOf(place)))
            {
                pixelsOf(place).Add(pixel);
            }
        }
    }
}
