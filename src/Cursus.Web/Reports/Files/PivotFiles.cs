using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Answers;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Reports.Files;

/// <summary>GET /reports/pivot.csv and /reports/pivot.xlsx: clicks by two dimensions to take away, as the screen shows them.</summary>
public static class PivotFiles
{
    private const string Sum = "all";

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/reports/pivot.csv", Csv).ForViewers().WithSummary("Clicks by two dimensions, as a CSV file");
        api.MapGet("/reports/pivot.xlsx", Workbook).ForViewers().WithSummary("Clicks by two dimensions, as an Excel workbook");
    }

    /// <param name="bom">Whether the file starts with a byte order mark, by which spreadsheets recognise UTF-8; true if omitted.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Csv(
        AskedQuestion asked,
        string? across,
        bool? bom,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        var errors = new FieldErrors();
        return PivotReport.Read(asked, across, request, member, clock, errors) is { } question
            ? (await Table(question, across!, counting, cancel)).Csv(Name(question, across!), bom ?? true)
            : ApiProblem.Invalid(errors);
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Workbook(
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
        return PivotReport.Read(asked, across, request, member, clock, errors) is { } question
            ? await (await Table(question, across!, counting, cancel)).Workbook(Name(question, across!), cancel)
            : ApiProblem.Invalid(errors);
    }

    private static async Task<ReportTable> Table(Question question, string across, Counting counting, CancellationToken cancel)
    {
        var pivot = await PivotReport.Answer(question, across, counting, cancel);
        return new ReportTable(
            [.. Headings([question.By, "name"], pivot.Columns), Sum],
            [
                .. pivot.Rows.Select(
                    (row, place) => (object?[])[row.Key, row.Label, .. pivot.Cells[place].Select(clicks => (object?)clicks), row.Clicks]
                ),
            ],
            [.. ReportTable.Asked(question), ("set against", across), ("clicks by people", pivot.Total)]
        );
    }

    /// <summary>Columns by their names; two things of one name, such as posts, are told apart by their keys.</summary>
    private static IEnumerable<string> Headings(string[] first, IReadOnlyList<PivotReport.PivotGroup> columns)
    {
        var taken = columns.CountBy(c => c.Label).Where(c => c.Value > 1).Select(c => c.Key).Concat(first).Append(Sum).ToHashSet();
        return first.Concat(columns.Select(c => taken.Contains(c.Label) ? $"{c.Label} ({c.Key})" : c.Label));
    }

    private static string Name(Question question, string across) => question.FileName($"clicks by {question.By} and {across}", "");
}
