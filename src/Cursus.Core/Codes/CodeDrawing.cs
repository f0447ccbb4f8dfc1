namespace Cursus.Core.Codes;

/// <summary>A code as shapes, measured in modules from the upper left corner. What is drawn later lies above.</summary>
/// <param name="CodeAt">Where the symbol begins, behind quiet zone and frame.</param>
/// <param name="Logo">Where the logo is to be drawn; null without one.</param>
/// <param name="Caption">The frame's words; null without any.</param>
public sealed record CodeDrawing(
    double Width,
    double Height,
    (double X, double Y) CodeAt,
    IReadOnlyList<CodeLayer> Layers,
    LogoBox? Logo,
    CodeCaption? Caption
)
{
    private const double FrameLine = 1.2;
    private const double Band = 7;

    /// <summary>Draws a symbol.</summary>
    /// <param name="logoAspect">Width of the logo divided by its height.</param>
    public static CodeDrawing Of(CodeSymbol symbol, CodeStyle style, double logoAspect = 1)
    {
        ArgumentNullException.ThrowIfNull(symbol);
        ArgumentNullException.ThrowIfNull(style);
        var inner = symbol.Side + 2.0 * style.QuietZone;
        var line = style.Frame is { Shape: FrameShape.Around } ? FrameLine : 0;
        var (width, height) = (inner + 2 * line, inner + line + (style.Frame is null ? 0 : Band));
        var (x, y) = (line + style.QuietZone, line + style.QuietZone);
        var logo = style.Logo is { } wanted ? LogoBox.Of(wanted, symbol.Side, logoAspect) : null;
        var corners = symbol.Layout.Size.Side - 7;
        (double X, double Y)[] cornersAt = [(x, y), (x + corners, y), (x, y + corners)];
        var ink = new CodeFill(style.Ink, style.Gradient, x, y, symbol.Side);
        List<CodeLayer> layers = [];
        if (style.Ground is { } ground)
        {
            layers.Add(new CodeLayer("ground", new ShapePath().Rectangle(0, 0, width, height).ToString(), CodeFill.Of(ground)));
        }

        layers.Add(new CodeLayer("modules", ModulePath.Of(symbol, style.Modules, (row, column) => logo?.KnocksOut(row, column) ?? false, x, y), ink));
        layers.Add(new CodeLayer("corners", CornerPath.Rings(style.Corners, cornersAt), style.CornerInk is { } corner ? CodeFill.Of(corner) : ink));
        layers.Add(new CodeLayer("centres", CornerPath.Centres(style.Centres, cornersAt), style.CentreInk is { } centre ? CodeFill.Of(centre) : ink));
        if (style.Frame is { Shape: FrameShape.Around } around)
        {
            var frame = new ShapePath().Rounded(0, 0, width, height, 2).Rectangle(line, line, inner, inner);
            layers.Add(new CodeLayer("frame", frame.ToString(), CodeFill.Of(around.Color)));
        }

        var caption = style.Frame is { } framed
            ? new CodeCaption(
                framed.Text.Trim(),
                width / 2,
                height - Band / 2 + (line > 0 ? 0 : -1),
                3.4,
                width - 4,
                framed.Shape == FrameShape.Around ? framed.TextColor : framed.Color
            )
            : null;
        return new CodeDrawing(width, height, (x, y), layers, logo is null ? null : logo with { X = logo.X + x, Y = logo.Y + y }, caption);
    }
}

/// <summary>One shape of one colour.</summary>
/// <param name="Path">SVG path data (SVG 2, section 9.3), filled by the even-odd rule.</param>
public sealed record CodeLayer(string Name, string Path, CodeFill Fill);

/// <summary>What a layer is filled with: one colour, or a gradient over the symbol.</summary>
public sealed record CodeFill(string Color, CodeGradient? Gradient, double X, double Y, double Side)
{
    public static CodeFill Of(string color) => new(color, null, 0, 0, 0);
}

/// <summary>The frame's words.</summary>
/// <param name="Middle">Half the height of small letters stands above and below.</param>
/// <param name="Most">Longer words are written smaller.</param>
public sealed record CodeCaption(string Text, double Centre, double Middle, double Size, double Most, string Color);
