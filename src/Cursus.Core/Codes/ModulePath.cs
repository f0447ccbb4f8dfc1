namespace Cursus.Core.Codes;

/// <summary>All dark modules of a symbol as one path, its three large corners apart.</summary>
internal static class ModulePath
{
    private const double DotRadius = 0.5;
    private const double RoundedInset = 0.03;
    private const double RoundedRadius = 0.3;

    public static string Of(CodeSymbol symbol, ModuleShape shape, Func<int, int, bool> isLeftOut, double x, double y)
    {
        var path = new ShapePath();
        for (var row = 0; row < symbol.Side; row++)
        {
            for (var column = 0; column < symbol.Side; column++)
            {
                if (!IsDrawn(row, column))
                {
                    continue;
                }

                // The small patterns inside are whole in every shape: readers straighten the picture by them.
                switch (symbol.Layout.IsAlignment(row, column) ? ModuleShape.Square : shape)
                {
                    case ModuleShape.Dots:
                        path.Circle(x + column + 0.5, y + row + 0.5, DotRadius);
                        break;
                    case ModuleShape.Rounded:
                        path.Rounded(x + column + RoundedInset, y + row + RoundedInset, 1 - 2 * RoundedInset, 1 - 2 * RoundedInset, RoundedRadius);
                        break;
                    case ModuleShape.Connected:
                        var (above, below, before, after) = (
                            IsDrawn(row - 1, column),
                            IsDrawn(row + 1, column),
                            IsDrawn(row, column - 1),
                            IsDrawn(row, column + 1)
                        );
                        path.Rounded(
                            x + column,
                            y + row,
                            1,
                            1,
                            Radius(above, before),
                            Radius(above, after),
                            Radius(below, after),
                            Radius(below, before)
                        );
                        break;
                    default:
                        // A run of modules is one rectangle, which keeps the file small.
                        var first = column;
                        while (IsDrawn(row, column + 1) && (shape == ModuleShape.Square || symbol.Layout.IsAlignment(row, column + 1)))
                        {
                            column++;
                        }

                        path.Rectangle(x + first, y + row, column - first + 1, 1);
                        break;
                }
            }
        }

        return path.ToString();

        bool IsDrawn(int row, int column) =>
            row >= 0
            && column >= 0
            && row < symbol.Side
            && column < symbol.Side
            && symbol[row, column]
            && !symbol.Layout.IsCorner(row, column)
            && !isLeftOut(row, column);
    }

    private static double Radius(bool one, bool other) => one || other ? 0 : 0.5;
}
