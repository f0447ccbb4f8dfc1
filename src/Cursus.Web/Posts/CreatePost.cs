using Cursus.Core.Addresses;
using Cursus.Data;
using Cursus.Data.Addresses;
using Cursus.Data.Posts;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Edge;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Posts;

/// <summary>POST /posts: makes a post and one link for each of its placements, all or none.</summary>
public static class CreatePost
{
    private const int TriesForRandomSlugs = 3;

    public static void Map(IEndpointRouteBuilder api) => api.MapPost("/posts", Handle).ForEditors().WithSummary("Make a post with one link for each placement");

    private static async Task<Results<Created<PostResponse>, ProblemHttpResult>> Handle(
        PostRequest request, CurrentMember member, CursusDb db, LinkTable table, CursusOptions options, IClock clock, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var plan = await PostPlan.Make(request, member, db, now.InZone(member.Zone).Date, cancel);
        var tags = await TagsOfLinks.FindOrAdd(db, member.WorkspaceId, request.Tags, plan.Errors, cancel);
        if (plan.Errors.Any)
        {
            return ApiProblem.Invalid(plan.Errors);
        }

        for (var attempt = 1; ; attempt++)
        {
            if (await TakenSlugs(plan, db, cancel) is { } taken)
            {
                return taken;
            }

            var post = Build(plan, tags, member, now);
            db.Add(post);
            try
            {
                await db.SaveChangesAsync(cancel);
            }
            catch (DbUpdateException e) when (SlugTaken.Is(e) && attempt < TriesForRandomSlugs)
            {
                // Somebody else saved the same slug in this moment. The check above now says which, or new random ones are drawn.
                db.ChangeTracker.Clear();
                tags = await TagsOfLinks.FindOrAdd(db, member.WorkspaceId, request.Tags, plan.Errors, cancel);
                continue;
            }

            foreach (var link in post.Placements.Select(p => p.Link!))
            {
                table.Put(plan.Domain!.Name, link.SlugKey, new LinkEntry(link.Id, link.FinalUrl, link.Redirect));
            }

            var saved = await PostResponse.Read(db.Posts.Where(p => p.Id == post.Id), db, options, cancel);
            return TypedResults.Created($"/api/v1/posts/{post.Id}", saved.Single());
        }
    }

    private static async Task<ProblemHttpResult?> TakenSlugs(PostPlan plan, CursusDb db, CancellationToken cancel)
    {
        var states = await plan.CheckSlugs(db, cancel);
        var taken = states.Select((state, i) => (State: state, Field: $"placements[{i}].slug")).Where(s => s.State.IsTaken).ToList();
        return taken.Count == 0 ? null : SlugTaken.Problem([.. taken.Select(t => (t.Field, t.State))]);
    }

    private static Post Build(PostPlan plan, List<Tag> tags, CurrentMember member, Instant now)
    {
        var post = new Post
        {
            WorkspaceId = member.WorkspaceId,
            Title = plan.Title,
            Destination = plan.Destination!.AsEntered,
            CampaignId = plan.Campaign!.Id,
            PublishedOn = plan.PublishedOn,
            CreatedAt = now,
            CreatedBy = member.Id,
        };
        foreach (var (placement, position) in plan.Placements.Select((p, i) => (p, i)))
        {
            var slug = placement.Slug?.Text ?? SlugMaker.Random();
            var link = new Link
            {
                WorkspaceId = member.WorkspaceId,
                DomainId = plan.Domain!.Id,
                Slug = slug,
                SlugKey = slug.ToLowerInvariant(),
                Title = placement.Title,
                Destination = plan.Destination.AsEntered,
                FinalUrl = placement.FinalUrl!,
                Source = placement.Tags!.Source.Text,
                Medium = placement.Tags.Medium.Text,
                Term = placement.Tags.Term?.Text,
                Content = placement.Tags.Content?.Text,
                CampaignId = plan.Campaign.Id,
                ChannelId = placement.Channel!.Id,
                Redirect = plan.Redirect,
                CreatedAt = now,
                CreatedBy = member.Id,
                Tags = [.. tags],
            };
            post.Placements.Add(new Placement { PostId = post.Id, LinkId = link.Id, Link = link, Variant = placement.Variant, Position = position });
        }

        return post;
    }
}
