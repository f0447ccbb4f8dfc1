using Cursus.Core;
using Cursus.Core.Codes;
using SkiaSharp;

namespace Cursus.Web.Codes;

/// <summary>Reads an uploaded logo for QR codes. Nothing of the file is kept but its dots or shapes.</summary>
internal static class LogoFile
{
    private const int MaxPixels = 16_000_000;
    private const int MostSide = 512;

    /// <returns>The logo, or the error that says why there is none.</returns>
    public static (LogoArt? Art, ValidationError? Error) Read(byte[] upload)
    {
        if (upload.AsSpan().TrimStart("\uFEFF \t\r\n"u8).StartsWith("<"u8))
        {
            return SvgLogo.Read(upload);
        }

        using var data = SKData.CreateCopy(upload);
        using var codec = SKCodec.Create(data);
        if (codec is not { EncodedFormat: SKEncodedImageFormat.Png })
        {
            return (null, new ValidationError("logo-format", "A logo is a PNG or an SVG file. Save it as one of them and try again."));
        }

        // The size stands in the file's head: what would grow without measure is refused before it is unpacked.
        if ((long)codec.Info.Width * codec.Info.Height > MaxPixels)
        {
            return (
                null,
                new ValidationError(
                    "logo-large",
                    $"The logo is {codec.Info.Width:N0} by {codec.Info.Height:N0} pixels. Use one of at most 4,000 by 4,000."
                )
            );
        }

        using var picture = SKBitmap.Decode(codec);
        if (picture is null)
        {
            return (null, new ValidationError("logo-broken", "The picture is damaged. Save it again and retry."));
        }

        var scale = Math.Min(1f, (float)MostSide / Math.Max(picture.Width, picture.Height));
        using var small = picture.Resize(
            new SKImageInfo(Math.Max(1, (int)(picture.Width * scale)), Math.Max(1, (int)(picture.Height * scale))),
            new SKSamplingOptions(SKFilterMode.Linear, SKMipmapMode.Linear)
        );
        using var png = small.Encode(SKEncodedImageFormat.Png, 100);
        return (new LogoArt(small.Width, small.Height, png.ToArray(), []), null);
    }
}
