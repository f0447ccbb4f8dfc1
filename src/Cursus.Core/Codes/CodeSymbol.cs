using QRCoder;

namespace Cursus.Core.Codes;

/// <summary>The modules of one code, dark or light, without quiet zone.</summary>
public sealed class CodeSymbol
{
    /// <summary>A logo that covers more of the symbol than this asks for the strongest correction.</summary>
    public const double LargeLogo = 0.08;

    /// <summary>So many versions larger than needed a symbol may become to make up for a logo.</summary>
    private const int MostGrowth = 1;

    private const int QuietOfLibrary = 4;

    private readonly bool[,] isDark;

    private CodeSymbol(CodePayload payload, SymbolLayout layout, bool[,] isDark) => (Payload, Layout, this.isDark) = (payload, layout, isDark);

    public CodePayload Payload { get; }

    public SymbolLayout Layout { get; }

    public SymbolSize Size => Layout.Size;

    /// <summary>Modules on one side.</summary>
    public int Side => Size.Side;

    public bool this[int row, int column] => isDark[row, column];

    /// <summary>Makes the smallest symbol that holds the payload; correction is as strong as that size allows for free. For a logo it grows where
    /// that leaves enough correction.</summary>
    /// <param name="logo">Null without one.</param>
    /// <param name="logoAspect">Width of the logo divided by its height.</param>
    public static CodeSymbol Of(CodePayload payload, CodeLogo? logo = null, double logoAspect = 1)
    {
        ArgumentNullException.ThrowIfNull(payload);
        var size = logo is null ? SizeOf(payload, CorrectionLevel.M) : SizeWith(logo, logoAspect, payload);
        using var data = QRCodeGenerator.GenerateQrCode(
            payload.Text,
            Enum.Parse<QRCodeGenerator.ECCLevel>(size.Level.ToString()),
            requestedVersion: size.Version
        );
        var isDark = new bool[size.Side, size.Side];
        for (var row = 0; row < size.Side; row++)
        {
            for (var column = 0; column < size.Side; column++)
            {
                isDark[row, column] = data.ModuleMatrix[row + QuietOfLibrary][column + QuietOfLibrary];
            }
        }

        return new CodeSymbol(payload, new SymbolLayout(size), isDark);
    }

    private static SymbolSize SizeWith(CodeLogo logo, double aspect, CodePayload payload)
    {
        var least = SizeOf(payload, LogoCover.Of(logo, aspect) > LargeLogo ? CorrectionLevel.H : CorrectionLevel.Q);
        return Enumerable
            .Range(least.Version, MostGrowth + 1)
            .Select(v => Strongest(payload, new SymbolSize(Math.Min(v, SymbolSize.MaxVersion), least.Level)))
            .Cast<SymbolSize?>()
            .FirstOrDefault(size => LogoCover.CorrectionTaken(logo, new SymbolLayout(size!.Value), aspect) <= LogoCover.MostOfCorrection)
            ?? least;
    }

    private static SymbolSize SizeOf(CodePayload payload, CorrectionLevel least) =>
        Strongest(payload, payload.Least(least) ?? throw new ArgumentException("This address is too long for a QR code.", nameof(payload)));

    private static SymbolSize Strongest(CodePayload payload, SymbolSize size)
    {
        while (
            size.Level < CorrectionLevel.H
            && new SymbolSize(size.Version, size.Level + 1) is var stronger
            && stronger.Holds(payload.BitsIn(size.Version))
        )
        {
            size = stronger;
        }

        return size;
    }
}
