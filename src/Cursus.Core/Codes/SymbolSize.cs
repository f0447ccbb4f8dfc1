namespace Cursus.Core.Codes;

/// <summary>
/// How a symbol of a version and correction level is divided (ISO/IEC 18004, tables 1, 7 and 9): codewords, blocks and what each block can correct.
/// The tables' numbers are from memory; tests hold them against symbols that another library makes, all 160 of them.
/// </summary>
/// <param name="Version">1 to 40.</param>
public readonly record struct SymbolSize(int Version, CorrectionLevel Level)
{
    /// <summary>The largest version of a symbol.</summary>
    public const int MaxVersion = 40;

    private static readonly byte[][] CorrectionPerBlock =
    [
        [
            7,
            10,
            15,
            20,
            26,
            18,
            20,
            24,
            30,
            18,
            20,
            24,
            26,
            30,
            22,
            24,
            28,
            30,
            28,
            28,
            28,
            28,
            30,
            30,
            26,
            28,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
        ],
        [
            10,
            16,
            26,
            18,
            24,
            16,
            18,
            22,
            22,
            26,
            30,
            22,
            22,
            24,
            24,
            28,
            28,
            26,
            26,
            26,
            26,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
            28,
        ],
        [
            13,
            22,
            18,
            26,
            18,
            24,
            18,
            22,
            20,
            24,
            28,
            26,
            24,
            20,
            30,
            24,
            28,
            28,
            26,
            30,
            28,
            30,
            30,
            30,
            30,
            28,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
        ],
        [
            17,
            28,
            22,
            16,
            22,
            28,
            26,
            26,
            24,
            28,
            24,
            28,
            22,
            24,
            24,
            30,
            28,
            28,
            26,
            28,
            30,
            24,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
            30,
        ],
    ];

    private static readonly byte[][] NumberOfBlocks =
    [
        [1, 1, 1, 1, 1, 2, 2, 2, 2, 4, 4, 4, 4, 4, 6, 6, 6, 6, 7, 8, 8, 9, 9, 10, 12, 12, 12, 13, 14, 15, 16, 17, 18, 19, 19, 20, 21, 22, 24, 25],
        [
            1,
            1,
            1,
            2,
            2,
            4,
            4,
            4,
            5,
            5,
            5,
            8,
            9,
            9,
            10,
            10,
            11,
            13,
            14,
            16,
            17,
            17,
            18,
            20,
            21,
            23,
            25,
            26,
            28,
            29,
            31,
            33,
            35,
            37,
            38,
            40,
            43,
            45,
            47,
            49,
        ],
        [
            1,
            1,
            2,
            2,
            4,
            4,
            6,
            6,
            8,
            8,
            8,
            10,
            12,
            16,
            12,
            17,
            16,
            18,
            21,
            20,
            23,
            23,
            25,
            27,
            29,
            34,
            34,
            35,
            38,
            40,
            43,
            45,
            48,
            51,
            53,
            56,
            59,
            62,
            65,
            68,
        ],
        [
            1,
            1,
            2,
            4,
            4,
            4,
            5,
            6,
            8,
            8,
            11,
            11,
            16,
            16,
            18,
            16,
            19,
            21,
            25,
            25,
            25,
            34,
            30,
            32,
            35,
            37,
            40,
            42,
            45,
            48,
            51,
            54,
            57,
            60,
            63,
            66,
            70,
            74,
            77,
            81,
        ],
    ];

    /// <summary>Modules on one side, without the quiet zone.</summary>
    public int Side => 17 + 4 * Version;

    /// <summary>Blocks that are corrected one by one.</summary>
    public int Blocks => NumberOfBlocks[(int)Level][Version - 1];

    /// <summary>Correction codewords of each block.</summary>
    public int CorrectionOfBlock => CorrectionPerBlock[(int)Level][Version - 1];

    /// <summary>All codewords of the symbol.</summary>
    public int Codewords => DataModules / 8;

    /// <summary>Codewords that hold the text.</summary>
    public int DataCodewords => Codewords - Blocks * CorrectionOfBlock;

    /// <summary>Wrong codewords that each block can correct. The smallest symbols keep some of the strength back against reading something else
    /// (table 9, note).</summary>
    public int CorrectableOfBlock => (CorrectionOfBlock - HeldBack) / 2;

    /// <summary>Data codewords of a block; the last blocks have one more where they can't be shared out evenly.</summary>
    public int DataOfBlock(int block) => Codewords / Blocks - CorrectionOfBlock + (block >= Blocks - Codewords % Blocks ? 1 : 0);

    /// <summary>Whether a text of so many bits, mode and length included, fits in.</summary>
    public bool Holds(int bits) => bits <= DataCodewords * 8;

    private int HeldBack =>
        (Version, Level) switch
        {
            (1, CorrectionLevel.L) => 3,
            (1, CorrectionLevel.M) or (2, CorrectionLevel.L) => 2,
            (1, _) or (3, CorrectionLevel.L) => 1,
            _ => 0,
        };

    /// <summary>Modules that hold codewords: all but those of patterns and of format and version information.</summary>
    private int DataModules
    {
        get
        {
            var modules = (16 * Version + 128) * Version + 64;
            if (Version >= 2)
            {
                var alignments = Version / 7 + 2;
                modules -= (25 * alignments - 10) * alignments - 55;
                modules -= Version >= 7 ? 36 : 0;
            }

            return modules;
        }
    }
}
