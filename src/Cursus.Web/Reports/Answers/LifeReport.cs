using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Data.Reports.Counts;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Reports.Answers;

/// <summary>GET /reports/life: how long the posts of a period live, by channel or another thing that the link decides.</summary>
public static class LifeReport
{
    /// <param name="Answer">The answer in one sentence.</param>
    /// <param name="Rows">Longest-lived first; those with too few clicks last.</param>
    public sealed record Response(string By, LocalDate From, LocalDate To, string TimeZone, string Answer, IReadOnlyList<Row> Rows);

    /// <param name="Placements">Posts published in the period and clicked.</param>
    /// <param name="Running">Those too recent to have had 90% of their clicks; they count with the time they have had.</param>
    /// <param name="HalfHours">Hours from when a placement went out until half of its clicks came; null with fewer than ten clicks.</param>
    /// <param name="MostHours">Hours until 90% of them came.</param>
    public sealed record Row(
        string Key,
        string Label,
        int Placements,
        int Running,
        long Clicks,
        double? HalfHours,
        double? MostHours,
        IReadOnlyList<Arrival> Arrived
    );

    /// <param name="Share">Share of the clicks that came within that many hours, 0 to 1.</param>
    public sealed record Arrival(int Hours, double Share);

    public static void Map(IEndpointRouteBuilder api) => api.MapGet("/reports/life", Handle).ForViewers().WithSummary("Post lifespan");

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        AskedQuestion asked,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        _ = asked;
        var errors = new FieldErrors();
        return Read(request, member, clock, errors) is { } question
            ? TypedResults.Ok(await Answer(question, counting, cancel))
            : ApiProblem.Invalid(errors);
    }

    /// <summary>A question about what links alone decide; null with <paramref name="errors"/> where it isn't.</summary>
    internal static Question? Read(HttpRequest request, CurrentMember member, IClock clock, FieldErrors errors)
    {
        var question = QuestionReader.Read(request.Query, member, clock.GetCurrentInstant(), errors);
        if (question is not null && !Dimensions.All[question.By].IsOfLink)
        {
            errors.Add(
                "by",
                new ValidationError(
                    "by-unknown",
                    $"Posts can’t be grouped by {question.By}. Use one of {string.Join(", ", Dimensions.All.Where(d => d.Value.IsOfLink).Select(d => d.Key))}."
                )
            );
        }

        foreach (var filter in question?.Filters.Keys.Where(f => !Dimensions.All[f].IsOfLink) ?? [])
        {
            errors.Add(
                filter,
                new ValidationError(
                    "filter-unknown",
                    $"Post lifespan can’t be filtered by {filter}, because it differs from click to click. Remove that filter."
                )
            );
        }

        return errors.Any ? null : question;
    }

    internal static async Task<Response> Answer(Question question, Counting counting, CancellationToken cancel)
    {
        await using var snapshot = await counting.Open(question.WorkspaceId, cancel);
        var lives = (await PlacementCourses.Of(snapshot, question, cancel))
            .GroupBy(c => (c.Course.Group, c.Label), c => c.Course)
            .Select(g => (g.Key.Group, g.Key.Label, Life: PostLife.Of([.. g])))
            .OrderByDescending(g => g.Life.HalfHours ?? -1)
            .ThenBy(g => g.Label, StringComparer.Ordinal)
            .ToList();
        return new Response(
            question.By,
            question.Period.From,
            question.Period.To,
            question.Zone.Id,
            LifeSentence.Of([.. lives.Select(l => (l.Label, l.Life))]),
            [
                .. lives.Select(l => new Row(
                    l.Group,
                    l.Label,
                    l.Life.Placements,
                    l.Life.Running,
                    l.Life.Clicks,
                    l.Life.HalfHours,
                    l.Life.MostHours,
                    [.. l.Life.Arrived.Select((share, step) => new Arrival(PostClock.HoursAfter(step + 1), share))]
                )),
            ]
        );
    }
}
