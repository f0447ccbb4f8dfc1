using System.Globalization;
using Cursus.Core;
using Cursus.Web.Drawing;
using Cursus.Web.Reports.Answers;
using NodaTime;
using NodaTime.Text;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>An answer on one page to be handed round: title, question, answer, lanes, course, table, and what was left out.</summary>
internal static class ReportPage
{
    // A4 upright, in points.
    private const float Width = 595;
    private const float Height = 842;
    private const float Margin = 40;
    private const float Foot = Height - 28;
    private const int MostRows = 12;
    private const float RowHeight = 15;
    private const float HeadHeight = 14;

    private static readonly LocalDatePattern Day = LocalDatePattern.Create("d MMM uuuu", CultureInfo.GetCultureInfo("en-GB"));

    /// <param name="title">What stands on top.</param>
    /// <param name="question">The question in words.</param>
    public static void Write(
        Stream stream,
        string title,
        string question,
        string workspace,
        BreakdownReport.Response answer,
        SeriesReport.Response course,
        IReadOnlyDictionary<string, SKColor> colors,
        Instant now
    )
    {
        using var document = SKDocument.CreatePdf(
            stream,
            new SKDocumentPdfMetadata
            {
                Title = title,
                Creator = "Cursus",
                Creation = now.ToDateTimeUtc(),
                Modified = now.ToDateTimeUtc(),
            }
        );
        var pen = new Pen(document.BeginPage(Width, Height), SKColors.White);
        const float inner = Width - 2 * Margin;
        pen.Text(workspace, Margin, 48, 10, Pen.Dimmed);
        var y = pen.Paragraph(title, Margin, 74, inner, 20, isBold: true);
        y = pen.Paragraph(question, Margin, y + 20, inner, 10.5f, Pen.Dimmed);
        y = pen.Paragraph(answer.Answer, Margin, y + 22, inner, 13, isBold: true);
        y = pen.Paragraph(LeftOut(answer), Margin, y + 16, inner, 8.5f, Pen.Dimmed) + 12;
        y += Placed(pen, y, 0.78f, LanesPicture.HeightOf(answer), width => LanesPicture.Draw(pen, answer, colors, width));
        y += Placed(pen, y, 0.84f, CoursePicture.Height, width => CoursePicture.Draw(pen, answer, course, colors, width));
        Placed(pen, y, 1, 0, width => Table(pen, answer, width, RowsFor(Foot - 16 - y)));
        pen.Text(
            $"Clicks by people, in days of {answer.TimeZone}. Created by Cursus on {Day.Format(now.InZone(DateTimeZoneProviders.Tzdb[answer.TimeZone]).Date)}.",
            Margin,
            Foot,
            8,
            Pen.Dimmed
        );
        document.EndPage();
        document.Close();
    }

    /// <summary>Period and what was left out, by reason.</summary>
    public static string LeftOut(BreakdownReport.Response answer)
    {
        var left = answer.Excluded;
        string[] reasons =
        [
            .. new (long Clicks, string What)[]
            {
                (left.Machines, "bots"),
                (left.Impostors, "posing as browsers"),
                (left.Sweeps, "too fast for a person"),
                (left.Probes + left.Heads, "headers-only requests"),
                (left.Echoes, "straight after a team visit"),
                (left.Previews, "link previews"),
                (left.Team, "of the team"),
                (left.Prefetches, "prefetches"),
                (left.Repeats, "repeats"),
            }
                .Where(r => r.Clicks > 0)
                .Select(r => $"{CountWords.Number(r.Clicks)} {r.What}"),
        ];
        var before = answer.Before is { } b
            ? $", against {Day.Format(b.From)} to {Day.Format(b.To)}{(answer.IsUnfinished ? ", as much of it as has passed" : "")}"
            : "";
        return $"{Day.Format(answer.From)} to {Day.Format(answer.To)}, {answer.TimeZone}{before} · {CountWords.Number(answer.Total.Clicks)} clicks · {(reasons.Length == 0 ? "nothing excluded" : $"excluded: {string.Join(", ", reasons)}")}";
    }

    /// <summary>Draws something over the page's width, smaller by <paramref name="scale"/> so that all fits on one page; returns the room that it
    /// took.</summary>
    private static float Placed(Pen pen, float y, float scale, float height, Action<float> draw)
    {
        pen.Canvas.Save();
        pen.Canvas.Translate(Margin, y);
        pen.Canvas.Scale(scale);
        draw((Width - 2 * Margin) / scale);
        pen.Canvas.Restore();
        return scale * height + 14;
    }

    /// <summary>How many rows of the table there is room for, with the line that sums up the others.</summary>
    private static int RowsFor(float room) => Math.Clamp((int)((room - HeadHeight) / RowHeight) - 1, 0, MostRows);

    private static void Table(Pen pen, BreakdownReport.Response answer, float width, int most)
    {
        (string Name, Func<BreakdownReport.Row, string> Of)[] columns =
        [
            ("Clicks", r => CountWords.Number(r.Clicks)),
            ("Visitors", r => r.Visitors is { } visitors ? CountWords.Number(visitors) : "–"),
            ("At least", r => r.Low is { } low ? CountWords.Number((long)Math.Round(low)) : "–"),
            ("At most", r => r.High is { } high ? CountWords.Number((long)Math.Round(high)) : "–"),
            ("Placements", r => r.Placements == 0 ? "–" : CountWords.Number(r.Placements)),
            ("Per post", r => r.ClicksPerPost is { } each ? CountWords.Number(each, "0.#") : "–"),
            ("Before", r => r.PreviousClicks is { } before ? CountWords.Number(before) : "–"),
        ];
        float X(int column) => width * (0.34f + 0.11f * column);
        for (var column = 0; column < columns.Length; column++)
        {
            pen.Text(columns[column].Name, X(column), 8, 8.5f, Pen.Dimmed, align: Align.Right);
        }

        foreach (var (i, row) in answer.Rows.Take(most).Index())
        {
            var y = HeadHeight + RowHeight * i;
            pen.Line(0, y, width, y, Pen.Hair, 0.6f);
            pen.Text(row.Label, 0, y + 11, 9, most: width * 0.25f);
            for (var column = 0; column < columns.Length; column++)
            {
                pen.Text(columns[column].Of(row), X(column), y + 11, 9, align: Align.Right);
            }
        }

        var (groups, clicks) = answer.Behind(most);
        if (clicks > 0)
        {
            pen.Text($"and {CountWords.Number(groups)} more with {CountWords.Clicks(clicks)}", 0, HeadHeight + RowHeight * most + 11, 9, Pen.Dimmed);
        }
    }
}
