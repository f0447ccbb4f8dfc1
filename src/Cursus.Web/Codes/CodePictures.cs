using System.Buffers.Binary;
using System.IO.Hashing;
using System.Text;
using Cursus.Core.Codes;
using SkiaSharp;

namespace Cursus.Web.Codes;

/// <summary>Writes codes as files. The same code makes the same bytes.</summary>
internal static class CodePictures
{
    /// <summary>The largest picture, in dots on its longer side.</summary>
    public const int MostPixels = 4096;

    public const float PointsPerMm = 72 / 25.4f;

    // PNG begins with eight bytes of signature; the first chunk is always IHDR: length, name, 13 bytes, checksum (PNG, third edition, section 5.6).
    private const int AfterHead = 8 + 4 + 4 + 13 + 4;

    /// <summary>A moment that stands in for the present, so that files don't change from one day to the next.</summary>
    private static readonly DateTime Undated = new(2000, 1, 1, 0, 0, 0, DateTimeKind.Utc);

    public static byte[] Svg(FinishedCode code, double width)
    {
        var drawing = code.Draw();
        return Encoding.UTF8.GetBytes(
            CodeSvg.Write(drawing, code.Address, width, code.Logo, drawing.Caption is { } caption ? CodeCanvas.Outline(caption) : null)
        );
    }

    /// <param name="width">In dots.</param>
    /// <param name="widthMm">The width that it is to be printed at; the picture says how many dots that makes to a metre.</param>
    public static byte[] Png(FinishedCode code, int width, double widthMm)
    {
        var drawing = code.Draw();
        using var surface = SKSurface.Create(new SKImageInfo(width, HeightOf(drawing, width), SKColorType.Rgba8888, SKAlphaType.Premul));
        surface.Canvas.Clear(SKColors.Transparent);
        CodeCanvas.Draw(surface.Canvas, drawing, code.Logo, (float)(width / drawing.Width));
        using var image = surface.Snapshot();
        using var data = image.Encode(SKEncodedImageFormat.Png, 100);
        return WithResolution(data.ToArray(), (uint)Math.Round(width / widthMm * 1000));
    }

    public static int HeightOf(CodeDrawing drawing, int width) => (int)Math.Ceiling(width * drawing.Height / drawing.Width);

    /// <summary>A page as large as the code is to be printed.</summary>
    public static byte[] Pdf(FinishedCode code, double widthMm)
    {
        var drawing = code.Draw();
        var width = (float)widthMm * PointsPerMm;
        return Pdf($"QR code of {code.Address}", width, width * (float)(drawing.Height / drawing.Width), 1, (canvas, _) =>
            CodeCanvas.Draw(canvas, drawing, code.Logo, width / (float)drawing.Width)
        );
    }

    /// <summary>A document of pages of one size, in points.</summary>
    public static byte[] Pdf(string title, float width, float height, int pages, Action<SKCanvas, int> draw)
    {
        using var stream = new MemoryStream();
        using (
            var document = SKDocument.CreatePdf(
                stream,
                new SKDocumentPdfMetadata
                {
                    Title = title,
                    Creator = "Cursus",
                    Creation = Undated,
                    Modified = Undated,
                    RasterDpi = 300,
                    EncodingQuality = 101,
                }
            )
        )
        {
            for (var page = 0; page < pages; page++)
            {
                draw(document.BeginPage(width, height), page);
                document.EndPage();
            }

            document.Close();
        }

        return stream.ToArray();
    }

    /// <summary>Puts the resolution into a PNG (third edition, section 11.3.4.3: pHYs, dots to a metre).</summary>
    private static byte[] WithResolution(byte[] png, uint dotsPerMetre)
    {
        Span<byte> chunk = stackalloc byte[4 + 4 + 9 + 4];
        BinaryPrimitives.WriteUInt32BigEndian(chunk, 9);
        "pHYs"u8.CopyTo(chunk[4..]);
        BinaryPrimitives.WriteUInt32BigEndian(chunk[8..], dotsPerMetre);
        BinaryPrimitives.WriteUInt32BigEndian(chunk[12..], dotsPerMetre);
        chunk[16] = 1;
        BinaryPrimitives.WriteUInt32BigEndian(chunk[17..], Crc32.HashToUInt32(chunk[4..17]));
        return [.. png.AsSpan(0, AfterHead), .. chunk, .. png.AsSpan(AfterHead)];
    }
}
