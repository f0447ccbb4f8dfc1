using System.Collections.Concurrent;
using System.Globalization;
using Cursus.Core.Codes;

namespace Cursus.Web.Codes;

/// <summary>Whether a code can be scanned, and what to do if not.</summary>
/// <param name="IsLetThrough">False if a code like this can't be saved or downloaded.</param>
/// <param name="Score">How much error correction is left where the code is damaged most, as a percentage; 0 if a rule refuses it.</param>
/// <param name="Readings">Percentages by kind of damage.</param>
public sealed record CodeJudgement(bool IsLetThrough, int Score, IReadOnlyList<CodeFinding> Findings, IReadOnlyList<CodeReading> Readings)
{
    /// <summary>With less left a code isn't let through (common practice, no source; held against two decoders by tests).</summary>
    private const int LeastScore = 52;

    /// <summary>The same for fine codes, which readers find less easily where they are small.</summary>
    private const int LeastScoreOfFine = 80;

    /// <summary>Modules on one side, quiet zone included, beyond which a code is fine: less than three dots to a module at
    /// <see cref="CodeReadBack.Width"/>.</summary>
    private const int MostOfCoarse = 42;

    private const int DotsOfModule = 4;

    private static readonly ConcurrentDictionary<(CodeStyle, SymbolSize), CodeJudgement> Known = new();
    private const int MostKnown = 500;
    private const int MostChanges = 8;

    /// <summary>Judges a code. Codes of one style and size are as strong as each other, so each such pair is read back once.</summary>
    internal static CodeJudgement Of(FinishedCode code)
    {
        if (Known.Count > MostKnown)
        {
            Known.Clear();
        }

        // A style names its logo, and a logo never changes. The whole style counts, words included: fixes repeat it, and nobody may read another's
        // words in them.
        return Known.GetOrAdd((code.Style, code.Symbol.Size), _ => Judge(code));
    }

    /// <summary>The same code with as little changed of its look as makes it scan: a style that does for most addresses may be too much for the finer
    /// code of a long one.</summary>
    internal static FinishedCode Fitted(FinishedCode code)
    {
        for (var changes = 0; changes < MostChanges && Of(code).Findings.FirstOrDefault(f => f.IsRefused)?.Fix is { } fix; changes++)
        {
            code = code.In(fix);
        }

        return code;
    }

    private static CodeJudgement Judge(FinishedCode code)
    {
        var findings = CodeCheck.Of(code.Style, code.Symbol, code.LogoAspect).ToList();
        var readings = CodeReadBack.Run(code);
        var margin = readings.Min(r => r.Margin.Percent);
        var least = LeastOf(code);
        if (margin < least && !findings.Any(f => f.IsRefused))
        {
            findings.Insert(0, Fix(code) is { } fix ? Weak(readings, least, fix) : Fine(code));
        }

        var isLetThrough = !findings.Any(f => f.IsRefused);
        return new CodeJudgement(
            isLetThrough,
            isLetThrough ? (int)Math.Round(margin) : 0,
            findings,
            [.. readings.Select(r => new CodeReading(r.Disturbance, (int)Math.Round(Math.Max(0, r.Margin.Percent))))]
        );
    }

    private static CodeFinding Weak(
        IReadOnlyList<(Disturbance Disturbance, ReadMargin Margin)> readings,
        int least,
        (string Label, CodeStyle Style) fix
    )
    {
        var worst = readings.MinBy(r => r.Margin.Percent);
        return new CodeFinding(
            "margin",
            true,
            string.Create(
                CultureInfo.InvariantCulture,
                $"{Name(worst.Disturbance)}, only {Math.Max(0, Math.Round(worst.Margin.Percent))}% of its error correction is left. It needs {least}% to survive dirt, folds and bad light."
            ),
            fix.Label,
            fix.Style
        );
    }

    /// <summary>Where no look helps, the address is too long for so small a picture: that is no fault of the style.</summary>
    private static CodeFinding Fine(FinishedCode code) =>
        new(
            "fine-code",
            false,
            $"The address is long, so its code is fine-grained. Show it at least {DotsOfModule * (code.Symbol.Side + 2 * code.Style.QuietZone)} pixels wide on a screen, or choose a shorter slug."
        );

    /// <summary>The smallest change that is enough; null where none is.</summary>
    private static (string Label, CodeStyle Style)? Fix(FinishedCode code)
    {
        var style = code.Style;
        (string Label, CodeStyle Style)[] changes =
        [
            .. style.Logo is { KnocksOut: false } over
                ? [("Hide modules behind the logo", style with { Logo = over with { KnocksOut = true } })]
                : Array.Empty<(string, CodeStyle)>(),
            .. style.Logo is { Percent: > 14 } large
                ? [($"Make the logo {large.Percent * 3 / 4}% wide", style with { Logo = large with { Percent = large.Percent * 3 / 4 } })]
                : Array.Empty<(string, CodeStyle)>(),
            ("Use square modules", style with { Modules = ModuleShape.Square }),
            (
                "Use square modules and corners",
                style with
                {
                    Modules = ModuleShape.Square,
                    Corners = CornerShape.Square,
                    Centres = CornerShape.Square,
                }
            ),
            ("Remove the logo", style with { Logo = null }),
            (
                "Remove the logo and use squares",
                style with
                {
                    Logo = null,
                    Modules = ModuleShape.Square,
                    Corners = CornerShape.Square,
                    Centres = CornerShape.Square,
                }
            ),
            ("Use black squares on white", CodeStyle.Plain with { Frame = style.Frame }),
        ];
        return changes
            .Where(c =>
                c.Style != style && code.In(c.Style) is var changed && CodeReadBack.Run(changed).Min(r => r.Margin.Percent) >= LeastOf(changed)
            )
            .Cast<(string, CodeStyle)?>()
            .FirstOrDefault()
            ?? (style.Logo is null ? null : ("Remove the logo", style with { Logo = null }));
    }

    private static int LeastOf(FinishedCode code) => code.Symbol.Side + 2 * code.Style.QuietZone > MostOfCoarse ? LeastScoreOfFine : LeastScore;

    private static string Name(Disturbance disturbance) =>
        disturbance switch
        {
            Disturbance.Small => "Very small",
            Disturbance.Blur => "Out of focus",
            Disturbance.Turned => "Held askew",
            Disturbance.Jpeg => "Squeezed as JPEG",
            _ => "Printed in grey",
        };
}

/// <param name="Margin">What was left, as a percentage.</param>
public sealed record CodeReading(Disturbance Disturbance, int Margin);
