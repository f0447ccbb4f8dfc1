using System.Globalization;
using Cursus.Core.Retargeting;

namespace Cursus.Core.Codes;

/// <summary>
/// The rules that a style can be judged by before anything is drawn. Symbol contrast is the difference of reflectance of light and dark (the idea of
/// ISO/IEC 15415, whose grades are A from 0.70, B from 0.55, C from 0.40; numbers from memory; the least that is let through lies between B and C);
/// reflectance is taken to be relative luminance (WCAG 2.2, definition of relative luminance).
/// </summary>
public static class CodeCheck
{
    /// <summary>Less symbol contrast is refused.</summary>
    public const double LeastContrast = 0.52;

    /// <summary>What a fix brings it to.</summary>
    public const double GoodContrast = 0.60;

    /// <summary>Two colours that are both light may differ much in reflectance and still look alike: their ratio counts too (WCAG 2.2, success
    /// criterion 1.4.11).</summary>
    public const double LeastRatio = 3;

    /// <summary>What is wrong with a style, what is refused first.</summary>
    public static IReadOnlyList<CodeFinding> Of(CodeStyle style, CodeSymbol symbol, double logoAspect = 1)
    {
        ArgumentNullException.ThrowIfNull(style);
        ArgumentNullException.ThrowIfNull(symbol);
        return [.. Findings(style, symbol, logoAspect).OrderByDescending(f => f.IsRefused)];
    }

