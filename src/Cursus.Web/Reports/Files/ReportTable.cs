using System.Globalization;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Lists;
using Microsoft.AspNetCore.Http.HttpResults;
using MiniExcelLibs;
using MiniExcelLibs.OpenXml;

namespace Cursus.Web.Reports.Files;

/// <summary>The table of an answer to take away, as a CSV file or as an Excel workbook in which numbers are numbers and days are days.</summary>
/// <param name="Columns">Each once.</param>
/// <param name="Rows">As many values as there are columns.</param>
/// <param name="About">What was asked and answered, so that the figures can be read without Cursus; a sheet of the workbook.</param>
internal sealed record ReportTable(
    IReadOnlyList<string> Columns,
    IReadOnlyList<IReadOnlyList<object?>> Rows,
    IReadOnlyList<(string What, object? Value)> About
)
{
    private const string Xlsx = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet";

    /// <param name="hasByteOrderMark">Whether the file starts with a byte order mark, by which spreadsheets recognise UTF-8.</param>
    public FileContentHttpResult Csv(string name, bool hasByteOrderMark) =>
        CsvFile.Of(
            [
                [.. Columns],
                .. Rows.Select(row => row.Select(Text).ToArray()),
            ],
            name + ".csv",
            hasByteOrderMark
        );

    public async Task<FileContentHttpResult> Workbook(string name, CancellationToken cancel)
    {
        var rows = Rows.Select(row => Columns.Zip(row).ToDictionary(cell => cell.First, cell => cell.Second));
        var about = About.Select(line => new Dictionary<string, object?> { ["what"] = line.What, ["value"] = line.Value });
        using var content = new MemoryStream();
        await content.SaveAsAsync(
            new Dictionary<string, object> { ["Figures"] = rows, ["Question"] = about },
            configuration: new OpenXmlConfiguration { FreezeRowCount = 1, AutoFilter = false },
            cancellationToken: cancel
        );
        return TypedResults.File(content.ToArray(), Xlsx, name + ".xlsx");
    }

    /// <summary>What every table says of its question.</summary>
    public static IEnumerable<(string What, object? Value)> Asked(Question question)
    {
        yield return ("compared by", question.By);
        yield return ("first day", question.Period.From.ToDateTimeUnspecified());
        yield return ("last day", question.Period.To.ToDateTimeUnspecified());
        yield return ("time zone", question.Zone.Id);
        if (question.Earlier is { } earlier)
        {
            yield return ("compared with", $"{earlier}{(question.IsUnfinished ? ", as much of it as has passed of these days" : "")}");
        }

        foreach (var (filter, values) in question.Filters)
        {
            yield return (filter, string.Join(", ", values));
        }
    }

    private static string? Text(object? figure) =>
        figure is double number ? number.ToString("0.####", CultureInfo.InvariantCulture) : Convert.ToString(figure, CultureInfo.InvariantCulture);
}
