using Cursus.Core.Batches;
using Cursus.Core.Links;
using Cursus.Web.Hosting;
using Cursus.Web.Lists;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Batches;

/// <summary>The lines of a list with what becomes of each, as CSV: the same before its links are made and afterwards.</summary>
internal static class LinesFile
{
    private static readonly string[] Columns =
    [
        "line",
        "short address",
        "outcome",
        "remark",
        "leads to",
        "destination",
        "title",
        "channel",
        "campaign",
        "source",
        "medium",
        "term",
        "content",
        "folder",
        "made on",
        "opens",
        "ends",
        "clicks brought along",
    ];

    /// <summary>One line, with what is known of its link.</summary>
    public sealed record Line(
        int Number,
        LineOutcome Outcome,
        string? Remark,
        string? ShortUrl,
        string? FinalUrl,
        string? Destination,
        string? Title,
        string? Channel,
        string? Campaign,
        string? Source,
        string? Medium,
        string? Term,
        string? Content,
        string? Folder,
        Instant? CreatedAt,
        LinkSchedule Schedule,
        long? ImportedClicks
    );

    /// <summary>What would become of the lines.</summary>
    public static FileContentHttpResult Of(BatchPlan plan, CursusOptions options, DateTimeZone zone, string list)
    {
        var made = plan.Links.Select(l => new Line(
            l.Line,
            l.Outcome,
            l.Remark,
            l.ShortUrl(options),
            l.FinalUrl,
            l.Link.Destination.AsEntered,
            l.Link.Title,
            l.Link.Channel?.Key,
            l.Link.Campaign?.Key,
            l.Link.Utm?.Source.Text,
            l.Link.Utm?.Medium.Text,
            l.Link.Utm?.Term?.Text,
            l.Link.Utm?.Content?.Text,
            l.Link.Settings.Folder?.Name,
            l.Past.CreatedAt,
            l.Link.Settings.Schedule,
            l.Past.ImportedClicks
        ));
        var leftOut = plan.LeftOut.Select(l => LeftOut(l.Line, l.Outcome, l.Remark, l.Address));
        return File([.. made.Concat(leftOut).OrderBy(l => l.Number)], zone, list, "report");
    }

    /// <summary>What has become of the lines, in their order.</summary>
    public static FileContentHttpResult File(IReadOnlyList<Line> lines, DateTimeZone zone, string list, string what) =>
        CsvFile.Of([Columns, .. lines.Select(l => Cells(l, zone))], $"{Path.GetFileNameWithoutExtension(list)} {what}.csv");

    /// <summary>A line that nothing is made of.</summary>
    public static Line LeftOut(int number, LineOutcome outcome, string? remark, string? address) =>
        new(number, outcome, remark, null, null, address, null, null, null, null, null, null, null, null, null, LinkSchedule.Always, null);

    private static string?[] Cells(Line line, DateTimeZone zone) =>
        [
            CsvFile.Text(line.Number),
            line.ShortUrl,
            ApiNames.Of(line.Outcome),
            line.Remark,
            line.FinalUrl,
            line.Destination,
            line.Title,
            line.Channel,
            line.Campaign,
            line.Source,
            line.Medium,
            line.Term,
            line.Content,
            line.Folder,
            Time(line.CreatedAt, zone),
            Time(line.Schedule.OpensAt, zone),
            Time(line.Schedule.EndsAt, zone),
            line.ImportedClicks is { } clicks ? CsvFile.Text(clicks) : null,
        ];

    private static string? Time(Instant? at, DateTimeZone zone) => at is { } time ? CsvFile.Time(time, zone) : null;
}
