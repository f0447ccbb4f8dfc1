using System.Globalization;
using System.Text;

namespace Cursus.Core.Codes;

/// <summary>Writes SVG path data, to a thousandth of a module.</summary>
public sealed class ShapePath
{
    private readonly StringBuilder data = new();

    public ShapePath Rectangle(double x, double y, double width, double height) => Add($"M{N(x)} {N(y)}h{N(width)}v{N(height)}h{N(-width)}z");

    public ShapePath Circle(double centreX, double centreY, double radius) =>
        Add($"M{N(centreX - radius)} {N(centreY)}a{N(radius)} {N(radius)} 0 1 0 {N(2 * radius)} 0a{N(radius)} {N(radius)} 0 1 0 {N(-2 * radius)} 0z");

    public ShapePath Rounded(double x, double y, double width, double height, double radius) =>
        Rounded(x, y, width, height, radius, radius, radius, radius);

    /// <summary>A rectangle with a radius for each corner, clockwise from the upper left one.</summary>
    public ShapePath Rounded(
        double x,
        double y,
        double width,
        double height,
        double upperLeft,
        double upperRight,
        double lowerRight,
        double lowerLeft
    )
    {
        Add($"M{N(x + upperLeft)} {N(y)}h{N(width - upperLeft - upperRight)}");
        Arc(upperRight, upperRight, upperRight);
        Add($"v{N(height - upperRight - lowerRight)}");
        Arc(lowerRight, -lowerRight, lowerRight);
        Add($"h{N(-(width - lowerRight - lowerLeft))}");
        Arc(lowerLeft, -lowerLeft, -lowerLeft);
        Add($"v{N(-(height - lowerLeft - upperLeft))}");
        Arc(upperLeft, upperLeft, -upperLeft);
        return Add("z");
    }

    public override string ToString() => data.ToString();

    internal static string N(double value) => Math.Round(value, 3).ToString("0.###", CultureInfo.InvariantCulture);

    private void Arc(double radius, double x, double y)
    {
        if (radius > 0)
        {
            Add($"a{N(radius)} {N(radius)} 0 0 1 {N(x)} {N(y)}");
        }
    }

    private ShapePath Add(string text)
    {
        data.Append(text);
        return this;
    }
}
