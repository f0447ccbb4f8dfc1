using Cursus.Core.Codes;

namespace Cursus.Web.Codes;

/// <summary>Everything that one QR code is drawn from.</summary>
/// <param name="Symbol">Its modules.</param>
/// <param name="Logo">The style's logo; null without one.</param>
internal sealed record FinishedCode(CodeSymbol Symbol, CodeStyle Style, LogoArt? Logo)
{
    /// <summary>The address in it, as a person would write it.</summary>
    public string Address => Symbol.Payload.Plain;

    public double LogoAspect => Logo?.Aspect ?? 1;

    /// <param name="shortUrl">The link's short address.</param>
    /// <param name="number">Of the code in its link; see <see cref="ScannedPath"/>.</param>
    public static FinishedCode Of(string shortUrl, int number, CodeStyle style, LogoArt? logo) => Of(CodePayload.Of(shortUrl, number), style, logo);

    /// <summary>The same code in another look.</summary>
    public FinishedCode In(CodeStyle style) => Of(Symbol.Payload, style, style.Logo is null ? null : Logo);

    public CodeDrawing Draw() => CodeDrawing.Of(Symbol, Style, LogoAspect);

    private static FinishedCode Of(CodePayload payload, CodeStyle style, LogoArt? logo) =>
        new(CodeSymbol.Of(payload, style.Logo, logo?.Aspect ?? 1), style, logo);
}
