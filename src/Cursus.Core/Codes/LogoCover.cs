namespace Cursus.Core.Codes;

/// <summary>How much a logo takes of what a symbol can correct.</summary>
public static class LogoCover
{
    /// <summary>A logo may take at most this share of what the worst block can correct; the rest is for dirt, folds and bad light (common practice,
    /// no source).</summary>
    public const double MostOfCorrection = 0.45;

    /// <summary>Share of a symbol that a logo lies over, its margin apart.</summary>
    public static double Of(CodeLogo logo, double aspect)
    {
        ArgumentNullException.ThrowIfNull(logo);
        return logo.Percent / 100.0 * logo.Percent / 100.0 * Math.Min(aspect, 1 / aspect);
    }

    /// <summary>Share of the worst block's correction that is taken if every codeword with a module under the logo is read wrong.</summary>
    public static double CorrectionTaken(CodeLogo logo, SymbolLayout layout, double aspect)
    {
        ArgumentNullException.ThrowIfNull(logo);
        ArgumentNullException.ThrowIfNull(layout);
        var box = LogoBox.Of(logo, layout.Size.Side, aspect);
        var touched = new HashSet<int>();
        for (var row = 0; row < layout.Size.Side; row++)
        {
            for (var column = 0; column < layout.Size.Side; column++)
            {
                if (box.Touches(row, column) && layout.CodewordAt(row, column) is >= 0 and var codeword)
                {
                    touched.Add(codeword);
                }
            }
        }

        return (double)touched.CountBy(layout.BlockOf).Select(b => b.Value).DefaultIfEmpty(0).Max() / layout.Size.CorrectableOfBlock;
    }
}
