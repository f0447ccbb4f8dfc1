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
using NodaTime.Text;

namespace Cursus.Web.Reports.Answers;

/// <summary>GET /reports/series: the same question over time.</summary>
public static class SeriesReport
{
    private const int MostPosts = 200;
    private const int MostDailySteps = 120;
    private const int MostHourlyDays = 2;
    private const string Usual = "usual";

    private static readonly string[] Steps = ["hour", "day", "week", "month", Usual];

    /// <param name="Step">hour, day, week (from the workspace’s first day) or month.</param>
    /// <param name="Points">Steps so far.</param>
    /// <param name="Posts">Posts published in the period, of what the report covers; the newest ones if there are many.</param>
    public sealed record Response(
        string By,
        LocalDate From,
        LocalDate To,
        string TimeZone,
        string Step,
        IReadOnlyList<Point> Points,
        IReadOnlyList<PublishedPost> Posts
    );

    /// <param name="At">Local time at which the step begins: a day, or a day and hour.</param>
    /// <param name="Clicks">People's clicks by key of the group; groups without clicks are left out.</param>
    public sealed record Point(string At, IReadOnlyDictionary<string, long> Clicks);

    /// <param name="PublishedOn">The day in the workspace's time zone.</param>
    public sealed record PublishedPost(Guid Id, string Title, LocalDate PublishedOn);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/reports/series", Handle).ForViewers().WithSummary("Clicks of each group over time");

    /// <param name="step">hour, day, week or month, or usual, in which the course can be read best; day if omitted.</param>
    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        AskedQuestion asked,
        string? step,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        _ = asked;
        var errors = new FieldErrors();
        step ??= "day";
        if (!Steps.Contains(step))
        {
            errors.Add("step", new ValidationError("step", "Step is hour, day, week or month, or “usual” to let Cursus choose."));
        }

        if (QuestionReader.Read(request.Query, member, clock.GetCurrentInstant(), errors) is not { } question)
        {
            return ApiProblem.Invalid(errors);
        }

        if (step == "hour" && question.Period.Days > 31)
        {
            return ApiProblem.Invalid(
                "step",
                new ValidationError("step-too-fine", "Hours are shown for at most 31 days. Choose days, or a shorter period.")
            );
        }

        var chosen = step == Usual ? UsualStep(question) : Enum.Parse<CountStep>(step, ignoreCase: true);
        return question.Bounded(errors, chosen, question.By) is { } bounded
            ? TypedResults.Ok(await Answer(bounded, chosen, counting, cancel))
            : ApiProblem.Invalid(errors);
    }

    /// <summary>The step in which a course can be read where nobody chose one.</summary>
    internal static CountStep UsualStep(Question question) =>
        question.Period.Days <= MostHourlyDays ? CountStep.Hour
        : question.Period.Days <= MostDailySteps ? CountStep.Day
        : CountStep.Week;

    /// <summary>The course over time of a question that is bounded.</summary>
    internal static async Task<Response> Answer(Question question, CountStep step, Counting counting, CancellationToken cancel)
    {
        await using var snapshot = await counting.Open(question.WorkspaceId, cancel);
        var counts = (await Counting.OverTime(snapshot, question, step, cancel)).ToLookup(c => c.At);
        var points = StepsOf(question, step)
            .Select(at => new Point(
                (
                    step == CountStep.Hour
                        ? LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm")
                        : LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd")
                ).Format(at),
                counts[at].ToDictionary(c => c.Key, c => c.Clicks)
            ));
        var posts = (await AskedDetails.Posts(snapshot, question, MostPosts, cancel)).ConvertAll(p => new PublishedPost(p.Id, p.Title, p.Day));
        return new Response(
            question.By,
            question.Period.From,
            question.Period.To,
            question.Zone.Id,
            step.ToString().ToLowerInvariant(),
            [.. points],
            posts
        );
    }

    /// <summary>Every step of the period, those without clicks included; of today only the hours that have begun.</summary>
    private static IEnumerable<LocalDateTime> StepsOf(Question question, CountStep step)
    {
        var (first, last) = (question.Period.From, LocalDate.Min(question.Period.To, LocalDate.Max(question.Today, question.Period.From)));
        var at = step switch
        {
            CountStep.Week => NamedPeriod.WeekOf(first, question.WeekStart).AtMidnight(),
            CountStep.Month => first.With(DateAdjusters.StartOfMonth).AtMidnight(),
            _ => first.AtMidnight(),
        };
        var now = question.Now.InZone(question.Zone).LocalDateTime;
        for (
            ;
            at.Date <= last && (step != CountStep.Hour || at.Date != now.Date || at <= now);
            at = step switch
                {
                    CountStep.Hour => at.PlusHours(1),
                    CountStep.Week => at.PlusWeeks(1),
                    CountStep.Month => at.PlusMonths(1),
                    _ => at.PlusDays(1),
                }
        )
        {
            yield return at;
        }
    }
}
