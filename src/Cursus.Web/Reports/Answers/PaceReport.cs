using Cursus.Core.Reports;
using Cursus.Data;
using Cursus.Data.Reports.Counts;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Reports.Answers;

/// <summary>GET /posts/{id}/pace: each placement of a post against the usual course of its channel, hours after it went out.</summary>
public static class PaceReport
{
    /// <param name="Placements">Those that were clicked, in no particular order.</param>
    public sealed record Response(string TimeZone, IReadOnlyList<PlacementPace> Placements);

    /// <param name="Channel">The channel's key.</param>
    /// <param name="Label">Its channel and, where it has one, its variant.</param>
    /// <param name="StartedAt">The hour it was published, in the workspace's time zone.</param>
    /// <param name="Hours">Full hours since then.</param>
    /// <param name="Clicks">People's clicks within these hours.</param>
    /// <param name="Ahead">How many of the earlier placements on its channel had fewer at that age.</param>
    /// <param name="Others">How many it is compared with: at most the last ten that are old enough.</param>
    /// <param name="Course">Its clicks so far.</param>
    /// <param name="Usual">The others' figures; null if there are fewer than three.</param>
    public sealed record PlacementPace(
        Guid Link,
        string Channel,
        string Label,
        string StartedAt,
        int Hours,
        long Clicks,
        int Ahead,
        int Others,
        IReadOnlyList<CoursePoint> Course,
        IReadOnlyList<UsualPoint> Usual
    );

    public sealed record CoursePoint(int Hours, long Clicks);

    /// <param name="Low">Lower quartile of the others.</param>
    /// <param name="High">Upper quartile of the others.</param>
    public sealed record UsualPoint(int Hours, double Low, double Middle, double High);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/posts/{id:guid}/pace", Handle).ForViewers().WithSummary("A post compared with recent posts on its channels");

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        Guid id,
        CurrentMember member,
        CursusDb db,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    ) =>
        await PostOf(id, member, db, cancel) is { } post
            ? TypedResults.Ok(await Answer(post, member, counting, clock, cancel))
            : ApiProblem.NotFound("post");

    /// <summary>A post whose pace is asked for.</summary>
    /// <param name="Variants">Of each of its placements' links, in their order; null where it has none.</param>
    internal sealed record Paced(Guid Id, string Title, IReadOnlyList<(Guid Link, string? Variant)> Variants);

    internal static async Task<Paced?> PostOf(Guid id, CurrentMember member, CursusDb db, CancellationToken cancel) =>
        await db
            .Posts.Where(p => p.Id == id && p.WorkspaceId == member.WorkspaceId)
            .Select(p => new
            {
                p.Id,
                p.Title,
                Placements = p.Placements.OrderBy(x => x.Position).Select(x => new { x.LinkId, x.Variant }).ToList(),
            })
            .SingleOrDefaultAsync(cancel)
            is { } post
            ? new(post.Id, post.Title, [.. post.Placements.Select(p => (p.LinkId, p.Variant))])
            : null;

    internal static async Task<Response> Answer(Paced post, CurrentMember member, Counting counting, IClock clock, CancellationToken cancel)
    {
        await using var snapshot = await counting.Open(member.WorkspaceId, cancel);
        var courses = (
            await PlacementCourses.AroundPost(snapshot, member.WorkspaceId, post.Id, clock.GetCurrentInstant(), member.Zone, cancel)
        ).ToLookup(c => c.Course.LinkId);
        var own = post
            .Variants.SelectMany(v => courses[v.Link].Select(c => (c.Course, Label: v.Variant is null ? c.Label : $"{c.Label} · {v.Variant}")))
            .ToList();
        var earlier = courses.SelectMany(c => c).Select(c => c.Course).Except(own.Select(o => o.Course)).ToList();
        return new Response(member.Zone.Id, [.. own.Select(o => Of(o.Course, o.Label, Pace.Of(o.Course, earlier)))]);
    }

    private static PlacementPace Of(PlacementCourse course, string label, Pace pace)
    {
        var soFar = 0L;
        return new(
            course.LinkId,
            course.Group,
            label,
            LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm").Format(course.Start),
            pace.Hours,
            pace.Clicks,
            pace.Ahead,
            pace.Others,
            [.. course.Clicks.Select((clicks, step) => new CoursePoint(PostClock.HoursAfter(step + 1), soFar += clicks))],
            [.. pace.Usual.Select(u => new UsualPoint(u.Hours, u.Low, u.Middle, u.High))]
        );
    }
}
