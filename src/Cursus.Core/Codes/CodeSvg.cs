using System.Globalization;
using System.Net;
using System.Text;

namespace Cursus.Core.Codes;

/// <summary>Writes a drawing as SVG: one path for each layer, the words as shapes, nothing to be loaded. The same drawing makes the same
/// text.</summary>
public static class CodeSvg
{
    /// <param name="address">Named for those who don't see it.</param>
    /// <param name="width">In pixels.</param>
    /// <param name="captionPath">The frame's words as path data, in modules.</param>
    public static string Write(CodeDrawing drawing, string address, double width, LogoArt? logo = null, string? captionPath = null)
    {
        ArgumentNullException.ThrowIfNull(drawing);
        var name = WebUtility.HtmlEncode($"QR code of {address}");
        var svg = new StringBuilder();
        svg.Append(
            CultureInfo.InvariantCulture,
            $"""<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {N(drawing.Width)} {N(drawing.Height)}" width="{N(width)}" height="{N(width * drawing.Height / drawing.Width)}" role="img" aria-label="{name}">"""
        );
        svg.Append(CultureInfo.InvariantCulture, $"<title>{name}</title>");
        if (drawing.Layers.FirstOrDefault(l => l.Fill.Gradient is not null) is { } layer)
        {
            svg.Append(Gradient(layer.Fill));
        }

        foreach (var (_, path, fill) in drawing.Layers)
        {
            svg.Append(
                CultureInfo.InvariantCulture,
                $"""<path fill="{(fill.Gradient is null ? fill.Color : "url(#ink)")}" fill-rule="evenodd" d="{path}"/>"""
            );
        }

        if (drawing.Logo is { } box && logo is not null)
        {
            svg.Append(Logo(box, logo));
        }

        if (drawing.Caption is { } caption && captionPath is not null)
        {
            svg.Append(CultureInfo.InvariantCulture, $"""<path fill="{caption.Color}" d="{captionPath}"/>""");
        }

        return svg.Append("</svg>").ToString();
    }

    private static string Gradient(CodeFill fill)
    {
        var (x, y, side) = (fill.X, fill.Y, fill.Side);
        var stops = $"""<stop stop-color="{fill.Color}"/><stop offset="1" stop-color="{fill.Gradient!.To}"/>""";
        return fill.Gradient.Course switch
        {
            GradientCourse.Outward =>
                $"""<radialGradient id="ink" gradientUnits="userSpaceOnUse" cx="{N(x + side / 2)}" cy="{N(y + side / 2)}" r="{N(side * CodeGradients.OutwardReach)}">{stops}</radialGradient>""",
            var course =>
                $"""<linearGradient id="ink" gradientUnits="userSpaceOnUse" x1="{N(x)}" y1="{N(y)}" x2="{N(course == GradientCourse.Across ? x + side : x)}" y2="{N(course == GradientCourse.Down ? y + side : y)}">{stops}</linearGradient>""",
        };
    }

    private static string Logo(LogoBox box, LogoArt logo)
    {
        if (logo.Png is { } png)
        {
            return $"""<image x="{N(box.X)}" y="{N(box.Y)}" width="{N(box.Width)}" height="{N(box.Height)}" href="data:image/png;base64,{Convert.ToBase64String(png)}"/>""";
        }

        var scale = (box.Width / logo.Width).ToString("0.######", CultureInfo.InvariantCulture);
        var shapes = string.Concat(logo.Shapes.Select(s => $"""<path fill="{s.Color}" d="{s.Path}"/>"""));
        return $"""<g transform="translate({N(box.X)} {N(box.Y)}) scale({scale})">{shapes}</g>""";
    }

    private static string N(double value) => ShapePath.N(value);
}

/// <summary>What all who draw gradients have to agree about.</summary>
public static class CodeGradients
{
    /// <summary>An outward gradient ends at the symbol's corners: so many sides from the centre.</summary>
    public const double OutwardReach = 0.7071;
}
