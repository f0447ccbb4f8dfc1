using System.Globalization;
using System.Xml;
using System.Xml.Linq;
using Cursus.Core;
using Cursus.Core.Codes;
using SkiaSharp;

namespace Cursus.Web.Codes;

/// <summary>
/// Reads the shapes of an SVG and nothing else: what is kept is path data and colours, so that no script, no style sheet and no address of anything
/// else can come along. What can't be read as plain shapes is refused by name.
/// </summary>
internal static class SvgLogo
{
    private const int MostElements = 2000;
    private const int MostDepth = 30;
    private const int MostPathData = 200_000;

    private static readonly string[] Ignored = ["title", "desc", "metadata", "defs"];

    /// <returns>The shapes, or the error that says why there are none.</returns>
    public static (LogoArt? Art, ValidationError? Error) Read(byte[] upload)
    {
        try
        {
            // No document type: neither entities that grow without end nor files from elsewhere (XML 1.0, section 4.2).
            var settings = new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Prohibit,
                XmlResolver = null,
                MaxCharactersInDocument = upload.Length,
            };
            CheckSize(upload, settings);
            using var reader = XmlReader.Create(new MemoryStream(upload), settings);
            var root = XDocument.Load(reader).Root!;
            return root.Name.LocalName != "svg" ? Refuse("logo-format", "This is XML, but not SVG.") : Read(root);
        }
        catch (XmlException)
        {
            return Refuse("logo-broken", "The SVG is damaged, or refers to other files. Save it again as plain SVG.");
        }
        catch (FormatException e)
        {
            return Refuse("logo-shapes", e.Message);
        }
    }

    /// <summary>Looks the file through without keeping anything, since a tree of a hundred thousand groups in one another takes more than it is worth
    /// to find out that they are too many.</summary>
    /// <exception cref="FormatException">There is too much in it.</exception>
    private static void CheckSize(byte[] upload, XmlReaderSettings settings)
    {
        using var reader = XmlReader.Create(new MemoryStream(upload), settings);
        for (var elements = 0; reader.Read(); )
        {
            elements += reader.NodeType == XmlNodeType.Element ? 1 : 0;
            if (reader.Depth > 2 * MostDepth)
            {
                throw TooDeep();
            }

            if (elements > 2 * MostElements)
            {
                throw TooMany();
            }
        }
    }

    private static FormatException TooDeep() => new("The SVG’s groups are nested too deeply. Simplify it, or use a PNG.");

    private static FormatException TooMany() => new($"The SVG has more than {MostElements} shapes. Simplify it, or use a PNG.");

    private static (LogoArt?, ValidationError?) Read(XElement root)
    {
        var box = Numbers((string?)root.Attribute("viewBox")) is [var x, var y, var w, var h]
            ? SKRect.Create(x, y, w, h)
            : SKRect.Create(0, 0, Number(root, "width"), Number(root, "height"));
        if (box.Width <= 0 || box.Height <= 0 || box.Width / box.Height is > 20 or < 0.05f)
        {
            return Refuse("logo-size", "The SVG doesn’t say how large it is. Give it a viewBox.");
        }

        var walk = new Walk();
        walk.Into(root, SKMatrix.CreateTranslation(-box.Left, -box.Top), new Ink("#000000", null, 1), depth: 0);
        return walk.Shapes.Count == 0
            ? Refuse("logo-empty", "The SVG has no visible shapes.")
            : (new LogoArt(box.Width, box.Height, null, walk.Shapes), null);
    }

    /// <summary>Gathers the shapes of a drawing, group by group.</summary>
    private sealed class Walk
    {
        private int elements;
        private int pathData;

        public List<LogoShape> Shapes { get; } = [];

        /// <summary>Gathers what is in a group, where it is placed and with what it is painted.</summary>
        public void Into(XElement group, SKMatrix matrix, Ink ink, int depth)
        {
            if (depth > MostDepth)
            {
                throw TooDeep();
            }

            foreach (var element in group.Elements())
            {
                if (++elements > MostElements)
                {
                    throw TooMany();
                }

                if (Ignored.Contains(element.Name.LocalName))
                {
                    continue;
                }

                var placed = matrix.PreConcat(SvgTransform.Read((string?)element.Attribute("transform")));
                var painted = Ink.Of(element, ink);
                if (element.Name.LocalName is "g" or "a")
                {
                    Into(element, placed, painted, depth + 1);
                }
                else
                {
                    Paint(element, placed, painted);
                }
            }
        }

        /// <summary>The inside of a shape, and its outline as a shape of its own.</summary>
        private void Paint(XElement element, SKMatrix matrix, Ink ink)
        {
            using var path = PathOf(element);
            Add(path, ink.Fill, matrix);
            if (ink.Stroke is not null && ink.StrokeWidth > 0)
            {
                using var pen = new SKPaint { Style = SKPaintStyle.Stroke, StrokeWidth = ink.StrokeWidth };
                using var builder = new SKPathBuilder();
                pen.GetFillPath(path, builder);
                using var outline = builder.Detach();
                Add(outline, ink.Stroke, matrix);
            }
        }

        private void Add(SKPath path, string? color, SKMatrix matrix)
        {
            if (color is null)
            {
                return;
            }

            using var placed = new SKPath();
            path.Transform(matrix, placed);
            var data = placed.ToSvgPathData();
            pathData += data.Length;
            if (pathData > MostPathData)
            {
                throw new FormatException("The SVG has too much detail for a logo in a code. Simplify it, or use a PNG.");
            }

            Shapes.Add(new LogoShape(data, color));
        }
    }

    private static SKPath PathOf(XElement element)
    {
        float N(string name) => Number(element, name);
        using var path = new SKPathBuilder();
        switch (element.Name.LocalName)
        {
            case "path":
                return SKPath.ParseSvgPathData((string?)element.Attribute("d") ?? "")
                    ?? throw new FormatException("A path in the SVG can’t be read. Save it again as plain SVG.");
            case "rect":
                path.AddRoundRect(SKRect.Create(N("x"), N("y"), N("width"), N("height")), Math.Max(N("rx"), N("ry")), Math.Max(N("rx"), N("ry")));
                break;
            case "circle":
                path.AddCircle(N("cx"), N("cy"), N("r"));
                break;
            case "ellipse":
                path.AddOval(new SKRect(N("cx") - N("rx"), N("cy") - N("ry"), N("cx") + N("rx"), N("cy") + N("ry")));
                break;
            case "polygon" or "polyline":
                var points = Numbers((string?)element.Attribute("points")).Chunk(2).Where(p => p.Length == 2).Select(p => new SKPoint(p[0], p[1]));
                path.AddPoly([.. points], element.Name.LocalName == "polygon");
                break;
            case "line":
                path.MoveTo(N("x1"), N("y1"));
                path.LineTo(N("x2"), N("y2"));
                break;
            default:
                throw new FormatException(
                    $"The SVG has a <{element.Name.LocalName}>, which isn’t supported. Save it with plain shapes and text as paths, or use a PNG."
                );
        }

        return path.Detach();
    }

    private static float Number(XElement element, string name) => Numbers((string?)element.Attribute(name)) is [var number, ..] ? number : 0;

    internal static float[] Numbers(string? text) =>
        [
            .. (text ?? "")
                .Split([' ', ',', '\n', '\t', '\r'], StringSplitOptions.RemoveEmptyEntries)
                .Select(t =>
                    float.TryParse(t.AsSpan().TrimEnd("px"), NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
                    && float.IsFinite(number)
                        ? number
                        : 0
                ),
        ];

    private static (LogoArt?, ValidationError?) Refuse(string code, string text) => (null, new ValidationError(code, text));

    /// <summary>What shapes are painted with; groups pass theirs on. Null for none.</summary>
    private sealed record Ink(string? Fill, string? Stroke, float StrokeWidth)
    {
        public static Ink Of(XElement element, Ink outer)
        {
            var style = ((string?)element.Attribute("style") ?? "")
                .Split(';')
                .Select(d => d.Split(':', 2))
                .Where(d => d.Length == 2)
                .ToLookup(d => d[0].Trim(), d => d[1].Trim());
            string? Of(string name) => style[name].LastOrDefault() ?? (string?)element.Attribute(name);
            if (Of("display") == "none" || Of("visibility") == "hidden")
            {
                return new Ink(null, null, 0);
            }

            return new Ink(
                Color(Of("fill"), outer.Fill),
                Color(Of("stroke"), outer.Stroke),
                Numbers(Of("stroke-width")) is [var width, ..] ? width : outer.StrokeWidth
            );
        }

        private static string? Color(string? text, string? outer)
        {
            if (text is null or "inherit" or "currentColor")
            {
                return outer;
            }

            if (text is "none" or "transparent")
            {
                return null;
            }

            return SKColor.TryParse(text, out var color) || NamedColors.TryGetValue(text, out color)
                ? $"#{color.Red:x2}{color.Green:x2}{color.Blue:x2}"
                : throw new FormatException(
                    $"The SVG is painted with “{text}”; only plain colours are supported. Save it without gradients and style sheets, or use a PNG."
                );
        }

        private static readonly Dictionary<string, SKColor> NamedColors = typeof(SKColors)
            .GetFields()
            .Where(f => f.FieldType == typeof(SKColor))
            .ToDictionary(f => f.Name, f => (SKColor)f.GetValue(null)!, StringComparer.OrdinalIgnoreCase);
    }
}
