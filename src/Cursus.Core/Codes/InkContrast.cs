using System.Globalization;
using Cursus.Core.Retargeting;

namespace Cursus.Core.Codes;

/// <summary>Makes ink darker, and only where that is not enough the ground lighter, keeping their hues.</summary>
internal static class InkContrast
{
    private const int Steps = 50;

    public static (string Ink, string Ground) Mend(string ink, string ground)
    {
        for (var step = 0; step <= Steps; step++)
        {
            // The ink goes all the way to black first; then the ground goes to white.
            var darker = Mixed(ink, 0, (double)step / Steps);
            if (IsGood(darker, ground))
            {
                return (darker, ground);
            }
        }

        for (var step = 1; step < Steps; step++)
        {
            var lighter = Mixed(ground, 255, (double)step / Steps);
            for (var dark = 0; dark <= Steps; dark += 5)
            {
                var darker = Mixed(ink, 0, (double)dark / Steps);
                if (IsGood(darker, lighter))
                {
                    return (darker, lighter);
                }
            }
        }

        return ("#000000", "#ffffff");
    }

    private static bool IsGood(string ink, string ground) =>
        CodeCheck.Contrast(ink, ground) >= CodeCheck.GoodContrast
        && ColorContrast.TryParse(ink, out var dark)
        && ColorContrast.TryParse(ground, out var light)
        && ColorContrast.Ratio(dark.Value, light.Value) >= ColorContrast.Text;

    private static string Mixed(string color, byte with, double share)
    {
        var (red, green, blue) = ColorContrast.TryParse(color, out var parsed) ? parsed.Value : default;
        return string.Create(CultureInfo.InvariantCulture, $"#{Part(red):x2}{Part(green):x2}{Part(blue):x2}");

        int Part(byte part) => (int)Math.Round(part + (with - part) * share);
    }
}
