using Cursus.Web.Drawing;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>Colours that are the stronger the more clicks they stand for; those of the application's light scheme.</summary>
internal static class Shade
{
    /// <summary>Of a cell in a table: still light enough for words to be read on it.</summary>
    public static SKColor OfCell(SKColor paper, long clicks, long most) => Mixed(paper, Pen.Plum, 0.58f * Depth(clicks, most));

    /// <summary>Of a country: the least are told from land without clicks.</summary>
    public static SKColor OfCountry(long clicks, long most) => Mixed(Pen.Hair, Pen.Plum, 0.16f + 0.84f * Depth(clicks, most));

    /// <summary>0 for none, 1 for the most. By the root, so that few are still seen beside many.</summary>
    private static float Depth(long clicks, long most) => MathF.Sqrt((float)clicks / Math.Max(1, most));

    private static SKColor Mixed(SKColor from, SKColor to, float part)
    {
        byte Between(byte a, byte b) => (byte)Math.Round(a + (b - a) * part);
        return new SKColor(Between(from.Red, to.Red), Between(from.Green, to.Green), Between(from.Blue, to.Blue));
    }
}
