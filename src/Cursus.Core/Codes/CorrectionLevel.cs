namespace Cursus.Core.Codes;

/// <summary>How much of a symbol may be lost: about 7, 15, 25 or 30 per cent of its codewords (ISO/IEC 18004, table 12).</summary>
public enum CorrectionLevel
{
    L,
    M,
    Q,
    H,
}
