using Cursus.Web.Drawing;
using SkiaSharp;

namespace Cursus.Web.Codes;

/// <summary>Codes as labels on A4 pages, each with two lines of words.</summary>
internal static class LabelSheet
{
    private const float PageWidth = 210;
    private const float PageHeight = 297;
    private const float Margin = 10;
    private const float Gap = 4;
    private const float Words = 10;

    public static byte[] Write(IReadOnlyList<(string Title, string Caption, FinishedCode Code)> labels, int columns, int rows)
    {
        var onPage = columns * rows;
        var (width, height) = ((PageWidth - 2 * Margin) / columns, (PageHeight - 2 * Margin) / rows);
        return CodePictures.Pdf(
            "QR codes",
            PageWidth * CodePictures.PointsPerMm,
            PageHeight * CodePictures.PointsPerMm,
            (labels.Count + onPage - 1) / onPage,
            (canvas, page) =>
            {
                canvas.Scale(CodePictures.PointsPerMm);
                var pen = new Pen(canvas, SKColors.White, isTextDrawn: true);
                foreach (var (i, (title, caption, code)) in labels.Skip(page * onPage).Take(onPage).Index())
                {
                    canvas.Save();
                    canvas.Translate(Margin + i % columns * width, Margin + i / columns * height);
                    Draw(pen, title, caption, code, width - Gap, height - Gap);
                    canvas.Restore();
                }
            }
        );
    }

    private static void Draw(Pen pen, string title, string caption, FinishedCode code, float width, float height)
    {
        var drawing = code.Draw();
        var scale = Math.Min(width / (float)drawing.Width, (height - Words) / (float)drawing.Height);
        pen.Canvas.Save();
        pen.Canvas.Translate((width - scale * (float)drawing.Width) / 2, 0);
        CodeCanvas.Draw(pen.Canvas, drawing, code.Logo, scale);
        pen.Canvas.Restore();
        var below = scale * (float)drawing.Height;
        pen.Text(title, width / 2, below + 4, 3.2f, isBold: true, align: Align.Middle, most: width);
        pen.Text(caption, width / 2, below + 8, 2.8f, Pen.Dimmed, align: Align.Middle, most: width);
    }
}
