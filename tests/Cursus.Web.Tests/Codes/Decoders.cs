using SkiaSharp;

namespace Cursus.Web.Tests.Codes;

/// <summary>Two readers of QR codes that know nothing of each other nor of Cursus: ZXing-C++ (Debian's zxing-cpp-tools) and jsQR (npm), the one that
/// also runs beside the designer.</summary>
internal static class Decoders
{
    /// <summary>What each reader finds in pictures, by their names; empty where it finds nothing.</summary>
    public static async Task<(IReadOnlyDictionary<string, string> Zxing, IReadOnlyDictionary<string, string> Jsqr)> Read(
        IReadOnlyCollection<(string Name, SKBitmap Picture)> pictures,
        CancellationToken cancel
    )
    {
        var folder = Directory.CreateTempSubdirectory("cursus-codes-").FullName;
        try
        {
            foreach (var (name, picture) in pictures)
            {
                using var png = picture.Encode(SKEncodedImageFormat.Png, 100);
                await File.WriteAllBytesAsync(Path.Combine(folder, $"{name}.png"), png.ToArray(), cancel);
                using var plain = new SKBitmap(new SKImageInfo(picture.Width, picture.Height, SKColorType.Rgba8888, SKAlphaType.Unpremul));
                picture.CopyTo(plain, SKColorType.Rgba8888);
                await File.WriteAllBytesAsync(Path.Combine(folder, $"{name}.{picture.Width}.{picture.Height}.rgba"), plain.Bytes, cancel);
            }

            var jsqr = Jsqr(folder, cancel);
            var zxing = await Zxing([.. pictures.Select(p => Path.Combine(folder, $"{p.Name}.png"))], cancel);
            return (zxing, await jsqr);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    /// <summary>What ZXing-C++ finds in picture files, by their names without the ending.</summary>
    public static async Task<IReadOnlyDictionary<string, string>> Zxing(IReadOnlyCollection<string> files, CancellationToken cancel)
    {
        var found = new Dictionary<string, string>();
        foreach (var some in files.Chunk(500))
        {
            foreach (var line in await Command.Run("ZXingReader", ["-1", "-format", "QRCode", .. some], cancel))
            {
                // NAME Format Text, or NAME alone: neither file names nor addresses have blanks.
                if (line.Split(' ') is [var file, _, var text])
                {
                    found[Path.GetFileNameWithoutExtension(file)] = text.Trim('"');
                }
            }
        }

        return found;
    }

    private static async Task<IReadOnlyDictionary<string, string>> Jsqr(string folder, CancellationToken cancel) =>
        (await Command.Run("node", [Path.Combine(Repository.Root, "tests/browser/decode.mjs"), folder], cancel))
            .Select(l => l.Split('\t'))
            .ToDictionary(l => l[0], l => l[1]);
}
