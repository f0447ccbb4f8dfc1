using Cursus.Core.Addresses.Slugs;
using Cursus.Data;
using Cursus.Data.Links;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Links.Saving;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>POST /posts: makes a post and one link for each of its placements, all or none.</summary>
public static class CreatePost
{
    public static void Map(IEndpointRouteBuilder api) =>
        api.MapPost("/posts", Handle).ForEditors().MakingLinks().WithSummary("Create a post with one link per placement");

    private static async Task<Results<Created<PostResponse>, ProblemHttpResult>> Handle(
        PostRequest request,
        CurrentMember member,
        CursusDb db,
        LinkSaving saving,
        LoopCheck loops,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var plan = await PostPlan.Make(request, member, db, options, now.InZone(member.Zone).Date, cancel);
        if (plan.Errors.Any)
        {
            return ApiProblem.Invalid(plan.Errors);
        }

        if (await loops.Find(plan.Destination!, member, plan.Vocabulary, cancel) is { } loop)
        {
            return ApiProblem.Invalid("destination", loop);
        }

        foreach (var (route, place) in plan.Placements.Select((p, i) => (p.Settings.Route, i)).DistinctBy(p => p.Route))
        {
            if (await loops.Find(route, member, plan.Vocabulary, cancel) is { } routedLoop)
            {
                return ApiProblem.Invalid(request.Placements![place].Routes is null ? "routes" : $"placements[{place}].routes", routedLoop);
            }
        }

        // Rows that asked for a readable slug get the one that a preview would show.
        var links = plan.Links();
        if (plan.Placements.Any(IsToBeProposed))
        {
            var proposed = await plan.CheckSlugs(db, member.Workspace.SlugKind, now, cancel);
            links = [.. links.Select((link, i) => IsToBeProposed(plan.Placements[i]) ? link with { Slug = Proposed(proposed[i]) } : link)];
        }

        var post = NewPost(plan, member, now);
        var (_, taken) = await saving.Save(
            links,
            member,
            now,
            saved => new SavedBeside([WithPlacements(post, plan, saved)], [], [.. plan.PixelIds.Select(p => (post.Id, p))]),
            cancel
        );
        if (taken.Count > 0)
        {
            return SlugTaken.Problem([.. taken.Select(t => ($"placements[{t.Place}].slug", t.State))]);
        }

        var read = await PostResponse.Read(db.Posts.Where(p => p.Id == post.Id), db, options, now, cancel);
        return TypedResults.Created($"/api/v1/posts/{post.Id}", read.Single());
    }

    private static bool IsToBeProposed(PlannedPlacement placement) => placement is { SlugKind: SlugKind.Readable, Slug: null };

    private static Core.Addresses.Slugs.Slug? Proposed(SlugState? state) =>
        Core.Addresses.Slugs.Slug.TryParse(state?.Slug, out var slug, out _) ? slug : null;

    private static Post NewPost(PostPlan plan, CurrentMember member, Instant now) =>
        new()
        {
            WorkspaceId = member.WorkspaceId,
            Title = plan.Title,
            Destination = plan.Destination!.AsEntered,
            CampaignId = plan.Campaign!.Id,
            PublishedOn = plan.PublishedOn,
            CreatedAt = now,
            CreatedBy = member.Id,
        };

    private static Post WithPlacements(Post post, PostPlan plan, IReadOnlyList<Link> links)
    {
        // A second attempt at saving comes with fresh links.
        post.Placements.Clear();
        post.Placements.AddRange(
            links.Select(
                (link, i) =>
                    new Placement
                    {
                        PostId = post.Id,
                        LinkId = link.Id,
                        Variant = plan.Placements[i].Variant,
                        Position = i,
                    }
            )
        );
        return post;
    }
}
