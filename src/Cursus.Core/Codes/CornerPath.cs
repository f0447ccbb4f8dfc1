namespace Cursus.Core.Codes;

/// <summary>The three large corner patterns, 7 modules wide: a ring of one module, and a centre of three. Readers look for dark and light as 1 : 1 :
/// 3 : 1 : 1 through the middle (ISO/IEC 18004, section 6.3.3), which every shape here keeps.</summary>
internal static class CornerPath
{
    public static string Rings(CornerShape shape, IEnumerable<(double X, double Y)> corners)
    {
        var path = new ShapePath();
        foreach (var (x, y) in corners)
        {
            _ = shape switch
            {
                CornerShape.Round => path.Rounded(x, y, 7, 7, 2).Rounded(x + 1, y + 1, 5, 5, 1.1),
                CornerShape.Soft => path.Rounded(x, y, 7, 7, 1.4).Rounded(x + 1, y + 1, 5, 5, 0.6),
                _ => path.Rectangle(x, y, 7, 7).Rectangle(x + 1, y + 1, 5, 5),
            };
        }

        return path.ToString();
    }

    public static string Centres(CornerShape shape, IEnumerable<(double X, double Y)> corners)
    {
        var path = new ShapePath();
        foreach (var (x, y) in corners)
        {
            _ = shape switch
            {
                CornerShape.Round => path.Rounded(x + 1.95, y + 1.95, 3.1, 3.1, 1.1),
                CornerShape.Soft => path.Rounded(x + 2, y + 2, 3, 3, 0.5),
                _ => path.Rectangle(x + 2, y + 2, 3, 3),
            };
        }

        return path.ToString();
    }
}
