using System.Text.RegularExpressions;
using SkiaSharp;

namespace Cursus.Web.Codes;

/// <summary>Reads the transforms of an SVG shape (CSS Transforms 1, section 8; SVG's own list of functions).</summary>
internal static partial class SvgTransform
{
    /// <exception cref="FormatException">A function is unknown.</exception>
    public static SKMatrix Read(string? text)
    {
        var matrix = SKMatrix.Identity;
        foreach (var match in Function().Matches(text ?? "").Cast<Match>())
        {
            matrix = matrix.PreConcat(Of(match.Groups[1].Value, SvgLogo.Numbers(match.Groups[2].Value)));
        }

        return matrix;
    }

    private static SKMatrix Of(string name, float[] numbers) =>
        (name, numbers) switch
        {
            ("translate", [var x]) => SKMatrix.CreateTranslation(x, 0),
            ("translate", [var x, var y]) => SKMatrix.CreateTranslation(x, y),
            ("scale", [var s]) => SKMatrix.CreateScale(s, s),
            ("scale", [var x, var y]) => SKMatrix.CreateScale(x, y),
            ("rotate", [var angle]) => SKMatrix.CreateRotationDegrees(angle),
            ("rotate", [var angle, var x, var y]) => SKMatrix.CreateRotationDegrees(angle, x, y),
            ("skewX", [var angle]) => SKMatrix.CreateSkew(MathF.Tan(angle * MathF.PI / 180), 0),
            ("skewY", [var angle]) => SKMatrix.CreateSkew(0, MathF.Tan(angle * MathF.PI / 180)),
            ("matrix", [var a, var b, var c, var d, var e, var f]) => new SKMatrix(a, c, e, b, d, f, 0, 0, 1),
            _ => throw new FormatException($"The SVG moves a shape by “{name}” in a way that can’t be read. Save it again as plain SVG."),
        };

    [GeneratedRegex(@"([a-zA-Z]+)\s*\(([^)]*)\)")]
    private static partial Regex Function();
}
