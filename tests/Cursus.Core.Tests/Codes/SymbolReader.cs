using Cursus.Core.Codes;

namespace Cursus.Core.Tests.Codes;

/// <summary>Reads a symbol as ISO/IEC 18004 says (sections 7 and 12), written apart from what makes it; numbers of the standard from
/// memory.</summary>
internal static class SymbolReader
{
    private static readonly byte[] Exponents = new byte[512];
    private static readonly int[] Logarithms = new int[256];

    static SymbolReader()
    {
        for (int i = 0, value = 1; i < 255; i++)
        {
            Exponents[i] = Exponents[i + 255] = (byte)value;
            Logarithms[value] = i;
            value = value << 1 ^ (value >= 128 ? 0x11D : 0);
        }
    }

    /// <summary>Level and mask by the format information at the upper left corner (section 7.9): five bits of data, ten of correction,
    /// masked.</summary>
    public static (CorrectionLevel Level, int Mask, int Bits) Format(Func<int, int, bool> isDark)
    {
        (int Row, int Column)[] places =
        [
            (8, 0),
            (8, 1),
            (8, 2),
            (8, 3),
            (8, 4),
            (8, 5),
            (8, 7),
            (8, 8),
            (7, 8),
            (5, 8),
            (4, 8),
            (3, 8),
            (2, 8),
            (1, 8),
            (0, 8),
        ];
        var bits = places.Aggregate(0, (sum, p) => sum << 1 | (isDark(p.Row, p.Column) ? 1 : 0));
        var data = (bits ^ 0b101010000010010) >> 10;
        return (
            (data >> 3) switch
            {
                0 => CorrectionLevel.M,
                1 => CorrectionLevel.L,
                2 => CorrectionLevel.H,
                _ => CorrectionLevel.Q,
            },
            data & 7,
            bits
        );
    }

    /// <summary>The codewords of the symbol's sequence, mask taken off (section 7.8.2, table 10).</summary>
    public static byte[] Codewords(SymbolLayout layout, Func<int, int, bool> isDark)
    {
        var mask = Format(isDark).Mask;
        var bits = new Dictionary<int, List<(int Order, bool Bit)>>();
        var order = 0;
        for (var pair = layout.Size.Side - 1; pair >= 1; pair -= 2)
        {
            var right = pair <= 6 ? pair - 1 : pair;
            for (var step = 0; step < layout.Size.Side; step++)
            {
                var row = ((right + 1) & 2) == 0 ? layout.Size.Side - 1 - step : step;
                foreach (var column in new[] { right, right - 1 })
                {
                    if (layout.CodewordAt(row, column) is >= 0 and var codeword)
                    {
                        bits.TryAdd(codeword, []);
                        bits[codeword].Add((order++, isDark(row, column) ^ IsMasked(mask, row, column)));
                    }
                }
            }
        }

        return [.. bits.OrderBy(c => c.Key).Select(c => (byte)c.Value.OrderBy(b => b.Order).Aggregate(0, (sum, b) => sum << 1 | (b.Bit ? 1 : 0)))];
    }

    /// <summary>Codewords by block, data before correction.</summary>
    public static IReadOnlyList<byte[]> Blocks(SymbolLayout layout, byte[] codewords) =>
        [.. codewords.Index().GroupBy(c => layout.BlockOf(c.Index)).OrderBy(b => b.Key).Select(b => b.Select(c => c.Item).ToArray())];

    /// <summary>Whether a block is a codeword of the Reed-Solomon code with so many correction codewords: it has no remainder at any power of the
    /// generator's roots.</summary>
    public static bool IsWhole(byte[] block, int correction) => Enumerable.Range(0, correction).All(root => Evaluate(block, root) == 0);

    private static byte Evaluate(byte[] block, int root) =>
        block.Aggregate((byte)0, (sum, codeword) => (byte)((sum == 0 ? 0 : Exponents[Logarithms[sum] + root]) ^ codeword));

    private static bool IsMasked(int mask, int i, int j) =>
        mask switch
        {
            0 => (i + j) % 2 == 0,
            1 => i % 2 == 0,
            2 => j % 3 == 0,
            3 => (i + j) % 3 == 0,
            4 => (i / 2 + j / 3) % 2 == 0,
            5 => i * j % 2 + i * j % 3 == 0,
            6 => (i * j % 2 + i * j % 3) % 2 == 0,
            _ => ((i + j) % 2 + i * j % 3) % 2 == 0,
        };
}
