using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Reports.Answers;

/// <summary>GET /reports/pivot: people's clicks by two dimensions at once, such as channel × campaign, or weekday × hour.</summary>
public static class PivotReport
{
    /// <param name="By">What the rows are.</param>
    /// <param name="Across">What the columns are.</param>
    /// <param name="NarrowedFrom">The first day requested, if the report covers only the last 31 days because it crosses two dimensions that need
    /// individual clicks.</param>
    /// <param name="Total">All clicks. A link with several tags counts under each, so cells by tag can add up to more.</param>
    /// <param name="Rows">By clicks, at most 50; hours and weekdays in their own order.</param>
    /// <param name="Columns">By clicks, at most 30; hours and weekdays in their own order.</param>
    /// <param name="Cells">For each row, the clicks in each column.</param>
    public sealed record Response(
        string By,
        string Across,
        LocalDate From,
        LocalDate To,
        string TimeZone,
        LocalDate? NarrowedFrom,
        long Total,
        IReadOnlyList<PivotGroup> Rows,
        IReadOnlyList<PivotGroup> Columns,
        IReadOnlyList<IReadOnlyList<long>> Cells
    );

    /// <param name="Key">Null for the sum of the groups that aren't listed.</param>
    /// <param name="Clicks">Total of all cells.</param>
    public sealed record PivotGroup(string? Key, string Label, long Clicks);

    public static void Map(IEndpointRouteBuilder api) => api.MapGet("/reports/pivot", Handle).ForViewers().WithSummary("Clicks by two dimensions");

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        AskedQuestion asked,
        string? across,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        return Read(asked, across, request, member, clock, errors) is { } question
            ? TypedResults.Ok(await Answer(question, across!, counting, cancel))
            : ApiProblem.Invalid(errors);
    }

    /// <summary>The question, with <paramref name="across"/> found to be something to put across it; null with <paramref name="errors"/>
    /// else.</summary>
    internal static Question? Read(AskedQuestion asked, string? across, HttpRequest request, CurrentMember member, IClock clock, FieldErrors errors)
    {
        if (across is null || !Dimensions.All.ContainsKey(across) || across == asked.By)
        {
            errors.Add(
                "across",
                new ValidationError("across", $"“{asked.By}” can’t be split by “{across}”. Use one of {string.Join(", ", Dimensions.All.Keys)}.")
            );
        }

        return QuestionReader.Read(request.Query, member, clock.GetCurrentInstant(), errors)?.Bounded(errors, groups: [asked.By!, across!]);
    }

    internal static async Task<Response> Answer(Question question, string across, Counting counting, CancellationToken cancel)
    {
        await using var snapshot = await counting.Open(question.WorkspaceId, cancel);
        var (total, cells) = await Counting.ByTwo(snapshot, question, across, cancel);
        var pivot = Pivot.Of(
            [.. cells.Select(c => new PivotCell(c.Key, c.Label, c.AcrossKey, c.AcrossLabel, c.Clicks))],
            Dimensions.All[question.By].Order?.Invoke(question.WeekStart),
            Dimensions.All[across].Order?.Invoke(question.WeekStart)
        );
        return new Response(
            question.By,
            across,
            question.Period.From,
            question.Period.To,
            question.Zone.Id,
            question.NarrowedFrom,
            total,
            [.. pivot.Rows.Select(Of)],
            [.. pivot.Columns.Select(Of)],
            pivot.Cells
        );
    }

    private static PivotGroup Of(PivotSide side) => new(side.Key, side.Label, side.Clicks);
}
