using Cursus.Core;
using Cursus.Web.Drawing;
using Cursus.Web.Reports.Answers;
using NodaTime.Text;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>The leading groups over time, with the days on which posts went out.</summary>
internal static class CoursePicture
{
    public const float Height = 190;

    private const int Lines = 6;
    private const float Top = 8;
    private const float Bottom = Height - 44;
    private const float Left = 40;

    private static readonly LocalDatePattern Day = LocalDatePattern.CreateWithInvariantCulture("d MMM");
    private static readonly LocalDateTimePattern Hour = LocalDateTimePattern.CreateWithInvariantCulture("uuuu-MM-dd'T'HH:mm");
    private static readonly LocalTimePattern Clock = LocalTimePattern.CreateWithInvariantCulture("HH:mm");

    /// <param name="colors">By key of the group; the colours of channels one by one for others.</param>
    public static void Draw(
        Pen pen,
        BreakdownReport.Response answer,
        SeriesReport.Response course,
        IReadOnlyDictionary<string, SKColor> colors,
        float width
    )
    {
        var shown = answer.Rows.Where(r => r.Clicks > 0).Take(Lines).ToList();
        var points = course.Points;
        var most = Math.Max(1, points.SelectMany(p => shown.Select(s => p.Clicks.GetValueOrDefault(s.Key))).DefaultIfEmpty().Max());
        float X(int step) => Left + (width - Left - 8) * (points.Count < 2 ? 0.5f : (float)step / (points.Count - 1));
        float Y(long clicks) => Bottom - (Bottom - Top) * clicks / most;
        foreach (var part in new[] { 0, 0.5, 1 })
        {
            var clicks = (long)Math.Round(part * most);
            pen.Line(Left, Y(clicks), width, Y(clicks), Pen.Hair, 0.7f);
            pen.Text(CountWords.Number(clicks), Left - 6, Y(clicks) + 3, 8.5f, Pen.Dimmed, align: Align.Right);
        }

        foreach (var step in Marks(course))
        {
            pen.Line(X(step), Top, X(step), Bottom, Pen.Hair, 1.2f);
        }

        for (var step = 0; step < points.Count; step += Math.Max(1, points.Count / 8))
        {
            pen.Text(Begin(points[step].At), X(step), Bottom + 14, 8.5f, Pen.Dimmed, align: Align.Middle);
        }

        var (legend, wide) = (Left, (width - Left) / Lines);
        foreach (var (i, row) in shown.Index())
        {
            var color = colors.GetValueOrDefault(row.Key, Pen.Channels[i]);
            pen.Line([.. points.Select((p, step) => new SKPoint(X(step), Y(p.Clicks.GetValueOrDefault(row.Key))))], color, 1.6f);
            pen.Bar(legend, Height - 18, 10, 10, color);
            pen.Text(row.Label, legend + 14, Height - 9, 9, most: wide - 22);
            legend += wide;
        }
    }

    /// <summary>When a step begins: its day, or its hour.</summary>
    private static string Begin(string at) =>
        Hour.Parse(at) is { Success: true, Value: var hour } ? Clock.Format(hour.TimeOfDay) : Day.Format(LocalDatePattern.Iso.Parse(at).Value);

    /// <summary>The steps in which posts went out; the hours of that are not known.</summary>
    private static IEnumerable<int> Marks(SeriesReport.Response course)
    {
        if (course.Step == "hour")
        {
            return [];
        }

        var begins = course.Points.Select(p => LocalDatePattern.Iso.Parse(p.At).Value).ToList();
        return course.Posts.Select(p => begins.FindLastIndex(b => b <= p.PublishedOn)).Where(step => step >= 0).Distinct();
    }
}
