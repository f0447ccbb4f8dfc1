using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Text.RegularExpressions;

namespace Cursus.Core.Retargeting;

/// <summary>How well one colour is told from another.</summary>
public static partial class ColorContrast
{
    /// <summary>The least contrast of text (WCAG 2.2, success criterion 1.4.3).</summary>
    public const double Text = 4.5;

    /// <summary>Contrast ratio of two colours, 1 to 21 (WCAG 2.2, definitions of contrast ratio and relative luminance).</summary>
    public static double Ratio((byte Red, byte Green, byte Blue) one, (byte Red, byte Green, byte Blue) other)
    {
        var (a, b) = (Luminance(one), Luminance(other));
        return (Math.Max(a, b) + 0.05) / (Math.Min(a, b) + 0.05);
    }

    /// <summary>Reads <c>#rrggbb</c>.</summary>
    public static bool TryParse(string? text, [NotNullWhen(true)] out (byte Red, byte Green, byte Blue)? color)
    {
        color = text is not null && Hex().IsMatch(text) ? (Part(text, 1), Part(text, 3), Part(text, 5)) : null;
        return color is not null;
    }

    private static byte Part(string text, int at) => byte.Parse(text.AsSpan(at, 2), NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture);

    /// <summary>Relative luminance, 0 to 1 (WCAG 2.2, definition of relative luminance).</summary>
    public static double Luminance((byte Red, byte Green, byte Blue) color) =>
        0.2126 * Linear(color.Red) + 0.7152 * Linear(color.Green) + 0.0722 * Linear(color.Blue);

    private static double Linear(byte part) => part / 255.0 is var c && c <= 0.04045 ? c / 12.92 : Math.Pow((c + 0.055) / 1.055, 2.4);

    [GeneratedRegex("^#[0-9A-Fa-f]{6}$")]
    private static partial Regex Hex();
}
