using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Answers;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Reports.Files;

/// <summary>GET /reports/life.csv and /reports/life.xlsx: how long posts live, to take away.</summary>
public static class LifeFiles
{
    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/reports/life.csv", Csv).ForViewers().WithSummary("Post lifespan as CSV");
        api.MapGet("/reports/life.xlsx", Workbook).ForViewers().WithSummary("Post lifespan as an Excel workbook");
    }

    /// <param name="bom">Whether the file starts with a byte order mark, by which spreadsheets recognise UTF-8; true if omitted.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Csv(
        AskedQuestion asked,
        bool? bom,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        _ = asked;
        var errors = new FieldErrors();
        return LifeReport.Read(request, member, clock, errors) is { } question
            ? (await Table(question, counting, cancel)).Csv(Name(question), bom ?? true)
            : ApiProblem.Invalid(errors);
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Workbook(
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
        return LifeReport.Read(request, member, clock, errors) is { } question
            ? await (await Table(question, counting, cancel)).Workbook(Name(question), cancel)
            : ApiProblem.Invalid(errors);
    }

    private static async Task<ReportTable> Table(Question question, Counting counting, CancellationToken cancel)
    {
        var life = await LifeReport.Answer(question, counting, cancel);
        return new ReportTable(
            [question.By, "name", "placements", "still running", "clicks", "hours to 50% of clicks", "hours to 90% of clicks"],
            [.. life.Rows.Select(row => (object?[])[row.Key, row.Label, row.Placements, row.Running, row.Clicks, row.HalfHours, row.MostHours])],
            [.. ReportTable.Asked(question), ("answer", life.Answer)]
        );
    }

    private static string Name(Question question) => question.FileName($"life by {question.By}", "");
}
