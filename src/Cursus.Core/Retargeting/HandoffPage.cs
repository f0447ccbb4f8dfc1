using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Cursus.Core.Retargeting;

/// <summary>A pixel as the handoff page fires it.</summary>
/// <param name="Reference">The id in the network, or the address.</param>
public sealed record HandoffPixel(AdNetwork Network, string Reference);

/// <summary>
/// The brief page that fires pixels, asks for consent where needed, and goes on. Nothing in it is code but one script that is the same for every
/// link: what differs stands in a block of data, so that no text of anybody can become script, and the policy can name the script by its hash and the
/// networks by their hosts.
/// </summary>
/// <param name="Slug">Tells the link when the page reports back.</param>
/// <param name="Ticket">What was decided of this visit; sent back with each report.</param>
/// <param name="Query">The visitor's own query, for a browser that answers the question without scripts.</param>
/// <param name="Destination">Where it goes on to.</param>
/// <param name="Values">What macros stand for, apart from the pixel's own id.</param>
/// <param name="DeadlineMilliseconds">How long networks are waited for.</param>
/// <param name="HidesReferrer">True where the destination isn't to learn from which page the visitor came.</param>
public sealed record HandoffPage(
    string Slug,
    HandoffTicket Ticket,
    string Query,
    string Destination,
    IReadOnlyList<HandoffPixel> Pixels,
    PixelValues Values,
    int DeadlineMilliseconds,
    bool HidesReferrer,
    HandoffQuestion? Question,
    HandoffLook Look
)
{
    /// <summary>Path on each short domain where the page reports back.</summary>
    public const string ReportPath = ".well-known/cursus-handoff";

    private static readonly JsonSerializerOptions Json = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>What the Referrer-Policy says. The page that was left is out of reach by now: the destination learns the short domain, or
    /// nothing.</summary>
    public string ReferrerPolicy => HidesReferrer ? "no-referrer" : "strict-origin-when-cross-origin";

    /// <summary>The page, with the Content-Security-Policy that lets it do just what it must.</summary>
    public (byte[] Html, string ContentSecurity) Write()
    {
        var fired = Pixels.Select(p => (p.Network, Filled: Fill(p))).ToList();
        var html = new StringBuilder();
        Look.WriteHead(html, Question);
        if (Question is null)
        {
            WriteWithoutScript(html, fired);
        }

        Look.WriteMain(html, Question, [.. Pixels.Select(p => p.Network.Name)], this);

        // A block of data ends only at "</script" and is told otherwise only by "<!--" (HTML Standard, section 4.12.1.3): without the one sign
        // that both begin with, nothing gets out of it.
        var data = Data(fired).ToJsonString(Json).Replace("<", "\\u003c", StringComparison.Ordinal);
        html.Append("<script type=\"application/json\" id=\"d\">")
            .Append(data)
            .Append("</script><script>")
            .Append(Script.Text)
            .Append("</script></html>");
        return (Encoding.UTF8.GetBytes(html.ToString()), Policy(fired));
    }

    /// <summary>The same packed by gzip. Nothing in the page is secret, so that its length gives nothing away.</summary>
    public (byte[] Html, string ContentSecurity) WritePacked()
    {
        var (html, contentSecurity) = Write();
        using var packed = new MemoryStream(html.Length);
        using (var gzip = new GZipStream(packed, CompressionLevel.Fastest))
        {
            gzip.Write(html);
        }

        return (packed.ToArray(), contentSecurity);
    }

    private (string Text, string Hash) Script => HandoffScript.Of(Pixels.Any(p => p.Network.Fires.RunsScript), Question is not null);

    /// <summary>For browsers without scripts: the pictures, one that tells us that they were asked for, and a second of time for all of it.</summary>
    private void WriteWithoutScript(StringBuilder html, List<(AdNetwork Network, FilledPixel Filled)> fired)
    {
        html.Append("<noscript><meta http-equiv=\"refresh\" content=\"1;url=").Append(HandoffLook.Encoded(Destination)).Append("\">");
        foreach (var (_, pixel) in fired.Where(f => !f.Network.Fires.RunsScript))
        {
            html.Append("<img alt=\"\" referrerpolicy=\"unsafe-url\" src=\"").Append(HandoffLook.Encoded(pixel.Address)).Append("\">");
        }

        html.Append("<img alt=\"\" src=\"/")
            .Append(ReportPath)
            .Append("?slug=")
            .Append(HandoffLook.Encoded(Uri.EscapeDataString(Slug)))
            .Append("&amp;ticket=")
            .Append(Ticket)
            .Append("\"></noscript>");
    }

    private JsonObject Data(IEnumerable<(AdNetwork Network, FilledPixel Filled)> fired) =>
        new()
        {
            ["to"] = Destination,
            ["slug"] = Slug,
            ["ticket"] = Ticket.ToString(),
            ["path"] = "/" + ReportPath,
            ["wait"] = DeadlineMilliseconds,
            ["pixels"] = new JsonArray([.. fired.Select(f => f.Filled.ToJson(f.Network))]),
        };

    private FilledPixel Fill(HandoffPixel pixel)
    {
        var values = Values with { Id = pixel.Reference, Event = pixel.Network.Event };
        return PixelTemplate.TryParseAddress(pixel.Network.AddressOf(pixel.Reference), out var address, out _)
            ? new FilledPixel(address.FillAddress(values), [.. (pixel.Network.Fires.Calls ?? []).Select(c => PixelCalls.Fill(c, values))])
            : throw new InvalidOperationException($"A pixel of {pixel.Network.Name} was saved without being checked.");
    }

    /// <summary>Allows the page its own script and style and the networks' hosts (W3C Content Security Policy Level 3), each for what its kind
    /// needs.</summary>
    private string Policy(List<(AdNetwork Network, FilledPixel Filled)> fired)
    {
        var (pictures, messages, scripts) = (
            new SortedSet<string>(StringComparer.Ordinal),
            new SortedSet<string>(StringComparer.Ordinal),
            new SortedSet<string>(StringComparer.Ordinal)
        );
        foreach (var (network, filled) in fired)
        {
            var own = PixelTemplate.OriginOf(filled.Address)!;
            switch (network.Fires.Kind)
            {
                case PixelKind.Image:
                    pictures.Add(own);
                    break;
                case PixelKind.Beacon:
                    messages.Add(own);
                    pictures.Add(own);
                    break;
                default:
                    foreach (var host in (network.Hosts ?? []).Prepend(own).Where(h => PixelTemplate.OriginOf(h) == h))
                    {
                        pictures.Add(host);
                        messages.Add(host);
                        scripts.Add(host);
                    }

                    break;
            }
        }

        return $"default-src 'none'; script-src {string.Join(' ', scripts.Prepend($"'sha256-{Script.Hash}'"))}; style-src 'sha256-{HashOf(Look.Style(Question))}'; "
            + $"img-src {string.Join(' ', pictures.Prepend("data:").Prepend("'self'"))}; connect-src {string.Join(' ', messages.Prepend("'self'"))}; "
            + "base-uri 'none'; form-action 'self'; frame-ancestors 'none'";
    }

    internal static string HashOf(string text) => Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(text)));

    private sealed record FilledPixel(string Address, IReadOnlyList<JsonNode?> Calls)
    {
        public JsonObject ToJson(AdNetwork network)
        {
            var pixel = new JsonObject { ["kind"] = KindOf(network.Fires.Kind), ["address"] = Address };
            if (network.Fires.RunsScript)
            {
                pixel["queue"] = network.Fires.Queue;
                pixel["calls"] = new JsonArray([.. Calls]);
                pixel["hosts"] = new JsonArray([
                    .. (network.Hosts ?? []).Prepend(PixelTemplate.OriginOf(Address)!).Distinct().Select(h => (JsonNode)h),
                ]);
                pixel["loads"] = network.Fires.AnsweredBy == ScriptAnswer.Load;
            }

            return pixel;
        }

        private static string KindOf(PixelKind kind) =>
            kind switch
            {
                PixelKind.Image => "image",
                PixelKind.Beacon => "beacon",
                PixelKind.Script => "script",
                _ => "container",
            };
    }
}
