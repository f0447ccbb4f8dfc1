using Cursus.Core;
using SkiaSharp;

namespace Cursus.Web.Retargeting;

/// <summary>Makes a logo so small that it fits into the handoff page: the page is one answer of a few kilobytes, and a logo that comes later would
/// only be seen by nobody.</summary>
internal static class LogoPicture
{
    private const int MaxPixels = 4_000_000;
    private const int MostBytes = 960;
    private const int Height = 48;
    private const int Width = 160;

    private static readonly int[] Qualities = [90, 75, 60, 40, 25];

    /// <summary>Reads a PNG, JPEG or WebP and returns it as a small data address.</summary>
    /// <returns>The address, or the error that says why there is none.</returns>
    public static (string? Address, ValidationError? Error) Shrink(byte[] upload)
    {
        using var data = SKData.CreateCopy(upload);
        using var codec = SKCodec.Create(data);
        if (codec is null || codec.EncodedFormat is not (SKEncodedImageFormat.Png or SKEncodedImageFormat.Jpeg or SKEncodedImageFormat.Webp))
        {
            return (null, new ValidationError("logo-format", "This isn’t a readable picture. Use a PNG, JPEG or WebP file."));
        }

        // The size stands in the file's head: a bomb is refused before it is unpacked.
        if ((long)codec.Info.Width * codec.Info.Height > MaxPixels)
        {
            return (
                null,
                new ValidationError("logo-large", $"The logo is {codec.Info.Width} by {codec.Info.Height} pixels. Use one of at most 2,000 by 2,000.")
            );
        }

        using var picture = SKBitmap.Decode(codec);
        if (picture is null)
        {
            return (null, new ValidationError("logo-broken", "The picture is damaged. Save it again and retry."));
        }

        for (
            var scale = Math.Min(1f, Math.Min((float)Height / picture.Height, (float)Width / picture.Width));
            scale * picture.Height >= 8;
            scale *= 0.8f
        )
        {
            using var small = picture.Resize(
                new SKSizeI(Math.Max(1, (int)(picture.Width * scale)), Math.Max(1, (int)(picture.Height * scale))),
                new SKSamplingOptions(SKCubicResampler.Mitchell)
            );
            foreach (var quality in Qualities)
            {
                using var encoded = small.Encode(SKEncodedImageFormat.Webp, quality);
                if (encoded.Size <= MostBytes)
                {
                    return ($"data:image/webp;base64,{Convert.ToBase64String(encoded.ToArray())}", null);
                }
            }
        }

        return (
            null,
            new ValidationError("logo-detailed", "The logo has too much detail to scale down. Use a simpler version, for example without the name.")
        );
    }
}
