using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Web.Drawing;
using Cursus.Web.Reports.Answers;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>How long posts live, on a road on which the first day takes as much room as the weeks after it: until half of their clicks, and paler
/// until nine tenths.</summary>
internal static class LifePicture
{
    private const int Most = 20;
    private const int LongestHours = 2160;
    private const float Head = 24;
    private const float Row = 26;
    private const float Figure = 78;
    private const float Left = Picture.UsualWidth * 0.2f;
    private const float Right = Picture.UsualWidth - 4 * Figure - 10;

    private static readonly (int Hours, string Words)[] Marks =
    [
        (1, "1 hour"),
        (6, "6 hours"),
        (24, "1 day"),
        (72, "3 days"),
        (168, "1 week"),
        (720, "1 month"),
        (LongestHours, "3 months"),
    ];

    private static readonly (string Name, Func<LifeReport.Row, string> Of)[] Figures =
    [
        ("Half within", r => r.HalfHours is { } hours ? LifeSentence.Duration(hours) : "too few"),
        ("90% of clicks", r => r.MostHours is { } hours ? LifeSentence.Duration(hours) : "too few"),
        ("Placements", r => CountWords.Number(r.Placements)),
        ("Still running", r => r.Running > 0 ? CountWords.Number(r.Running) : "–"),
    ];

    /// <param name="colors">By key of the group; plum for others.</param>
    public static Picture Of(LifeReport.Response life, string words, IReadOnlyDictionary<string, SKColor> colors)
    {
        var rest = Math.Max(0, life.Rows.Count - Most);
        return new Picture(words, Picture.UsualWidth, Head + Row * (life.Rows.Count - rest) + (rest > 0 ? Row : 0), pen =>
            Draw(pen, life, colors, rest)
        );
    }

    private static void Draw(Pen pen, LifeReport.Response life, IReadOnlyDictionary<string, SKColor> colors, int rest)
    {
        foreach (var (hours, words) in Marks)
        {
            pen.Text(words, X(hours), 14, 8.5f, Pen.Dimmed, align: hours == LongestHours ? Align.Right : Align.Middle);
        }

        foreach (var (i, (name, _)) in Figures.Index())
        {
            pen.Text(name, FigureAt(i), 14, 9, Pen.Dimmed, align: Align.Right);
        }

        foreach (var (i, row) in life.Rows.Take(Most).Index())
        {
            var top = Head + Row * i;
            pen.Line(0, top, Picture.UsualWidth, top, Pen.Hair, 0.7f);
            pen.Text(row.Label, 0, top + 17, 11, most: Left - 10);
            var color = colors.GetValueOrDefault(row.Key, Pen.Plum);
            if (row is { HalfHours: { } half, MostHours: { } most })
            {
                pen.Bar(Left, top + 7, X(most) - Left, 12, color.WithAlpha(90));
                pen.Bar(Left, top + 7, X(half) - Left, 12, color);
            }

            foreach (var (figure, (_, of)) in Figures.Index())
            {
                pen.Text(of(row), FigureAt(figure), top + 17, 10, align: Align.Right);
            }
        }

        if (rest > 0)
        {
            pen.Text($"and {CountWords.Number(rest)} more", 0, Head + Row * Most + 17, 10, Pen.Dimmed);
        }
    }

    private static float X(double hours) => Left + (Right - Left) * (float)Math.Min(1, double.LogP1(hours) / double.LogP1(LongestHours));

    private static float FigureAt(int figure) => Picture.UsualWidth - Figure * (Figures.Length - 1 - figure);
}
