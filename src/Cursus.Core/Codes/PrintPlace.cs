namespace Cursus.Core.Codes;

/// <summary>Where a code is going to be seen.</summary>
/// <param name="WidthMm">Width of the code with its quiet zone.</param>
public sealed record PrintPlace(string Key, string Name, int WidthMm)
{
    /// <summary>The least width of a module that a phone held in the hand reads from paper, in mm (common practice, no source).</summary>
    public const double LeastModuleMm = 0.4;

    /// <summary>The places that Cursus knows, the smallest first. Widths are common practice, no source.</summary>
    public static readonly IReadOnlyList<PrintPlace> All =
    [
        new("business-card", "Business card", 20),
        new("sticker", "Sticker", 35),
        new("a4-poster", "A4 poster", 60),
        new("shop-window", "Shop window", 150),
        new("a1-poster", "A1 poster", 200),
        new("slide", "Slide on a screen", 400),
    ];

    /// <summary>From how far it is read: ten times its width (common practice, no source).</summary>
    public double DistanceMetres => WidthMm / 100.0;

    /// <summary>Width of one module.</summary>
    /// <param name="modules">On one side, with the quiet zone.</param>
    public double ModuleMm(double modules) => WidthMm / modules;
}
