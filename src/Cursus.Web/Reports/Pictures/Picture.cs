using Cursus.Core;
using Cursus.Web.Drawing;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>A drawing on paper, below the question that it answers: a picture that is passed on must say what it shows.</summary>
/// <param name="Words">The question, with its days.</param>
/// <param name="Width">Of the drawing without its margin.</param>
/// <param name="Height">Of the drawing without its margin.</param>
internal sealed record Picture(string Words, float Width, float Height, Action<Pen> Draw)
{
    public const float UsualWidth = 900;
    public const int UsualScale = 2;
    public const string SvgType = "image/svg+xml";
    public const string PngType = "image/png";

    private const float Margin = 20;
    private const float Head = 22;

    private float PaperWidth => Width + 2 * Margin;

    private float PaperHeight => Height + 2 * Margin + Head;

    /// <summary>What is wrong with how many times as large a picture is wanted; null where nothing is.</summary>
    public static ValidationError? ErrorOf(int? scale) => scale is < 1 or > 4 ? new ValidationError("scale", "Choose a scale from 1 to 4.") : null;

    public byte[] Svg()
    {
        using var stream = new MemoryStream();
        using (var canvas = SKSvgCanvas.Create(SKRect.Create(PaperWidth, PaperHeight), stream))
        {
            DrawOn(new Pen(canvas, Pen.Leaf, isTextDrawn: true));
        }

        return stream.ToArray();
    }

    /// <param name="scale">How many times as large as the vector picture.</param>
    public byte[] Png(int scale)
    {
        using var surface = SKSurface.Create(new SKImageInfo((int)Math.Ceiling(scale * PaperWidth), (int)Math.Ceiling(scale * PaperHeight)));
        surface.Canvas.Scale(scale);
        DrawOn(new Pen(surface.Canvas, Pen.Leaf));
        using var image = surface.Snapshot();
        using var data = image.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }

    private void DrawOn(Pen pen)
    {
        pen.Canvas.Clear(pen.Paper);
        pen.Canvas.Translate(Margin, Margin);
        pen.Text(Words, 0, 10, 10, Pen.Dimmed, most: Width);
        pen.Canvas.Translate(0, Head);
        Draw(pen);
    }
}
