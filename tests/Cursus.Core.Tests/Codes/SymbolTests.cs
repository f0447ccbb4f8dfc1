using Cursus.Core.Codes;
using QRCoder;

namespace Cursus.Core.Tests.Codes;

public class SymbolTests
{
    public static TheoryData<int> Versions => [.. Enumerable.Range(1, SymbolSize.MaxVersion)];

    /// <summary>ISO/IEC 18004:2015, annex I: the text 01234567 as version 1-M. Codewords and format information from memory.</summary>
    [Fact]
    public void The_standards_own_example_has_the_codewords_that_the_standard_prints()
    {
        var isDark = Symbol("01234567", QRCodeGenerator.ECCLevel.M, 1);
        var layout = new SymbolLayout(new SymbolSize(1, CorrectionLevel.M));
        var codewords = SymbolReader.Codewords(layout, isDark);
        Convert.ToHexString(codewords[..16]).ShouldBe("10200C566180EC11EC11EC11EC11EC11");
        Convert.ToHexString(codewords[16..]).ShouldBe("A524D4C1ED36C7872C55");
        SymbolReader.Format(isDark).Level.ShouldBe(CorrectionLevel.M);
    }

    /// <summary>ISO/IEC 18004:2015, annex C: fifteen bits, divisible by x^10 + x^8 + x^5 + x^4 + x^2 + x + 1 once the mask 101010000010010 is taken
    /// off; M with mask 010 is written 101111001111100 (from memory).</summary>
    [Fact]
    public void Format_information_is_coded_as_the_standard_says()
    {
        foreach (var level in Enum.GetValues<QRCodeGenerator.ECCLevel>().Where(l => l >= 0))
        {
            foreach (var text in new[] { "01234567", "HTTPS://NM.EX", "ORION", "7" })
            {
                var (read, mask, bits) = SymbolReader.Format(Symbol(text, level, 2));
                read.ToString().ShouldBe(level.ToString());
                Remainder(bits ^ 0b101010000010010, 0b10100110111).ShouldBe(0);
                if ((level, mask) is (QRCodeGenerator.ECCLevel.M, 2))
                {
                    bits.ShouldBe(0b101111001111100);
                }
            }
        }

        // The example of the annex itself, whatever masks the texts above were given.
        Remainder(0b101111001111100 ^ 0b101010000010010, 0b10100110111).ShouldBe(0);
    }

    /// <summary>ISO/IEC 18004:2015, annex D: eighteen bits, divisible by x^12 + x^11 + x^10 + x^9 + x^8 + x^5 + x^2 + 1; version 7 is written
    /// 000111110010010100 (from memory).</summary>
    [Fact]
    public void Version_information_is_coded_as_the_standard_says()
    {
        for (var version = 7; version <= SymbolSize.MaxVersion; version++)
        {
            var isDark = Symbol("HTTPS://NMOOR.EXAMPLE", QRCodeGenerator.ECCLevel.L, version);
            var side = new SymbolSize(version, CorrectionLevel.L).Side;
            var bits = Enumerable.Range(0, 18).Aggregate(0, (sum, i) => sum | (isDark(side - 11 + i % 3, i / 3) ? 1 << i : 0));
            (bits >> 12).ShouldBe(version);
            Remainder(bits, 0b1111100100101).ShouldBe(0);
            if (version == 7)
            {
                bits.ShouldBe(0b000111110010010100);
            }
        }
    }

    private static int Remainder(int bits, int generator)
    {
        var degree = int.Log2(generator);
        for (var shift = 31 - degree - 1; shift >= 0; shift--)
        {
            bits ^= (bits >> (shift + degree) & 1) == 1 ? generator << shift : 0;
        }

        return bits;
    }

    [Theory]
    [MemberData(nameof(Versions))]
    public void Tables_and_places_fit_symbols_that_another_library_makes(int version)
    {
        foreach (var level in Enum.GetValues<CorrectionLevel>())
        {
            var layout = new SymbolLayout(new SymbolSize(version, level));
            var isDark = Symbol("HTTPS://NMOOR.EXAMPLE", Enum.Parse<QRCodeGenerator.ECCLevel>(level.ToString()), version, out var fits);
            if (!fits)
            {
                continue;
            }

            SymbolReader.Format(isDark).Level.ShouldBe(level);
            var codewords = SymbolReader.Codewords(layout, isDark);
            codewords.Length.ShouldBe(layout.Size.Codewords);
            SymbolReader
                .Blocks(layout, codewords)
                .ShouldAllBe(block => SymbolReader.IsWhole(block, layout.Size.CorrectionOfBlock), $"version {version}-{level}");
        }
    }

