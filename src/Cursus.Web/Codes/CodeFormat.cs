using Cursus.Core;
using Cursus.Core.Codes;
using Cursus.Web.Problems;

namespace Cursus.Web.Codes;

/// <summary>A kind of file that codes are written as.</summary>
/// <param name="IsMeasuredInMm">True where a size is millimetres, false where it is dots.</param>
internal sealed record CodeFormat(string Ending, string Type, bool IsMeasuredInMm, Func<FinishedCode, int, PrintPlace, byte[]> Write)
{
    private const int UsualPixels = 1024;
    private const int LeastPixels = 64;
    private const int LeastMm = 10;
    private const int MostMm = 1000;

    public static readonly IReadOnlyList<CodeFormat> All =
    [
        new("svg", "image/svg+xml", false, (code, width, _) => CodePictures.Svg(code, width)),
        new("png", "image/png", false, (code, width, place) => CodePictures.Png(code, Fitted(code, width), place.WidthMm)),
        new("pdf", "application/pdf", true, (code, width, _) => CodePictures.Pdf(code, width)),
    ];

    /// <summary>With a frame below, a picture is higher than wide; neither side is longer than the longest.</summary>
    private static int Fitted(FinishedCode code, int width) =>
        code.Draw() is var drawing && CodePictures.HeightOf(drawing, width) > CodePictures.MostPixels
            ? (int)(CodePictures.MostPixels * drawing.Width / drawing.Height)
            : width;

    /// <summary>A format by its ending; null with an error where there is none.</summary>
    public static CodeFormat? Read(string ending, FieldErrors errors)
    {
        var format = All.FirstOrDefault(f => f.Ending == ending);
        if (format is null)
        {
            errors.Add("format", new ValidationError("format-unknown", "Choose svg, png or pdf."));
        }

        return format;
    }

    public void CheckSize(int? size, FieldErrors errors)
    {
        if (size is { } wanted && (IsMeasuredInMm ? wanted is < LeastMm or > MostMm : wanted is < LeastPixels or > CodePictures.MostPixels))
        {
            errors.Add(
                "size",
                new ValidationError(
                    "size",
                    IsMeasuredInMm
                        ? $"Choose a width of {LeastMm} to {MostMm:N0} mm."
                        : $"Choose a width of {LeastPixels} to {CodePictures.MostPixels:N0} pixels."
                )
            );
        }
    }

    public int UsualSize(PrintPlace place) => IsMeasuredInMm ? place.WidthMm : UsualPixels;
}
