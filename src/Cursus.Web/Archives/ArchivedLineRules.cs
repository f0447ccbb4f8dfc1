using System.Net;
using System.Text.Json;
using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Clicks.Tallies;
using Cursus.Core.Reports;
using Cursus.Core.Retargeting;
using Cursus.Core.Routing;
using NodaTime;

namespace Cursus.Web.Archives;

/// <summary>What the job's rules say against the lines of an archive: a file can hold what no form would have taken, and the edge goes by what is
/// stored, for all workspaces at once. One for each archive.</summary>
internal sealed class ArchivedLineRules
{
    /// <summary>The columns of tables that hold addresses where visitors may be led.</summary>
    private static readonly Dictionary<string, string[]> Addresses = new()
    {
        ["links"] = ["destination", "fallback"],
        ["posts"] = ["destination"],
        ["routed_pages"] = ["destination"],
        ["campaigns"] = ["fallback"],
        ["domains"] = ["bare_page", "unknown_page", "ended_page"],
        ["link_check_settings"] = ["fallback"],
        ["handoff_settings"] = ["privacy_page"],
    };

    /// <summary>The columns of tables that hold one of a few choices by its number.</summary>
    private static readonly Dictionary<string, string[]> Choices = new()
    {
        ["workspaces"] = ["week_start", "slug_kind", "options_pass_query", "options_referrer"],
        ["domains"] = ["options_pass_query", "options_referrer"],
        ["links"] = ["options_pass_query", "options_referrer"],
    };

    private readonly Dictionary<string, AdNetwork> networks = AdNetworkFile.Shipped.ToDictionary(n => n.Key);

    /// <summary>What is wrong with a line; null where nothing is. Networks have to come before their pixels.</summary>
    public ValidationError? Against(string table, JsonElement line)
    {
        foreach (var column in Addresses.GetValueOrDefault(table, []))
        {
            if (Text(line, column) is { } address && !Destination.TryParse(address, out _, out var error))
            {
                return error;
            }
        }

        foreach (var column in Choices.GetValueOrDefault(table, []))
        {
            if (
                line.TryGetProperty(column, out var number)
                && !(number.ValueKind == JsonValueKind.Number && number.TryGetInt16(out var choice) && IsChoice(column, choice))
            )
            {
                return new ValidationError("choice", $"“{column}” can’t be {number}.");
            }
        }

        return table switch
        {
            "workspaces" => Workspace(line),
            "domains" => Text(line, "name") is { } name && Destination.TryParse($"http://{name}/", out var page, out _) && page.Address.Host == name
                ? null
                : new ValidationError("domain", "The short domain isn’t a host name in lower-case letters."),
            "campaigns" => TagValue.TryParse(Text(line, "key"), out _, out var wrong) ? null : wrong,
            "channels" => TagValue.TryParse(Text(line, "source"), out _, out var wrong) && TagValue.TryParse(Text(line, "medium"), out _, out wrong)
                ? null
                : wrong,
            "links" => FinalUrl(line) ?? SlugOf(line) ?? (Text(line, "route") is { } route ? RouteCheck.OfStored(route) : null),
            "link_aliases" => SlugOf(line),
            "ad_networks" => Network(line),
            "pixels" => networks.TryGetValue(Text(line, "network") ?? "", out var network)
                ? PixelSnippet.Check(network, Text(line, "reference") ?? "")
                : new ValidationError("network", "The pixel’s ad network is unknown."),
            "handoff_settings" => Handoff(line),
            "link_months" => Month(line),
            _ => null,
        };
    }

    private static bool IsChoice(string column, short number) =>
        column switch
        {
            "week_start" => Enum.IsDefined((WeekStart)number),
            "slug_kind" => Enum.IsDefined((SlugKind)number),
            "options_pass_query" => Enum.IsDefined((QueryPassing)number),
            _ => Enum.IsDefined((ReferrerPassing)number),
        };

    private static ValidationError? Workspace(JsonElement line) =>
        DateTimeZoneProviders.Tzdb.GetZoneOrNull(Text(line, "time_zone") ?? "") is null ? new ValidationError("time-zone", "Unknown time zone.")
        : Text(line, "number_language") is { } language && !NumberLanguage.Tags.Contains(language)
            ? new ValidationError("number-language", "Its language of numbers isn’t supported.")
        : line.GetProperty("office_networks").EnumerateArray().Any(n => !IPNetwork.TryParse(n.GetString(), out _))
            ? new ValidationError("office-networks", "One of the office networks isn’t valid.")
        : null;

    /// <summary>Exactly as Cursus writes it, since it is sent to browsers as it is.</summary>
    private static ValidationError? FinalUrl(JsonElement line) =>
        Text(line, "final_url") is { } text && WebAddress.Parse(text, @base: null, out _)?.ToString() == text
            ? null
            : new ValidationError("final-url", "Its destination isn’t a complete http or https address.");

    private static ValidationError? SlugOf(JsonElement line) =>
        !Slug.TryParse(Text(line, "slug"), out var slug, out _) ? new ValidationError("slug", $"“{Text(line, "slug")}” isn’t a valid slug.")
        : slug.Key != Text(line, "slug_key") ? new ValidationError("slug-key", "The slug and what it is compared by are not the same.")
        : null;

    private ValidationError? Network(JsonElement line)
    {
        try
        {
            var network = AdNetworkFile.Read(line.GetProperty("description").GetRawText());
            networks[network.Key] = network;
            return AdNetworkCheck.Errors(network).Select(f => f.Error).FirstOrDefault();
        }
        catch (JsonException)
        {
            return new ValidationError("network", "Its description can’t be read.");
        }
    }

    private static ValidationError? Handoff(JsonElement line)
    {
        try
        {
            _ = line.GetProperty("questions").Deserialize<Dictionary<string, string>>();
        }
        catch (JsonException)
        {
            return new ValidationError("questions", "Its questions can’t be read.");
        }

        return Text(line, "logo") is { } logo && !logo.StartsWith("data:image/", StringComparison.Ordinal)
                ? new ValidationError("logo", "The logo isn’t a picture.")
            : !ColorContrast.TryParse(Text(line, "paper"), out _) || !ColorContrast.TryParse(Text(line, "ink"), out _)
                ? new ValidationError("color", "Not a valid colour.")
            : null;
    }

    /// <summary>A month is read by every report on it, so that it has to be whole.</summary>
    private static ValidationError? Month(JsonElement line)
    {
        try
        {
            foreach (var tally in line.EnumerateObject().Where(p => p.Name is not ("link_id" or "month")))
            {
                MonthTally.Unpack(Convert.FromHexString(tally.Value.GetString()!.AsSpan(2)), new ValueNumbers(), []);
            }

            return null;
        }
        catch (Exception e) when (e is FormatException or ArgumentOutOfRangeException or NullReferenceException)
        {
            return new ValidationError("link-months", "The month of a link can’t be read.");
        }
    }

    private static string? Text(JsonElement line, string column) =>
        line.TryGetProperty(column, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() : null;
}