    /// <summary>Capacities of ISO/IEC 18004:2015, table 7, from memory: bits of data, and characters in alphanumeric and byte mode.</summary>
    [Theory]
    [InlineData(1, CorrectionLevel.L, 152, 25, 17)]
    [InlineData(1, CorrectionLevel.M, 128, 20, 14)]
    [InlineData(1, CorrectionLevel.H, 72, 10, 7)]
    [InlineData(2, CorrectionLevel.Q, 176, 29, 20)]
    [InlineData(3, CorrectionLevel.M, 352, 61, 42)]
    [InlineData(4, CorrectionLevel.H, 288, 50, 34)]
    [InlineData(5, CorrectionLevel.Q, 496, 87, 60)]
    [InlineData(10, CorrectionLevel.M, 1728, 311, 213)]
    [InlineData(40, CorrectionLevel.L, 23648, 4296, 2953)]
    [InlineData(40, CorrectionLevel.H, 10208, 1852, 1273)]
    public void A_symbol_holds_as_much_as_the_standards_table_says(int version, CorrectionLevel level, int bits, int alphanumeric, int bytes)
    {
        var size = new SymbolSize(version, level);
        (size.DataCodewords * 8).ShouldBe(bits);
        var lengthBits =
            version < 10 ? (9, 8)
            : version < 27 ? (11, 16)
            : (13, 16);
        size.Holds(4 + lengthBits.Item1 + alphanumeric / 2 * 11 + alphanumeric % 2 * 6).ShouldBeTrue();
        size.Holds(4 + lengthBits.Item1 + (alphanumeric + 1) / 2 * 11 + (alphanumeric + 1) % 2 * 6).ShouldBeFalse();
        size.Holds(4 + lengthBits.Item2 + bytes * 8).ShouldBeTrue();
        size.Holds(4 + lengthBits.Item2 + (bytes + 1) * 8).ShouldBeFalse();
    }

    /// <summary>ISO/IEC 18004:2015, table 9, from memory: what each block corrects, with what the smallest symbols hold back.</summary>
    [Theory]
    [InlineData(1, CorrectionLevel.L, 2)]
    [InlineData(1, CorrectionLevel.M, 4)]
    [InlineData(1, CorrectionLevel.Q, 6)]
    [InlineData(1, CorrectionLevel.H, 8)]
    [InlineData(2, CorrectionLevel.L, 4)]
    [InlineData(3, CorrectionLevel.L, 7)]
    [InlineData(4, CorrectionLevel.H, 8)]
    [InlineData(5, CorrectionLevel.M, 12)]
    public void A_block_corrects_what_the_standards_table_says(int version, CorrectionLevel level, int correctable) =>
        new SymbolSize(version, level).CorrectableOfBlock.ShouldBe(correctable);

    /// <summary>ISO/IEC 18004:2015, annex E, from memory.</summary>
    [Theory]
    [InlineData(2, new[] { 6, 18 })]
    [InlineData(7, new[] { 6, 22, 38 })]
    [InlineData(15, new[] { 6, 26, 48, 70 })]
    [InlineData(32, new[] { 6, 34, 60, 86, 112, 138 })]
    [InlineData(40, new[] { 6, 30, 58, 86, 114, 142, 170 })]
    public void Small_patterns_stand_where_the_standards_table_says(int version, int[] centres) =>
        new SymbolLayout(new SymbolSize(version, CorrectionLevel.M)).Alignments.ShouldBe(centres);

    private static Func<int, int, bool> Symbol(string text, QRCodeGenerator.ECCLevel level, int version) => Symbol(text, level, version, out _);

    private static Func<int, int, bool> Symbol(string text, QRCodeGenerator.ECCLevel level, int version, out bool fits)
    {
        try
        {
            var matrix = QRCodeGenerator.GenerateQrCode(text, level, requestedVersion: version).ModuleMatrix;
            fits = true;
            return (row, column) => matrix[row + 4][column + 4];
        }
        catch (QRCoder.Exceptions.DataTooLongException)
        {
            fits = false;
            return (_, _) => false;
        }
    }
}