    /// <summary>Whether it is large enough where it is going to be seen; null where it is.</summary>
    public static CodeFinding? Printed(CodeStyle style, CodeSymbol symbol, PrintPlace place)
    {
        ArgumentNullException.ThrowIfNull(style);
        ArgumentNullException.ThrowIfNull(symbol);
        ArgumentNullException.ThrowIfNull(place);
        var modules = symbol.Side + 2 * style.QuietZone;
        return place.ModuleMm(modules) >= PrintPlace.LeastModuleMm
            ? null
            : new CodeFinding(
                "module-width",
                false,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"At {place.WidthMm} mm a module is {place.ModuleMm(modules):0.00} mm wide; a phone needs {PrintPlace.LeastModuleMm} mm. Print it at least {Math.Ceiling(modules * PrintPlace.LeastModuleMm):0} mm wide, or choose a shorter slug."
                )
            );
    }

    /// <summary>Symbol contrast, 0 to 1; negative where the ink is the lighter one.</summary>
    public static double Contrast(string ink, string ground) => Luminance(ground) - Luminance(ink);

    private static IEnumerable<CodeFinding> Findings(CodeStyle style, CodeSymbol symbol, double logoAspect)
    {
        var ground = style.Ground ?? "#ffffff";
        foreach (var (name, color, with) in Inks(style))
        {
            if (Contrast(color, ground) < 0)
            {
                yield return new CodeFinding(
                    "inverted",
                    true,
                    $"{name} is lighter than the background. Many scanners only read dark on light.",
                    "Swap light and dark",
                    Swapped(style)
                );
                yield break;
            }

            if (Contrast(color, ground) < LeastContrast || Ratio(color, ground) < LeastRatio)
            {
                var (ink, lighter) = InkContrast.Mend(color, ground);
                var mended = with(style, ink);
                yield return new CodeFinding(
                    "contrast",
                    true,
                    $"{name} and the background are too similar: {TooAlike(color, ground)}, and even less when printed in grey.",
                    lighter == ground ? $"Darken {Lower(name)} to {ink}" : $"Lighten the background to {lighter}, darken {Lower(name)} to {ink}",
                    lighter == ground ? mended : mended with { Ground = lighter }
                );
            }
        }

        if (style.QuietZone < CodeStyle.UsualQuietZone)
        {
            yield return new CodeFinding(
                "quiet-zone",
                true,
                $"The quiet zone is {style.QuietZone} modules wide; scanners need 4 to find the edge.",
                "Make it 4 modules",
                style with
                {
                    QuietZone = CodeStyle.UsualQuietZone,
                }
            );
        }

        if (style is { Corners: CornerShape.Round, Centres: CornerShape.Square } or { Corners: CornerShape.Square, Centres: CornerShape.Round })
        {
            yield return new CodeFinding(
                "corner-mix",
                true,
                "Mixing square and round in one corner distorts its diagonal, which scanners also measure.",
                "Make the centres soft",
                style with
                {
                    Centres = CornerShape.Soft,
                }
            );
        }

        if (style.Logo is { } logo && LogoCover.CorrectionTaken(logo, symbol.Layout, logoAspect) is var taken && taken > LogoCover.MostOfCorrection)
        {
            var smaller = Smaller(logo, symbol, logoAspect);
            yield return new CodeFinding(
                "logo-cover",
                true,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"The logo uses {100 * taken:0}% of the code’s error correction. The limit is {100 * LogoCover.MostOfCorrection:0}%, which leaves some for dirt and folds."
                ),
                smaller is null ? "Remove the logo" : $"Make the logo {smaller.Percent}% wide",
                style with
                {
                    Logo = smaller,
                }
            );
        }

        if (style.Frame is { } frame && Ratio(frame.Shape == FrameShape.Around ? frame.TextColor : ground, frame.Color) < ColorContrast.Text)
        {
            yield return new CodeFinding(
                "frame-contrast",
                false,
                "The caption is hard to read.",
                "Use dark text or a dark band",
                style with
                {
                    Frame =
                        frame.Shape == FrameShape.Around ? frame with { Color = "#231b22", TextColor = "#ffffff" } : frame with { Color = "#231b22" },
                }
            );
        }

        if (style.Ground is null)
        {
            yield return new CodeFinding(
                "no-ground",
                false,
                "With a transparent background it only scans on something light. It was tested on white.",
                "Add a white background",
                style with
                {
                    Ground = "#ffffff",
                }
            );
        }
    }

    private static IEnumerable<(string Name, string Color, Func<CodeStyle, string, CodeStyle> With)> Inks(CodeStyle style)
    {
        yield return ("The foreground", style.Ink, (s, color) => s with { Ink = color });
        if (style.Gradient is { } gradient)
        {
            yield return ("The gradient’s second colour", gradient.To, (s, color) => s with { Gradient = gradient with { To = color } });
        }

        if (style.CornerInk is { } corner)
        {
            yield return ("The corners’ colour", corner, (s, color) => s with { CornerInk = color });
        }

        if (style.CentreInk is { } centre)
        {
            yield return ("The corner centres’ colour", centre, (s, color) => s with { CentreInk = color });
        }
    }

    /// <summary>The ground takes the ink's place; whatever else would still be lighter than it goes by the new ink.</summary>
    private static CodeStyle Swapped(CodeStyle style)
    {
        var ground = style.Ground ?? "#ffffff";
        var (ink, light) = Contrast(style.Ink, ground) < 0 ? (ground, style.Ink) : (style.Ink, ground);
        (ink, light) = InkContrast.Mend(ink, light);
        return style with
        {
            Ink = ink,
            Ground = light,
            Gradient = style.Gradient is { } gradient && Contrast(gradient.To, light) >= LeastContrast ? gradient : null,
            CornerInk = Kept(style.CornerInk),
            CentreInk = Kept(style.CentreInk),
        };

        string? Kept(string? color) =>
            color is not null && Contrast(color, light) >= LeastContrast && Ratio(color, light) >= LeastRatio ? color : null;
    }

    private static CodeLogo? Smaller(CodeLogo logo, CodeSymbol symbol, double aspect)
    {
        for (var percent = logo.Percent - 1; percent >= 8; percent--)
        {
            var smaller = logo with { Percent = percent };
            if (LogoCover.CorrectionTaken(smaller, CodeSymbol.Of(symbol.Payload, smaller, aspect).Layout, aspect) <= LogoCover.MostOfCorrection)
            {
                return smaller;
            }
        }

        return null;
    }

    private static string TooAlike(string ink, string ground) =>
        Contrast(ink, ground) < LeastContrast
            ? string.Create(CultureInfo.InvariantCulture, $"{100 * Contrast(ink, ground):0}% contrast; at least {100 * LeastContrast:0}% is needed")
            : string.Create(
                CultureInfo.InvariantCulture,
                $"a contrast ratio of {Ratio(ink, ground):0.0} to 1; at least {LeastRatio:0} to 1 is needed"
            );

    private static double Luminance(string color) => ColorContrast.TryParse(color, out var parsed) ? ColorContrast.Luminance(parsed.Value) : 0;

    private static double Ratio(string one, string other) =>
        ColorContrast.TryParse(one, out var a) && ColorContrast.TryParse(other, out var b) ? ColorContrast.Ratio(a.Value, b.Value) : 1;

    private static string Lower(string name) => char.ToLowerInvariant(name[0]) + name[1..];
}
