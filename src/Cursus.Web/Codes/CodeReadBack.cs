using Cursus.Core.Codes;
using SkiaSharp;

namespace Cursus.Web.Codes;

/// <summary>Damage to a code on its way from the screen to a phone.</summary>
public enum Disturbance
{
    /// <summary>Drawn only 128 dots wide, as all others are too.</summary>
    Small,
    Blur,

    /// <summary>By 15 degrees.</summary>
    Turned,

    /// <summary>JPEG at quality 50.</summary>
    Jpeg,

    /// <summary>Without colours, black not quite black and white not quite white.</summary>
    GreyPrint,
}

/// <summary>Draws a code, disturbs the picture, and reads every module at its known place.</summary>
internal static class CodeReadBack
{
    /// <summary>The smallest width that a code has to be read at, in dots with its quiet zone.</summary>
    public const int Width = 128;

    private const int Paper = 192;
    private const float BlurSigma = 0.6f;

    /// <summary>Light between ink and paper of a poor grey print.</summary>
    private const float GreyBlack = 0.1f;
    private const float GreyWhite = 0.95f;

    /// <summary>What is left of the code's strength after each kind of damage.</summary>
    public static IReadOnlyList<(Disturbance Disturbance, ReadMargin Margin)> Run(FinishedCode code) =>
        [.. Enum.GetValues<Disturbance>().Select(d => (d, Read(code, d)))];

    /// <summary>The disturbed picture, and where its modules are.</summary>
    /// <param name="width">Of the code in dots.</param>
    public static (SKBitmap Picture, SKMatrix ToPicture) Disturb(FinishedCode code, Disturbance disturbance, int width = Width)
    {
        // The frame stands outside the quiet zone and doesn't matter to readers.
        var drawing = code.Draw() is { Caption: null } plain ? plain : CodeDrawing.Of(code.Symbol, code.Style with { Frame = null }, code.LogoAspect);
        var scale = (float)(width / drawing.Width);
        var paper = width * Paper / Width;
        var edge = (paper - width) / 2f;
        var onPaper = SKMatrix.CreateTranslation(edge, edge);
        if (disturbance == Disturbance.Turned)
        {
            // As a camera sees it: the print is turned, not a picture of it.
            onPaper = SKMatrix.CreateRotationDegrees(15, paper / 2f, paper / 2f).PreConcat(onPaper);
        }

        var laid = new SKBitmap(paper, paper);
        using (var canvas = new SKCanvas(laid))
        using (var blur = SKImageFilter.CreateBlur(BlurSigma * width / Width, BlurSigma * width / Width))
        using (var grey = Grey())
        using (
            var paint = new SKPaint
            {
                ImageFilter = disturbance == Disturbance.Blur ? blur : null,
                ColorFilter = disturbance == Disturbance.GreyPrint ? grey : null,
            }
        )
        {
            canvas.SaveLayer(paint);
            canvas.Clear(SKColors.White);
            canvas.SetMatrix(onPaper);
            CodeCanvas.Draw(canvas, drawing, code.Logo, scale);
            canvas.Restore();
        }

        var toPicture = onPaper
            .PreConcat(SKMatrix.CreateScale(scale, scale))
            .PreConcat(SKMatrix.CreateTranslation((float)drawing.CodeAt.X, (float)drawing.CodeAt.Y));
        return (disturbance == Disturbance.Jpeg ? Jpeg(laid) : laid, toPicture);
    }

    private static ReadMargin Read(FinishedCode code, Disturbance disturbance)
    {
        var (picture, toPicture) = Disturb(code, disturbance);
        using (picture)
        {
            var side = code.Symbol.Side;
            var light = new float[side, side];
            for (var row = 0; row < side; row++)
            {
                for (var column = 0; column < side; column++)
                {
                    light[row, column] = LightAt(picture, toPicture, row, column);
                }
            }

            var threshold = Threshold(light);
            return ReadMargin.Of(code.Symbol, (row, column) => light[row, column] < threshold);
        }
    }

    /// <summary>The light of a module's middle part.</summary>
    private static float LightAt(SKBitmap picture, SKMatrix toPicture, int row, int column)
    {
        var sum = 0f;
        foreach (var (x, y) in (ReadOnlySpan<(float, float)>)[(0.5f, 0.5f), (0.3f, 0.5f), (0.7f, 0.5f), (0.5f, 0.3f), (0.5f, 0.7f)])
        {
            var at = toPicture.MapPoint(column + x, row + y);
            sum += Luma(picture.GetPixel((int)at.X, (int)at.Y));
        }

        return sum / 5;
    }

    /// <summary>What readers go by: the weighted sum of the coded parts (ITU-R BT.601).</summary>
    private static float Luma(SKColor color) => 0.299f * color.Red + 0.587f * color.Green + 0.114f * color.Blue;

    /// <summary>The value that parts light and dark best (Otsu 1979): the two groups differ most.</summary>
    private static float Threshold(float[,] light)
    {
        var values = light.Cast<float>().Order().ToArray();
        var (total, below, best, threshold) = (values.Sum(), 0f, -1f, 128f);
        for (var i = 1; i < values.Length; i++)
        {
            below += values[i - 1];
            var (dark, bright) = (below / i, (total - below) / (values.Length - i));
            var between = (float)i * (values.Length - i) * (bright - dark) * (bright - dark);
            if (between > best)
            {
                (best, threshold) = (between, (values[i - 1] + values[i]) / 2);
            }
        }

        return threshold;
    }

    private static SKBitmap Jpeg(SKBitmap picture)
    {
        using (picture)
        {
            using var data = picture.Encode(SKEncodedImageFormat.Jpeg, 50);
            return SKBitmap.Decode(data);
        }
    }

    private static SKColorFilter Grey()
    {
        const float range = GreyWhite - GreyBlack;
        float[] row = [0.299f * range, 0.587f * range, 0.114f * range, 0, GreyBlack];
        return SKColorFilter.CreateColorMatrix([.. row, .. row, .. row, 0, 0, 0, 1, 0]);
    }
}
