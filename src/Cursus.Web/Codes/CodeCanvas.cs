using Cursus.Core.Codes;
using Cursus.Web.Drawing;
using SkiaSharp;

namespace Cursus.Web.Codes;

/// <summary>Draws codes on a picture or a page, the same shapes as in their SVG.</summary>
internal static class CodeCanvas
{
    /// <summary>Draws a code with its upper left corner at the canvas's origin.</summary>
    /// <param name="scale">Dots to a module.</param>
    public static void Draw(SKCanvas canvas, CodeDrawing drawing, LogoArt? logo, float scale)
    {
        canvas.Save();
        canvas.Scale(scale);
        foreach (var layer in drawing.Layers)
        {
            using var paint = PaintOf(layer.Fill);
            Fill(canvas, layer.Path, SKPathFillType.EvenOdd, paint);
        }

        if (drawing.Logo is { } box && logo is not null)
        {
            Draw(canvas, box, logo);
        }

        if (drawing.Caption is { } caption)
        {
            using var paint = new SKPaint { Color = SKColor.Parse(caption.Color), IsAntialias = true };
            Fill(canvas, Outline(caption), SKPathFillType.Winding, paint);
        }

        canvas.Restore();
    }

    /// <summary>The frame's words as path data, so that they look the same without the font.</summary>
    public static string Outline(CodeCaption caption)
    {
        using var asked = Lettering.Of(caption.Text, (float)caption.Size, isBold: true);
        var size = (float)(caption.Size * Math.Min(1, caption.Most / Math.Max(1, asked.Width)));
        using var words = Lettering.Of(caption.Text, size, isBold: true);
        using var path = words.Outline((float)caption.Centre - words.Width / 2, (float)caption.Middle + size * 0.35f);
        return path.ToSvgPathData();
    }

    private static void Draw(SKCanvas canvas, LogoBox box, LogoArt logo)
    {
        var place = SKRect.Create((float)box.X, (float)box.Y, (float)box.Width, (float)box.Height);
        if (logo.Png is { } png)
        {
            using var image = SKImage.FromEncodedData(png);
            canvas.DrawImage(image, place, new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear));
            return;
        }

        canvas.Save();
        canvas.Translate(place.Left, place.Top);
        canvas.Scale(place.Width / (float)logo.Width);
        foreach (var shape in logo.Shapes)
        {
            using var paint = new SKPaint { Color = SKColor.Parse(shape.Color), IsAntialias = true };
            Fill(canvas, shape.Path, SKPathFillType.Winding, paint);
        }

        canvas.Restore();
    }

    private static void Fill(SKCanvas canvas, string data, SKPathFillType fill, SKPaint paint)
    {
        using var path = SKPath.ParseSvgPathData(data);
        path.FillType = fill;
        canvas.DrawPath(path, paint);
    }

    private static SKPaint PaintOf(CodeFill fill)
    {
        var paint = new SKPaint { Color = SKColor.Parse(fill.Color), IsAntialias = true };
        if (fill.Gradient is { } gradient)
        {
            SKColor[] colors = [SKColor.Parse(fill.Color), SKColor.Parse(gradient.To)];
            var (x, y, side) = ((float)fill.X, (float)fill.Y, (float)fill.Side);
            paint.Shader =
                gradient.Course == GradientCourse.Outward
                    ? SKShader.CreateRadialGradient(
                        new SKPoint(x + side / 2, y + side / 2),
                        side * (float)CodeGradients.OutwardReach,
                        colors,
                        SKShaderTileMode.Clamp
                    )
                    : SKShader.CreateLinearGradient(
                        new SKPoint(x, y),
                        new SKPoint(gradient.Course == GradientCourse.Across ? x + side : x, gradient.Course == GradientCourse.Down ? y + side : y),
                        colors,
                        SKShaderTileMode.Clamp
                    );
        }

        return paint;
    }
}
