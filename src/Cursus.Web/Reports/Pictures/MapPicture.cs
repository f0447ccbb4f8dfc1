using Cursus.Core;
using Cursus.Web.Drawing;
using Cursus.Web.Reports.Answers;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>Countries, the stronger in colour the more clicks came from them; what is too small for the map is named below it.</summary>
internal static class MapPicture
{
    private const float Foot = 34;
    private const int MostNamed = 8;

    /// <param name="answer">By country, with all of them.</param>
    public static Picture Of(BreakdownReport.Response answer, string words)
    {
        var scale = Picture.UsualWidth / CountryShapes.World.Width;
        return new Picture(words, Picture.UsualWidth, scale * CountryShapes.World.Height + Foot, pen => Draw(pen, answer, scale));
    }

    private static void Draw(Pen pen, BreakdownReport.Response answer, float scale)
    {
        var clicks = answer.Rows.Where(r => r.Clicks > 0).ToDictionary(r => r.Key);
        var most = clicks.Values.Select(r => r.Clicks).DefaultIfEmpty().Max();
        using var fill = new SKPaint { IsAntialias = true };
        using var border = new SKPaint
        {
            IsAntialias = true,
            Style = SKPaintStyle.Stroke,
            Color = pen.Paper,
            StrokeWidth = 0.5f,
        };
        pen.Canvas.Save();
        pen.Canvas.Scale(scale);
        foreach (var (code, path) in CountryShapes.World.Lands)
        {
            fill.Color = clicks.GetValueOrDefault(code) is { } row ? Shade.OfCountry(row.Clicks, most) : Pen.Hair;
            pen.Canvas.DrawPath(path, fill);
            pen.Canvas.DrawPath(path, border);
        }

        pen.Canvas.Restore();
        pen.Text(
            Legend([.. clicks.Values.ExceptBy(CountryShapes.World.Lands.Select(l => l.Code), r => r.Key).OrderByDescending(r => r.Clicks)]),
            0,
            scale * CountryShapes.World.Height + 24,
            10,
            Pen.Dimmed,
            most: Picture.UsualWidth
        );
    }

    private static string Legend(List<BreakdownReport.Row> elsewhere)
    {
        IEnumerable<string> named = elsewhere.Take(MostNamed).Select(r => $"{r.Label} {CountWords.Number(r.Clicks)}");
        return "The stronger the colour, the more clicks."
            + (
                elsewhere.Count == 0
                    ? ""
                    : $" Not on the map: {string.Join(", ", elsewhere.Count > MostNamed ? [.. named, $"{elsewhere.Count - MostNamed} more"] : named)}."
            );
    }
}
