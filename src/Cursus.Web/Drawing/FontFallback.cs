using System.Collections.Concurrent;
using System.Reflection;
using System.Text;
using SkiaSharp;
using SkiaSharp.HarfBuzz;

namespace Cursus.Web.Drawing;

/// <summary>One typeface to write with: the application's own, another that ships, or one of this machine's.</summary>
internal sealed class FontFallback
{
    /// <summary>Where machines keep their fonts; looked through only for letters that no font that ships has.</summary>
    private static readonly string[] FoldersOfMachine = ["/usr/share/fonts", "/usr/local/share/fonts"];

    private static readonly FontFallback[] Shipped =
    [
        .. new[] { "NotoSans-Regular", "NotoSansMath-Regular", "NotoSansHebrew-Regular", "NotoSansArabic-Regular", "NotoEmoji-Regular" }.Select(
            name => new FontFallback(Load(name))
        ),
    ];

    private static readonly (FontFallback Own, IReadOnlyList<FontFallback> Others) Regular = (new(Load("HankenGrotesk-Regular")), Shipped),
        SemiBold = (new(Load("HankenGrotesk-SemiBold")), [new(Load("NotoSans-Bold")), .. Shipped[1..]]);

    private static readonly Lazy<IReadOnlyList<FontFallback>> OfMachine = new(FindOfMachine);
    private static readonly ConcurrentDictionary<Rune, FontFallback?> OfMachineByLetter = new();

    private readonly SKTypeface typeface;
    private readonly Lazy<SKShaper> shaper;
    private readonly Lazy<SKFont> glyphs;

    private FontFallback(SKTypeface typeface)
    {
        this.typeface = typeface;
        shaper = new(() => new SKShaper(typeface));
        glyphs = new(() => Font(1));
    }

    /// <summary>The one that writes this: the application's own where it has all the letters, else the first that has; the own one as well where none
    /// does, which draws boxes.</summary>
    /// <param name="element">What is read as one letter or sign, be it of several code points.</param>
    /// <param name="before">The one that wrote what stands before. It goes on with spaces and signs between words, so that words written from right
    /// to left keep their order.</param>
    public static FontFallback For(string element, FontFallback? before, bool isBold)
    {
        var (own, others) = isBold ? SemiBold : Regular;
        return before is not null && element.All(c => char.IsWhiteSpace(c) || char.IsPunctuation(c)) && before.Has(element) ? before
            : own.Has(element) ? own
            : others.FirstOrDefault(o => o.Has(element)) ?? OfMachineFor(element) ?? own;
    }

    public SKFont Font(float size) =>
        new(typeface, size)
        {
            Subpixel = true,
            LinearMetrics = true,
            Hinting = SKFontHinting.None,
        };

    /// <summary>The glyphs of a text and where each begins, in the order in which they are seen; what joins or turns its letters is shaped by
    /// HarfBuzz. The application's own font needs none of that.</summary>
    public (ushort[] Glyphs, SKPoint[] Places, float Width) Shape(string text, SKFont font)
    {
        if (this == Regular.Own || this == SemiBold.Own)
        {
            return (font.GetGlyphs(text), font.GetGlyphPositions(text), font.MeasureText(text));
        }

        // A shaper's font is HarfBuzz's and holds state while it shapes.
        lock (shaper)
        {
            var shaped = shaper.Value.Shape(text, font);
            return ([.. shaped.Codepoints.Select(glyph => (ushort)glyph)], shaped.Points, shaped.Width);
        }
    }

    /// <summary>True where no letter of it would be a box; what only joins letters or chooses between forms is not seen by itself.</summary>
    private bool Has(string element) => element.EnumerateRunes().All(rune => IsUnseen(rune.Value) || glyphs.Value.ContainsGlyph(rune.Value));

    private static bool IsUnseen(int rune) => rune is 0x200C or 0x200D or (>= 0xFE00 and <= 0xFE0F);

    private static FontFallback? OfMachineFor(string element) =>
        OfMachineByLetter.GetOrAdd(element.EnumerateRunes().First(), letter => OfMachine.Value.FirstOrDefault(l => l.Has(letter.ToString())));

    private static List<FontFallback> FindOfMachine() =>
        [
            .. FoldersOfMachine
                .Where(Directory.Exists)
                .SelectMany(folder =>
                    Directory.EnumerateFiles(folder, "*", new EnumerationOptions { RecurseSubdirectories = true, IgnoreInaccessible = true })
                )
                .Where(file => Path.GetExtension(file).ToUpperInvariant() is ".TTF" or ".OTF" or ".TTC")
                .OrderBy(file => !file.Contains("Regular", StringComparison.OrdinalIgnoreCase))
                .ThenBy(file => file, StringComparer.Ordinal)
                .Select(file => SKTypeface.FromFile(file))
                .OfType<SKTypeface>()
                .Select(typeface => new FontFallback(typeface)),
        ];

    private static SKTypeface Load(string name) =>
        SKTypeface.FromStream(Assembly.GetExecutingAssembly().GetManifestResourceStream($"Cursus.Web.Drawing.Fonts.{name}.ttf")!);
}
