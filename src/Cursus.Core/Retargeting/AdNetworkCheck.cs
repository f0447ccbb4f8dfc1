using System.Text.Json;
using System.Text.RegularExpressions;

namespace Cursus.Core.Retargeting;

/// <summary>Says what is wrong with the description of an ad network, field by field, before a pixel of it could be set up.</summary>
public static partial class AdNetworkCheck
{
    public const int MaxName = 60;
    public const int MaxSnippet = 20_000;

    /// <summary>More than any network needs, and few enough for one small page.</summary>
    public const int MaxCalls = 8;

    private const int MaxPattern = 300;
    private const int MaxHosts = 12;

    /// <summary>Reads a regular expression so that no text can make it take long; null where it is none.</summary>
    public static Regex? Pattern(string? expression)
    {
        try
        {
            return expression is null or { Length: 0 or > MaxPattern }
                ? null
                : new Regex(expression, RegexOptions.NonBacktracking | RegexOptions.CultureInvariant);
        }
        catch (Exception e) when (e is ArgumentException or NotSupportedException)
        {
            return null;
        }
    }

    /// <summary>Everything that is wrong: a field of the description and the error.</summary>
    public static IEnumerable<(string Field, ValidationError Error)> Errors(AdNetwork network)
    {
        ArgumentNullException.ThrowIfNull(network);
        return Names(network).Concat(Recognition(network)).Concat(Firing(network.Fires, network.Takes));
    }

    private static IEnumerable<(string, ValidationError)> Names(AdNetwork network)
    {
        if (!Key().IsMatch(network.Key ?? ""))
        {
            yield return (
                "key",
                new ValidationError("network-key", "Use lower-case letters, digits and hyphens for the key, at most 40, for example “night-ads”.")
            );
        }

        if ((network.Name ?? "").Trim().Length is 0 or > MaxName)
        {
            yield return ("name", new ValidationError("network-name", $"Name the network in at most {MaxName} characters."));
        }

        if ((network.Event ?? "").Length is 0 or > MaxName)
        {
            yield return ("event", new ValidationError("network-event", "Enter the network’s name for a visit, in one word."));
        }

        if (network.SmallestAudience is < 0 or > 1_000_000)
        {
            yield return (
                "smallestAudience",
                new ValidationError("network-smallest-audience", "The smallest audience is a number from 0 to 1,000,000.")
            );
        }

        if ((network.Hosts ?? []).Count > MaxHosts || (network.Hosts ?? []).FirstOrDefault(h => PixelTemplate.OriginOf(h ?? "") != h) is not null)
        {
            yield return (
                "hosts",
                new ValidationError("network-hosts", $"List at most {MaxHosts} hosts, each written as https://host with nothing after it.")
            );
        }
    }

    private static IEnumerable<(string, ValidationError)> Recognition(AdNetwork network)
    {
        if (network.Takes == PixelReference.Id && Pattern(network.IdPattern) is null)
        {
            yield return (
                "idPattern",
                new ValidationError(
                    "network-id-pattern",
                    $"Describe an ID as a regular expression of at most {MaxPattern} characters, without look-arounds or back references."
                )
            );
        }

        if ((network.Find ?? []).Any(f => Pattern(f)?.GetGroupNames().Contains("id") != true))
        {
            yield return (
                "find",
                new ValidationError(
                    "network-find",
                    "Each of these must be a regular expression with a group named id, such as start\\('(?<id>[0-9]+)'\\)."
                )
            );
        }
    }

    private static IEnumerable<(string, ValidationError)> Firing(PixelFiring? fires, PixelReference takes)
    {
        if (fires is null)
        {
            yield return ("fires", new ValidationError("network-fires", "Choose how the network’s pixel is fired."));
            yield break;
        }

        if (takes == PixelReference.Id && !PixelTemplate.TryParseAddress(fires.Address ?? "", out _, out var error))
        {
            yield return ("fires.address", error);
        }

        if (fires.RunsScript && fires.Calls is { Count: > 0 } && !QueueName().IsMatch(fires.Queue ?? ""))
        {
            yield return (
                "fires.queue",
                new ValidationError("network-queue", "Name the variable that the script reads: letters, digits and underscores, at most 40.")
            );
        }

        var calls = fires.Calls ?? [];
        var isOfForm = calls.All(c => c.ValueKind == (fires.Kind == PixelKind.Container ? JsonValueKind.Object : JsonValueKind.Array));
        if (calls.Count > MaxCalls || !isOfForm || calls.SelectMany(PixelCalls.Texts).Any(t => !PixelTemplate.TryParse(t, out _, out var _)))
        {
            yield return (
                "fires.calls",
                new ValidationError(
                    "network-calls",
                    $"At most {MaxCalls} calls: each the list of a function’s arguments, or for a container one entry, with known macros only."
                )
            );
        }
    }

    [GeneratedRegex(@"^[a-z0-9](?:[a-z0-9-]{0,38}[a-z0-9])?$")]
    private static partial Regex Key();

    [GeneratedRegex(@"^[A-Za-z_][A-Za-z0-9_]{0,39}$")]
    private static partial Regex QueueName();
}
