namespace Cursus.Core.Codes;

/// <summary>Where everything stands in a symbol (ISO/IEC 18004, sections 6.3 and 7.7): patterns that a reader looks for, and each codeword's modules
/// with the block it belongs to.</summary>
public sealed class SymbolLayout
{
    private readonly bool[,] isFixed;
    private readonly bool[,] isAlignment;
    private readonly int[,] codewords;
    private readonly int[] blocks;

    /// <param name="size">The symbol's version and level.</param>
    public SymbolLayout(SymbolSize size)
    {
        Size = size;
        isFixed = new bool[size.Side, size.Side];
        isAlignment = new bool[size.Side, size.Side];
        codewords = new int[size.Side, size.Side];
        MarkPatterns();
        PlaceCodewords();
        blocks = [.. Interleaved()];
    }

    public SymbolSize Size { get; }

    /// <summary>Rows, and as well columns, of the centres of alignment patterns.</summary>
    public IReadOnlyList<int> Alignments
    {
        get
        {
            if (Size.Version == 1)
            {
                return [];
            }

            var number = Size.Version / 7 + 2;
            var step = Size.Version == 32 ? 26 : (Size.Version * 4 + number * 2 + 1) / (number * 2 - 2) * 2;
            return [6, .. Enumerable.Range(0, number - 1).Select(i => Size.Side - 7 - (number - 2 - i) * step)];
        }
    }

    /// <summary>Whether a module is of a pattern, or of format or version information.</summary>
    public bool IsFixed(int row, int column) => isFixed[row, column];

    /// <summary>Whether a module is of one of the three large corner patterns.</summary>
    public bool IsCorner(int row, int column) => CornerOf(row, column, 7);

    /// <summary>Whether a module is of one of the small patterns that a picture is straightened by.</summary>
    public bool IsAlignment(int row, int column) => isAlignment[row, column];

    /// <summary>The place of a module's codeword in the symbol's sequence; -1 for patterns and for the few modules left over.</summary>
    public int CodewordAt(int row, int column) => codewords[row, column];

    /// <summary>The block that a codeword of the sequence belongs to.</summary>
    public int BlockOf(int codeword) => blocks[codeword];

    private bool CornerOf(int row, int column, int width) =>
        (row < width && column < width) || (row < width && column >= Size.Side - width) || (row >= Size.Side - width && column < width);

    private void MarkPatterns()
    {
        var alignments = Alignments;
        for (var row = 0; row < Size.Side; row++)
        {
            for (var column = 0; column < Size.Side; column++)
            {
                var isFormat = (row == 8 && (column < 9 || column >= Size.Side - 8)) || (column == 8 && (row < 9 || row >= Size.Side - 8));
                var isVersion = Size.Version >= 7 && ((row < 6 && column >= Size.Side - 11) || (column < 6 && row >= Size.Side - 11));
                isAlignment[row, column] = alignments.Any(r =>
                    Math.Abs(r - row) <= 2 && alignments.Any(c => Math.Abs(c - column) <= 2 && !CornerOf(r, c, 7))
                );
                isFixed[row, column] = CornerOf(row, column, 8) || row == 6 || column == 6 || isFormat || isVersion || isAlignment[row, column];
            }
        }
    }

    /// <summary>Codewords run up and down in pairs of columns from the right, past the column of the timing pattern.</summary>
    private void PlaceCodewords()
    {
        var bit = 0;
        for (var pair = Size.Side - 1; pair >= 1; pair -= 2)
        {
            var right = pair <= 6 ? pair - 1 : pair;
            var isUpward = ((right + 1) & 2) == 0;
            for (var step = 0; step < Size.Side; step++)
            {
                var row = isUpward ? Size.Side - 1 - step : step;
                foreach (var column in (ReadOnlySpan<int>)[right, right - 1])
                {
                    codewords[row, column] = !isFixed[row, column] && bit < Size.Codewords * 8 ? bit++ / 8 : -1;
                }
            }
        }

        for (var row = 0; row < Size.Side; row++)
        {
            codewords[row, 6] = -1;
        }
    }

    private IEnumerable<int> Interleaved()
    {
        var most = Size.DataOfBlock(Size.Blocks - 1);
        for (var place = 0; place < most + Size.CorrectionOfBlock; place++)
        {
            for (var block = 0; block < Size.Blocks; block++)
            {
                if (place >= most || place < Size.DataOfBlock(block))
                {
                    yield return block;
                }
            }
        }
    }
}
