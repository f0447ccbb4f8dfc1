using SkiaSharp;

namespace Cursus.Web.Drawing;

internal enum Align
{
    Left,
    Right,
    Middle,
}

/// <summary>Draws lines, bars and words in the look of the application's light scheme, onto a picture or a page alike.</summary>
/// <param name="paper">What it is drawn on.</param>
/// <param name="isTextDrawn">Whether words are drawn as shapes, for readers that don't have the font.</param>
internal sealed class Pen(SKCanvas canvas, SKColor paper, bool isTextDrawn = false)
{
    public static readonly SKColor Ink = SKColor.Parse("#231b22");
    public static readonly SKColor Dimmed = SKColor.Parse("#655a62");
    public static readonly SKColor Hair = SKColor.Parse("#e2dbcf");
    public static readonly SKColor Leaf = SKColor.Parse("#fffdf9");
    public static readonly SKColor Caution = SKColor.Parse("#80590c");
    public static readonly SKColor Plum = SKColor.Parse("#6e2a5b");

    /// <summary>The colours of channels, by their number; those of the application's light scheme.</summary>
    public static readonly IReadOnlyList<SKColor> Channels =
    [
        .. new[] { "#6e2a5b", "#2b757b", "#ad4f28", "#77690d", "#43599a", "#54703a", "#7a5c48", "#8b4d86", "#4f626c", "#9c3653" }.Select(
            SKColor.Parse
        ),
    ];

    public SKCanvas Canvas => canvas;

    public SKColor Paper => paper;

    public void Bar(float x, float y, float width, float height, SKColor color)
    {
        using var paint = new SKPaint { Color = color, IsAntialias = true };
        canvas.DrawRoundRect(x, y, Math.Max(0.5f, width), height, 2, 2, paint);
    }

    public void Line(float fromX, float fromY, float toX, float toY, SKColor color, float width = 1) =>
        Line([new(fromX, fromY), new(toX, toY)], color, width);

    public void Line(IReadOnlyList<SKPoint> points, SKColor color, float width = 1)
    {
        using var paint = new SKPaint
        {
            Color = color,
            IsAntialias = true,
            Style = SKPaintStyle.Stroke,
            StrokeWidth = width,
            StrokeJoin = SKStrokeJoin.Round,
        };
        for (var i = 1; i < points.Count; i++)
        {
            canvas.DrawLine(points[i - 1], points[i], paint);
        }
    }

    /// <summary>A line for what is only held against another.</summary>
    public void DashedLine(IReadOnlyList<SKPoint> points, SKColor color, float width = 1)
    {
        using var dashes = SKPathEffect.CreateDash([3, 3], 0);
        using var paint = new SKPaint
        {
            Color = color,
            IsAntialias = true,
            Style = SKPaintStyle.Stroke,
            StrokeWidth = width,
            PathEffect = dashes,
        };
        using var path = PathOf(points);
        canvas.DrawPath(path, paint);
    }

    /// <summary>Fills what lies between points.</summary>
    public void Area(IReadOnlyList<SKPoint> points, SKColor color)
    {
        using var paint = new SKPaint { Color = color, IsAntialias = true };
        using var path = PathOf(points);
        canvas.DrawPath(path, paint);
    }

    /// <summary>Writes one line of words, shortened where it is longer than <paramref name="most"/>.</summary>
    /// <param name="y">Of the baseline.</param>
    public void Text(
        string text,
        float x,
        float y,
        float size,
        SKColor? color = null,
        bool isBold = false,
        Align align = Align.Left,
        float most = float.MaxValue
    )
    {
        using var words = Lettering.Within(most, text, size, isBold);
        using var paint = new SKPaint { Color = color ?? Ink, IsAntialias = true };
        var left = align switch
        {
            Align.Right => x - words.Width,
            Align.Middle => x - words.Width / 2,
            _ => x,
        };
        if (isTextDrawn)
        {
            using var path = words.Outline(left, y);
            canvas.DrawPath(path, paint);
        }
        else
        {
            words.Draw(canvas, left, y, paint);
        }
    }

    /// <summary>Writes words over as many lines as they need; returns the baseline of the last one.</summary>
    public float Paragraph(string text, float x, float y, float width, float size, SKColor? color = null, bool isBold = false)
    {
        var line = "";
        foreach (var word in text.Split(' '))
        {
            var longer = line.Length == 0 ? word : $"{line} {word}";
            if (line.Length > 0 && WidthOf(longer, size, isBold) > width)
            {
                Text(line, x, y, size, color, isBold);
                (line, y) = (word, y + size * 1.4f);
            }
            else
            {
                line = longer;
            }
        }

        Text(line, x, y, size, color, isBold);
        return y;
    }

    private static float WidthOf(string text, float size, bool isBold)
    {
        using var words = Lettering.Of(text, size, isBold);
        return words.Width;
    }

    private static SKPath PathOf(IReadOnlyList<SKPoint> points)
    {
        using var builder = new SKPathBuilder();
        builder.AddPoly([.. points], close: false);
        return builder.Detach();
    }
}
