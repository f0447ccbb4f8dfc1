using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Answers;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Reports.Files;

/// <summary>GET /reports/breakdown.csv and /reports/breakdown.xlsx: the table of an answer to take away, with every group.</summary>
public static class BreakdownFiles
{
    /// <summary>The columns behind the group's key and label, with what stands in them; the last two only where there is a comparison.</summary>
    private static readonly (string Name, Func<BreakdownRow, object?> Of)[] Figures =
    [
        ("clicks", r => r.Count.Clicks),
        ("visitors", r => r.Count.Visitors),
        ("share", r => r.Share),
        ("share at least", r => r.ExpectedShare?.Low),
        ("share at most", r => r.ExpectedShare?.High),
        ("clicks at least", r => r.Expected?.Low),
        ("clicks at most", r => r.Expected?.High),
        ("posts", r => r.Count.Posts),
        ("clicks per post", r => r.Count.ClicksPerPost),
        ("clicks per post at least", r => r.ExpectedPerPost?.Low),
        ("clicks per post at most", r => r.ExpectedPerPost?.High),
        ("placements", r => r.Count.Placements),
        ("clicks per placement", r => r.ClicksPerPlacement),
        ("clicks per placement and day", r => r.ClicksPerPlacementDay),
        ("clicks before", r => r.Count.PreviousClicks),
        ("clicks compared with previous period", r => r.Change + 1),
    ];

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/reports/breakdown.csv", Csv).ForViewers().WithSummary("Clicks by one dimension, as a CSV file");
        api.MapGet("/reports/breakdown.xlsx", Workbook).ForViewers().WithSummary("Clicks by one dimension, as an Excel workbook");
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
        return BreakdownReport.Read(request, member, clock, errors) is { } question
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
        return BreakdownReport.Read(request, member, clock, errors) is { } question
            ? await (await Table(question, counting, cancel)).Workbook(Name(question), cancel)
            : ApiProblem.Invalid(errors);
    }

    private static async Task<ReportTable> Table(Question question, Counting counting, CancellationToken cancel)
    {
        var (total, breakdown) = await counting.Answer(question, int.MaxValue, cancel);
        var figures = question.Earlier is null ? Figures[..^2] : Figures;
        return new ReportTable(
            [question.By, "name", .. figures.Select(f => f.Name)],
            [.. breakdown.Rows.Select(row => (object?[])[row.Count.Key, row.Count.Label, .. figures.Select(f => f.Of(row))])],
            [
                .. ReportTable.Asked(question),
                ("answer", AnswerSentence.Of(breakdown)),
                ("clicks by people", total.Clicks),
                .. total.Excluded.Select(e => ($"excluded: {e.Key.ToString().ToLowerInvariant()}", (object?)e.Value)),
            ]
        );
    }

    private static string Name(Question question) => question.FileName($"clicks by {question.By}", "");
}
