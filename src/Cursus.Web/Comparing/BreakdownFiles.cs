using System.Globalization;
using Cursus.Core.Comparing;
using Cursus.Web.Access;
using Cursus.Web.Lists;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using MiniExcelLibs;
using MiniExcelLibs.OpenXml;
using NodaTime;

namespace Cursus.Web.Comparing;

/// <summary>GET /reports/breakdown.csv and /reports/breakdown.xlsx: the table of an answer to take away, with every group.</summary>
public static class BreakdownFiles
{
    private const string Xlsx = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    /// <summary>The columns behind the group's key and label, with what stands in them; the last two only where there is a comparison.</summary>
    private static readonly (string Name, Func<BreakdownRow, object?> Of)[] Figures =
    [
        ("clicks", r => r.Count.Clicks),
        ("visitors", r => r.Count.Visitors),
        ("share", r => r.Share),
        ("share at least", r => r.ShareLow),
        ("share at most", r => r.ShareHigh),
        ("at least", r => r.Low),
        ("at most", r => r.High),
        ("placements", r => r.Count.Placements),
        ("clicks a placement", r => r.ClicksPerPlacement),
        ("clicks a placement and day", r => r.ClicksPerPlacementDay),
        ("clicks before", r => r.Count.PreviousClicks),
        ("times the clicks before", r => r.Change + 1),
    ];

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/reports/breakdown.csv", Csv).ForViewers().WithSummary("Clicks by one dimension, as a CSV file");
        api.MapGet("/reports/breakdown.xlsx", Workbook).ForViewers().WithSummary("Clicks by one dimension, as an Excel workbook");
    }

    /// <param name="bom">Whether the file begins with a byte order mark, by which spreadsheets know UTF-8; true where left out.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Csv(
        [AsParameters] BreakdownReport.Asked asked, bool? bom, HttpRequest request, CurrentMember member, Counting counting, IClock clock, CancellationToken cancel)
    {
        var errors = new FieldErrors();
        if (Read(request, asked, member, clock, errors) is not { } question)
        {
            return ApiProblem.Invalid(errors);
        }

        var (_, breakdown) = await counting.Answer(question, int.MaxValue, cancel);
        var figures = FiguresOf(question);
        return CsvFile.Of(
            [
                [question.By, "name", .. figures.Select(f => f.Name)],
                .. breakdown.Rows.Select(row => (string?[])[row.Count.Key, row.Count.Label, .. figures.Select(f => Text(f.Of(row)))]),
            ],
            question.FileName($"clicks by {question.By}", ".csv"),
            bom ?? true);
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Workbook(
        [AsParameters] BreakdownReport.Asked asked, HttpRequest request, CurrentMember member, Counting counting, IClock clock, CancellationToken cancel)
    {
        var errors = new FieldErrors();
        if (Read(request, asked, member, clock, errors) is not { } question)
        {
            return ApiProblem.Invalid(errors);
        }

        var (total, breakdown) = await counting.Answer(question, int.MaxValue, cancel);
        var figures = FiguresOf(question);
        var rows = breakdown.Rows.Select(row =>
        {
            var cells = new Dictionary<string, object?> { [question.By] = row.Count.Key, ["name"] = row.Count.Label };
            Array.ForEach(figures, f => cells[f.Name] = f.Of(row));
            return cells;
        });
        var sheets = new Dictionary<string, object> { ["Figures"] = rows, ["Question"] = About(question, total, breakdown) };
        using var content = new MemoryStream();
        await content.SaveAsAsync(sheets, configuration: new OpenXmlConfiguration { FreezeRowCount = 1, AutoFilter = false }, cancellationToken: cancel);
        return TypedResults.File(content.ToArray(), Xlsx, question.FileName($"clicks by {question.By}", ".xlsx"));
    }

    /// <summary>What was asked and answered, so that the figures can be read without Cursus.</summary>
    private static IEnumerable<Dictionary<string, object?>> About(Question question, Counting.Totals total, Breakdown breakdown)
    {
        yield return Line("compared by", question.By);
        yield return Line("first day", question.Period.From.ToDateTimeUnspecified());
        yield return Line("last day", question.Period.To.ToDateTimeUnspecified());
        yield return Line("time zone", question.Zone.Id);
        if (question.Earlier is { } earlier)
        {
            yield return Line("compared with", $"{earlier}{(question.IsUnfinished ? ", as much of it as has passed of these days" : "")}");
        }

        foreach (var (filter, values) in question.Filters)
        {
            yield return Line(filter, string.Join(", ", values));
        }

        yield return Line("answer", AnswerSentence.Of(breakdown.Rows, question.DaysBegun));
        yield return Line("clicks by people", total.Clicks);
        foreach (var (kind, clicks) in total.Excluded)
        {
            yield return Line($"left out: {kind.ToString().ToLowerInvariant()}", clicks);
        }

        static Dictionary<string, object?> Line(string what, object? value) => new() { ["what"] = what, ["value"] = value };
    }

    private static Question? Read(HttpRequest request, BreakdownReport.Asked asked, CurrentMember member, IClock clock, FieldErrors errors) =>
        Question.Read(request.Query, member, clock.GetCurrentInstant(), errors)?.Bounded(groups: asked.By!);

    private static (string Name, Func<BreakdownRow, object?> Of)[] FiguresOf(Question question) => question.Earlier is null ? Figures[..^2] : Figures;

    private static string? Text(object? figure) => figure is double number
        ? number.ToString("0.####", CultureInfo.InvariantCulture)
        : Convert.ToString(figure, CultureInfo.InvariantCulture);
}
