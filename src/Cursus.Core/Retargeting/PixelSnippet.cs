using System.Net;
using System.Text.RegularExpressions;

namespace Cursus.Core.Retargeting;

/// <summary>What pasted text was understood as.</summary>
/// <param name="Reference">The id, or the address where the network takes one.</param>
public sealed record PixelReading(AdNetwork Network, string Reference);

/// <summary>
/// Reads what a marketer pastes from an ad network: an id, or a whole piece of code of which only the id is taken. The code itself is neither kept
/// nor run.
/// </summary>
public static partial class PixelSnippet
{
    /// <summary>Reads the pasted text.</summary>
    /// <param name="networks">Those that are known here.</param>
    /// <returns>All that it can be: one reading, or several of which the marketer chooses one, or none with the error that says what is
    /// missing.</returns>
    public static (IReadOnlyList<PixelReading> Readings, ValidationError? Error) Read(string pasted, IReadOnlyList<AdNetwork> networks)
    {
        ArgumentNullException.ThrowIfNull(pasted);
        ArgumentNullException.ThrowIfNull(networks);
        var text = pasted.Trim();
        if (text.Length == 0)
        {
            return ([], new ValidationError("pixel-empty", "Paste the pixel’s ID or code. The ad network shows both where you created the pixel."));
        }

        if (text.Length > AdNetworkCheck.MaxSnippet)
        {
            return (
                [],
                new ValidationError(
                    "pixel-too-long",
                    $"This has {text.Length:N0} characters; the limit is {AdNetworkCheck.MaxSnippet:N0}. Paste only the pixel’s own code, or just its ID."
                )
            );
        }

        var readings = networks.Where(n => n.Takes == PixelReference.Id).SelectMany(n => Ids(text, n).Select(id => new PixelReading(n, id))).ToList();
        if (readings.Count == 0)
        {
            readings =
            [
                .. Addresses(text)
                    .SelectMany(a =>
                        networks.Where(n => n.Takes == PixelReference.Address && a.Fits(n.Fires.Kind)).Select(n => new PixelReading(n, a.Address))
                    ),
            ];
        }

        var twice = readings.GroupBy(r => r.Network).FirstOrDefault(g => g.Count() > 1);
        return twice is not null
                ? (
                    [],
                    new ValidationError(
                        "pixel-several",
                        $"This contains several IDs of {twice.Key.Name}: {string.Join(", ", twice.Select(r => r.Reference))}. Paste only the one you want."
                    )
                )
            : readings.Count > 0 ? (readings, null)
            : ([], new ValidationError("pixel-unknown-code", Missing(networks)));
    }

    /// <summary>Checks an id or address that is to be taken as one network's.</summary>
    public static ValidationError? Check(AdNetwork network, string reference)
    {
        ArgumentNullException.ThrowIfNull(network);
        if (network.Takes == PixelReference.Address)
        {
            return PixelTemplate.TryParseAddress(reference, out _, out var error) ? null : error;
        }

        return AdNetworkCheck.Pattern($"^(?:{network.IdPattern})$")?.IsMatch(reference) == true
            ? null
            : new ValidationError(
                "pixel-id",
                $"“{Shortened(reference)}” is no id of {network.Name}.{(network.IdExample is { } example ? $" They look like {example}." : "")}"
            );
    }

    private static string Missing(IReadOnlyList<AdNetwork> networks)
    {
        var examples = networks.Where(n => n.IdExample is not null).Select(n => $"{n.Name} ({n.IdExample})").ToList();
        return "This contains no ID of a known ad network, and no address of an image or script. "
            + (examples.Count > 0 ? $"Known are {string.Join(", ", examples)}; " : "")
            + "add other networks in Settings, or paste the address that their pixel calls.";
    }

    private static string Shortened(string text) => text.Length <= 40 ? text : text[..40] + "…";

    private static IEnumerable<string> Ids(string text, AdNetwork network)
    {
        if (Check(network, text) is null)
        {
            return [text];
        }

        return (network.Find ?? [])
            .Select(AdNetworkCheck.Pattern)
            .OfType<Regex>()
            .SelectMany(p => p.Matches(text))
            .Select(m => m.Groups["id"].Value)
            .Where(id => Check(network, id) is null)
            .Distinct();
    }

    private static IEnumerable<(string Address, Func<PixelKind, bool> Fits)> Addresses(string text)
    {
        if (PixelTemplate.TryParseAddress(text, out _, out _))
        {
            return [(text, _ => true)];
        }

        return Source()
            .Matches(text)
            .Select(m => (Tag: m.Groups["tag"].Value, Address: Whole(WebUtility.HtmlDecode(m.Groups["address"].Value))))
            .Where(a => PixelTemplate.TryParseAddress(a.Address, out _, out _))
            .DistinctBy(a => a.Address)
            .Select(a =>
                (
                    a.Address,
                    (Func<PixelKind, bool>)(
                        kind =>
                            a.Tag.Equals("img", StringComparison.OrdinalIgnoreCase)
                                ? kind == PixelKind.Image
                                : kind is PixelKind.Script or PixelKind.Container
                    )
                )
            );
    }

    /// <summary>Addresses that leave the scheme to the page are asked by https.</summary>
    private static string Whole(string address) => address.StartsWith("//", StringComparison.Ordinal) ? "https:" + address : address;

    [GeneratedRegex("""<(?<tag>img|script)\b[^>]*?\bsrc\s*=\s*["']?(?<address>[^"'\s>]+)""", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex Source();
}
