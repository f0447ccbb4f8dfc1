namespace Cursus.Core.Codes;

/// <summary>Where a logo stands.</summary>
/// <param name="FreeRows">Modules kept free, from the symbol's upper left corner; null where none are.</param>
public sealed record LogoBox(double X, double Y, double Width, double Height, (int First, int Last)? FreeRows, (int First, int Last)? FreeColumns)
{
    /// <summary>Whether a module is left out for the logo.</summary>
    public bool KnocksOut(int row, int column) =>
        FreeRows is { } rows
        && FreeColumns is { } columns
        && row >= rows.First
        && row <= rows.Last
        && column >= columns.First
        && column <= columns.Last;

    /// <summary>Whether a module is left out or lies under the logo, if only in part.</summary>
    public bool Touches(int row, int column) => KnocksOut(row, column) || (row + 1 > Y && row < Y + Height && column + 1 > X && column < X + Width);

    /// <summary>Places a logo in the middle of a symbol.</summary>
    public static LogoBox Of(CodeLogo logo, int side, double aspect)
    {
        ArgumentNullException.ThrowIfNull(logo);
        var longer = side * logo.Percent / 100.0;
        var (width, height) = aspect >= 1 ? (longer, longer / aspect) : (longer * aspect, longer);
        return new LogoBox(
            (side - width) / 2,
            (side - height) / 2,
            width,
            height,
            logo.KnocksOut ? Free(height) : null,
            logo.KnocksOut ? Free(width) : null
        );

        (int, int) Free(double extent) =>
            ((int)Math.Floor((side - extent) / 2 - logo.Margin), (int)Math.Ceiling((side + extent) / 2 + logo.Margin) - 1);
    }
}
