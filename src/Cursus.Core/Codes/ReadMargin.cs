namespace Cursus.Core.Codes;

/// <summary>How much of a code's strength a picture of it leaves: what was seen at every module's place, held against what stands there.</summary>
/// <param name="WrongInWorstBlock">Wrong codewords of the block that is worst off.</param>
/// <param name="Correctable">Wrong codewords that this block can correct.</param>
/// <param name="WrongInWorstCorner">Wrong modules of the cross of the corner pattern that is worst off: its three middle rows and columns, where
/// readers look for it.</param>
public sealed record ReadMargin(int WrongInWorstBlock, int Correctable, int WrongInWorstCorner)
{
    /// <summary>So many wrong modules of 33 make a corner pattern hard to find (common practice, no source; held against decoders by
    /// tests).</summary>
    private const double CornerAllowance = 6;

    /// <summary>What is left, in per cent: 100 where all was seen right, 0 or less where it can't be read.</summary>
    public double Percent => 100 * Math.Min(1 - (double)WrongInWorstBlock / Correctable, 1 - WrongInWorstCorner / CornerAllowance);

    /// <summary>Counts what was seen wrong.</summary>
    /// <param name="seenDark">By row and column.</param>
    public static ReadMargin Of(CodeSymbol symbol, Func<int, int, bool> seenDark)
    {
        ArgumentNullException.ThrowIfNull(symbol);
        ArgumentNullException.ThrowIfNull(seenDark);
        var wrong = new HashSet<int>();
        var corners = new int[3];
        for (var row = 0; row < symbol.Side; row++)
        {
            for (var column = 0; column < symbol.Side; column++)
            {
                if (seenDark(row, column) == symbol[row, column])
                {
                    continue;
                }

                if (symbol.Layout.IsCorner(row, column))
                {
                    var (inRow, inColumn) = (row < 7 ? row : row - symbol.Side + 7, column < 7 ? column : column - symbol.Side + 7);
                    corners[
                        row >= 7 ? 2
                        : column >= 7 ? 1
                        : 0
                    ] += inRow is >= 2 and <= 4 || inColumn is >= 2 and <= 4 ? 1 : 0;
                }
                else if (symbol.Layout.CodewordAt(row, column) is >= 0 and var codeword)
                {
                    wrong.Add(codeword);
                }
            }
        }

        var worst = wrong.CountBy(symbol.Layout.BlockOf).Select(b => b.Value).DefaultIfEmpty(0).Max();
        return new ReadMargin(worst, symbol.Size.CorrectableOfBlock, corners.Max());
    }
}
