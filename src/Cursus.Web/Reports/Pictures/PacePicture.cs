using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Web.Drawing;
using Cursus.Web.Reports.Answers;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>Each placement of a post on the band in which the middle half of the last placements of its channel ran, with their middle
/// dashed.</summary>
internal static class PacePicture
{
    private const float Head = 24;
    private const float Row = 64;
    private const float CourseHeight = 52;
    private const float Figure = 110;
    private const float Left = Picture.UsualWidth * 0.22f;
    private const float Right = Picture.UsualWidth - 3 * Figure - 10;

    // What is usual is drawn as far beyond the placement's own age as half of it.
    private const double Beyond = 1.5;

    private static readonly SKColor Usual = Pen.Dimmed.WithAlpha(50);

    private static readonly (string Name, Func<PaceReport.PlacementPace, string> Of)[] Figures =
    [
        ("Since publishing", p => LifeSentence.Duration(p.Hours)),
        ("Clicks so far", p => CountWords.Number(p.Clicks)),
        ("Ahead of", p => p.Others == 0 ? "no earlier posts" : $"{p.Ahead} of the last {p.Others}"),
    ];

    /// <param name="colors">By key of the channel.</param>
    public static Picture Of(PaceReport.Response pace, string words, IReadOnlyDictionary<string, SKColor> colors)
    {
        var begun = pace.Placements.Where(p => p.Hours > 0).ToList();
        return new Picture(words, Picture.UsualWidth, Head + Row * Math.Max(1, begun.Count), pen => Draw(pen, begun, colors));
    }

    private static void Draw(Pen pen, List<PaceReport.PlacementPace> placements, IReadOnlyDictionary<string, SKColor> colors)
    {
        DrawLegend(pen);
        foreach (var (i, (name, _)) in Figures.Index())
        {
            pen.Text(name, FigureAt(i), 14, 9, Pen.Dimmed, align: Align.Right);
        }

        foreach (var (i, placement) in placements.Index())
        {
            var top = Head + Row * i;
            pen.Line(0, top, Picture.UsualWidth, top, Pen.Hair, 0.7f);
            pen.Text(placement.Label, 0, top + Row / 2 + 4, 11, most: Left - 14);
            DrawCourse(pen, placement, top + (Row - CourseHeight) / 2, colors.GetValueOrDefault(placement.Channel, Pen.Plum));
            foreach (var (figure, (_, of)) in Figures.Index())
            {
                pen.Text(of(placement), FigureAt(figure), top + Row / 2 + 4, 10, align: Align.Right);
            }
        }

        if (placements.Count == 0)
        {
            pen.Text("Nothing has been published for an hour yet.", 0, Head + 17, 10, Pen.Dimmed);
        }
    }

    private static void DrawLegend(Pen pen)
    {
        pen.Line(Left, 11, Left + 18, 11, Pen.Ink, 2);
        pen.Text("this one", Left + 24, 14, 9, Pen.Dimmed);
        pen.Bar(Left + 74, 5, 18, 11, Usual);
        pen.DashedLine([new(Left + 74, 11), new(Left + 92, 11)], Pen.Dimmed);
        pen.Text("shaded: the middle half of recent posts; line: their median", Left + 98, 14, 9, Pen.Dimmed);
    }

    private static void DrawCourse(Pen pen, PaceReport.PlacementPace placement, float top, SKColor color)
    {
        var last = placement.Course[^1];
        var usual = placement.Usual.Where(u => u.Hours <= last.Hours * Beyond).ToList();
        var hours = Math.Max(last.Hours, usual.Count > 0 ? usual[^1].Hours : 0);
        var most = Math.Max(1, usual.Select(u => u.High).Append(last.Clicks).Max());
        if (usual.Count > 0)
        {
            pen.Area([.. Line(usual.Select(u => (u.Hours, u.High))), .. Line(usual.Select(u => (u.Hours, u.Low))).Reverse()], Usual);
            pen.DashedLine([.. Line(usual.Select(u => (u.Hours, u.Middle)))], Pen.Dimmed);
        }

        pen.Line([.. Line(placement.Course.Select(c => (c.Hours, (double)c.Clicks)))], color, 2);

        IEnumerable<SKPoint> Line(IEnumerable<(int Hours, double Clicks)> points) =>
            points
                .Prepend((0, 0))
                .Select(p => new SKPoint(Left + (Right - Left) * p.Item1 / hours, top + CourseHeight * (float)(1 - p.Item2 / most)));
    }

    private static float FigureAt(int figure) => Picture.UsualWidth - Figure * (Figures.Length - 1 - figure);
}
