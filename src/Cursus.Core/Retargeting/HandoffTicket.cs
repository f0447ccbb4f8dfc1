using System.Buffers;
using System.Buffers.Text;
using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using Cursus.Core.Links;

namespace Cursus.Core.Retargeting;

/// <summary>
/// What was decided of a visit that got the handoff page. The page sends it back with its reports, so that they are about what the visitor saw,
/// whatever has become of the link meanwhile. Written as the number of the page that the visitor is led to and the pixels that fire:
/// <c>0.ERERERERERERERERERERERE.…</c>. Holds nothing that the page doesn't show anyway.
/// </summary>
/// <param name="Page">Where the visitor is led.</param>
/// <param name="Pixels">Their ids in Cursus, in the order in which the page reports on them.</param>
public sealed record HandoffTicket(LinkPage Page, IReadOnlyList<Guid> Pixels)
{
    /// <summary>Characters of the longest ticket: the number, and a point and 22 characters for each pixel.</summary>
    public const int MaxLength = 3 + HandoffReport.MostPixels * (1 + IdLength);

    private const int IdLength = 22;

    /// <summary>Of a page that says nothing: it leads to the destination, and nothing fires.</summary>
    public static readonly HandoffTicket None = new(LinkPage.Destination, []);

    /// <summary>Reads what a page sent back.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out HandoffTicket? ticket)
    {
        ticket = null;
        if (
            text.Split('.') is not [var page, .. var ids]
            || ids.Length > HandoffReport.MostPixels
            || !byte.TryParse(page, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
        )
        {
            return false;
        }

        var pixels = new Guid[ids.Length];
        Span<byte> bytes = stackalloc byte[16];
        for (var i = 0; i < ids.Length; i++)
        {
            if (
                ids[i].Length != IdLength
                || Base64Url.DecodeFromChars(ids[i], bytes, out _, out var length) != OperationStatus.Done
                || length != bytes.Length
            )
            {
                return false;
            }

            pixels[i] = new Guid(bytes);
        }

        ticket = new HandoffTicket((LinkPage)number, pixels);
        return true;
    }

    public override string ToString() =>
        string.Join('.', Pixels.Select(p => Base64Url.EncodeToString(p.ToByteArray())).Prepend(((byte)Page).ToString(CultureInfo.InvariantCulture)));
}
