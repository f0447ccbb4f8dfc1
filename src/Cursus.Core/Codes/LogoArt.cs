namespace Cursus.Core.Codes;

/// <summary>A logo as it is kept: a picture, or shapes of one colour each, measured from the upper left corner.</summary>
/// <param name="Png">The picture's bytes; null where it is made of shapes.</param>
public sealed record LogoArt(double Width, double Height, byte[]? Png, IReadOnlyList<LogoShape> Shapes)
{
    /// <summary>Width divided by height.</summary>
    public double Aspect => Width / Height;
}

/// <param name="Path">SVG path data, filled by the non-zero rule.</param>
/// <param name="Color"><c>#rrggbb</c>.</param>
public sealed record LogoShape(string Path, string Color);
