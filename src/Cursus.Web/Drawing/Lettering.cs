using System.Globalization;
using SkiaSharp;

namespace Cursus.Web.Drawing;

/// <summary>A line of words as it will be drawn. Names of posts come in any letters and with any signs, and the application's font has those of
/// Latin: what it lacks is written by a font that has it (<see cref="FontFallback"/>).</summary>
internal sealed class Lettering : IDisposable
{
    /// <summary>Words written by one font.</summary>
    private sealed record Run(SKFont Font, ushort[] Glyphs, SKPoint[] Places, float Left);

    private readonly List<Run> runs = [];

    private Lettering() { }

    /// <summary>How much room it takes, in the unit of its size.</summary>
    public float Width { get; private set; }

    /// <summary>False where some letter is drawn as a box, since no font at hand has it.</summary>
    public bool IsWhole => runs.TrueForAll(run => !run.Glyphs.Contains((ushort)0));

    public static Lettering Of(string text, float size, bool isBold = false)
    {
        var lettering = new Lettering();
        foreach (var (fonts, words) in Split(text, isBold))
        {
            var font = fonts.Font(size);
            var (glyphs, places, width) = fonts.Shape(words, font);
            lettering.runs.Add(new(font, glyphs, places, lettering.Width));
            lettering.Width += width;
        }

        return lettering;
    }

    /// <summary>As much of a text as there is room for, with dots where it is shortened; no letter of several code points is cut.</summary>
    /// <param name="most">In the unit of the size.</param>
    public static Lettering Within(float most, string text, float size, bool isBold = false)
    {
        var whole = Of(text, size, isBold);
        if (whole.Width <= most)
        {
            return whole;
        }

        whole.Dispose();
        var ends = StringInfo.ParseCombiningCharacters(text);
        var (fits, tooLong) = (1, ends.Length);
        while (tooLong - fits > 1)
        {
            var middle = (fits + tooLong) / 2;
            using var tried = Of(Dotted(middle), size, isBold);
            (fits, tooLong) = tried.Width <= most ? (middle, tooLong) : (fits, middle);
        }

        return Of(Dotted(fits), size, isBold);

        string Dotted(int elements) => text[..(elements < ends.Length ? ends[elements] : text.Length)].TrimEnd() + "…";
    }

    /// <param name="x">Of its left end.</param>
    /// <param name="y">Of the baseline.</param>
    public void Draw(SKCanvas canvas, float x, float y, SKPaint paint)
    {
        foreach (var run in runs.Where(r => r.Glyphs.Length > 0))
        {
            using var builder = new SKTextBlobBuilder();
            builder.AddPositionedRun(run.Glyphs, run.Font, run.Places);
            using var blob = builder.Build();
            canvas.DrawText(blob, x + run.Left, y, paint);
        }
    }

    /// <summary>The same as shapes, for readers that don't have the fonts.</summary>
    public SKPath Outline(float x, float y)
    {
        using var builder = new SKPathBuilder();
        foreach (var run in runs)
        {
            foreach (var (glyph, place) in run.Glyphs.Zip(run.Places))
            {
                // A space has no shape.
                using var shape = run.Font.GetGlyphPath(glyph);
                if (shape is not null)
                {
                    builder.AddPath(shape, x + run.Left + place.X, y + place.Y);
                }
            }
        }

        return builder.Detach();
    }

    public void Dispose() => runs.ForEach(run => run.Font.Dispose());

    /// <summary>Neighbours that one font writes, in the order of reading.</summary>
    private static IEnumerable<(FontFallback FontFallback, string Words)> Split(string text, bool isBold)
    {
        var begin = 0;
        FontFallback? fonts = null;
        for (var elements = StringInfo.GetTextElementEnumerator(text); elements.MoveNext(); )
        {
            var next = FontFallback.For(elements.GetTextElement(), fonts, isBold);
            if (fonts is not null && next != fonts)
            {
                yield return (fonts, text[begin..elements.ElementIndex]);
                begin = elements.ElementIndex;
            }

            fonts = next;
        }

        if (fonts is not null)
        {
            yield return (fonts, text[begin..]);
        }
    }
}
