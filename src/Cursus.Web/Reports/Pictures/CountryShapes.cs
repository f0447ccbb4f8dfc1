using System.Globalization;
using SkiaSharp;

namespace Cursus.Web.Reports.Pictures;

/// <summary>
/// The land of the world as the screen draws it: Natural Earth, 1:110 million (public domain), in the Equal Earth projection (Šavrič, Patterson and
/// Jenny 2018). The file is written by the tests of the web application from the shapes that it draws.
/// </summary>
internal static class CountryShapes
{
    /// <summary>How large the map is drawn, in its own units, and its lands with the two letters of each; empty where there are none.</summary>
    public static readonly (float Width, float Height, IReadOnlyList<(string Code, SKPath Path)> Lands) World = Read();

    private static (float Width, float Height, IReadOnlyList<(string Code, SKPath Path)> Lands) Read()
    {
        using var file = new StreamReader(typeof(CountryShapes).Assembly.GetManifestResourceStream("country-shapes.tsv")!);
        var lines = file.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(line => line.Split('\t')).ToList();
        return (
            float.Parse(lines[0][0], CultureInfo.InvariantCulture),
            float.Parse(lines[0][1], CultureInfo.InvariantCulture),
            [.. lines.Skip(1).Select(line => (line[0], SKPath.ParseSvgPathData(line[1])))]
        );
    }
}
