using System.Globalization;
using System.Xml.Linq;

namespace Cursus.Web.Tests.Support;

/// <summary>The words of a PDF and where they stand, as another program reads them: Poppler's <c>pdftotext -bbox</c>.</summary>
internal static class PdfWords
{
    /// <param name="Top">In points from the upper edge.</param>
    public sealed record Word(string Text, double Top, double Bottom);

    public static async Task<IReadOnlyList<Word>> Of(byte[] pdf, CancellationToken cancel)
    {
        var file = Path.GetTempFileName();
        await File.WriteAllBytesAsync(file, pdf, cancel);
        try
        {
            var lines = await Command.Run("pdftotext", ["-bbox", file, "-"], cancel);
            return
            [
                .. lines
                    .Where(l => l.TrimStart().StartsWith("<word ", StringComparison.Ordinal))
                    .Select(XElement.Parse)
                    .Select(word => new Word(word.Value, Points(word, "yMin"), Points(word, "yMax"))),
            ];
        }
        finally
        {
            File.Delete(file);
        }
    }

    private static double Points(XElement word, string side) => double.Parse(word.Attribute(side)!.Value, CultureInfo.InvariantCulture);
}
