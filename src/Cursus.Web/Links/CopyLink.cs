using Cursus.Core.Links;
using Cursus.Core.Routing;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Hosting;
using Cursus.Web.Links.Saving;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Links;

/// <summary>POST /links/{id}/copy: a new link that is like another in all but its short address and clicks.</summary>
public static class CopyLink
{
    /// <param name="Slug">If omitted, a random one is generated.</param>
    public sealed record Request(string? Slug = null, string? Title = null);

    public static void Map(IEndpointRouteBuilder api) => api.MapPost("/links/{id:guid}/copy", Handle).ForEditors().WithSummary("Duplicate a link");

    private static async Task<Results<Created<LinkResponse>, ProblemHttpResult>> Handle(
        Guid id,
        Request request,
        CurrentMember member,
        CursusDb db,
        LinkSaving saving,
        CursusOptions options,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (
            await db
                .Links.Include(l => l.Domain)
                .Include(l => l.Campaign)
                .Include(l => l.Channel)
                .Include(l => l.Folder)
                .Include(l => l.Tags)
                .Include(l => l.Pixels)
                .AsNoTracking()
                .FirstOrDefaultAsync(l => l.Id == id && l.WorkspaceId == member.WorkspaceId, cancel)
            is not { } link
        )
        {
            return ApiProblem.NotFound("link");
        }

        var errors = new FieldErrors();
        var vocabulary = await Vocabulary.Load(db, member, options, cancel);
        var wanted = new CreateLink.Request(
            link.Destination,
            request.Title ?? link.Title,
            link.Campaign?.Key,
            link.Channel?.Key,
            link.Source,
            link.Medium,
            link.Term,
            link.Content,
            request.Slug,
            link.Domain!.Name,
            link.Redirect,
            [.. link.Tags.Select(t => t.Name)],
            [.. link.Pixels.Select(p => p.Id)],
            Options: null,
            link.Note,
            link.Folder?.Name
        );
        if (CreateLink.Plan(wanted, vocabulary, errors) is not { } plan)
        {
            return ApiProblem.Invalid(errors);
        }

        // A copy of a link that has ended is to lead somewhere.
        var now = clock.GetCurrentInstant();
        var schedule = link.Schedule.StageAt(now) == LinkStage.Ended ? LinkSchedule.Always : link.Schedule;
        var like = plan with
        {
            Settings = plan.Settings with
            {
                Options = link.Options,
                Schedule = schedule,
                Route = link.Route is { } route ? RouteText.Read(route) : null,
                RouteId = link.RouteId,
            },
        };
        var (links, taken) = await saving.Save([like], member, now, _ => SavedBeside.Nothing, cancel);
        if (taken.Count > 0)
        {
            return SlugTaken.Problem([("slug", taken[0].State)]);
        }

        var saved = (await db.Links.Where(l => l.Id == links[0].Id).Read(db, now, cancel)).Single();
        return TypedResults.Created($"/api/v1/links/{saved.Id}", LinkResponse.Of(saved, options));
    }
}
