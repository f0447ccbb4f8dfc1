using System.Text.Json;
using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Web.Retargeting;

namespace Cursus.Web.Archives;

/// <summary>What the job's rules say against a line of an archive: a file can hold what no form would have taken, and the edge goes by what is stored.</summary>
internal static class ArchivedLineRules
{
    /// <summary>The columns of tables that hold addresses where visitors may be led.</summary>
    private static readonly Dictionary<string, string[]> Addresses = new()
    {
        ["links"] = ["destination", "final_url", "fallback"],
        ["posts"] = ["destination"],
        ["campaigns"] = ["fallback"],
        ["domains"] = ["bare_page", "unknown_page", "ended_page"],
        ["link_check_settings"] = ["fallback"],
        ["handoff_settings"] = ["privacy_page"],
    };

    private static readonly Dictionary<string, string> Keys = new() { ["campaigns"] = "key", ["channels"] = "source" };

    /// <summary>What is wrong with a line; null where nothing is.</summary>
    public static Flaw? Against(string table, JsonElement line)
    {
        foreach (var column in Addresses.GetValueOrDefault(table, []))
        {
            if (Text(line, column) is { } address && !Destination.TryParse(address, out _, out var flaw))
            {
                return flaw;
            }
        }

        if (Keys.TryGetValue(table, out var key) && !TagValue.TryParse(Text(line, key), out _, out var wrong))
        {
            return wrong;
        }

        return table switch
        {
            "links" or "link_aliases" => Slugs(line),
            "domains" => Text(line, "name") is { } name && Destination.TryParse($"http://{name}/", out var page, out _) && page.Address.Host == name ? null : new Flaw("domain", "The short domain is no host name in lower-case letters."),
            "ad_networks" => Readable(line, "description", text => AdNetworkFile.Read(text)),
            "handoff_settings" => Readable(line, "questions", text => JsonSerializer.Deserialize<Dictionary<string, string>>(text))
                ?? (Text(line, "logo") is { } logo && !logo.StartsWith("data:image/", StringComparison.Ordinal) ? new Flaw("logo", "The logo is no picture.") : null),
            _ => null,
        };
    }

    private static Flaw? Slugs(JsonElement line) =>
        Text(line, "slug") is { } text && Slug.TryParse(text, out var slug, out var flaw) ? slug.Key == Text(line, "slug_key") ? null : new Flaw("slug-key", "The slug and what it is compared by are not the same.")
        : new Flaw("slug", $"“{Text(line, "slug")}” is no slug.");

    private static Flaw? Readable(JsonElement line, string column, Action<string> read)
    {
        try
        {
            read(line.GetProperty(column).GetRawText());
            return null;
        }
        catch (Exception e) when (e is JsonException or KeyNotFoundException)
        {
            return new Flaw("unreadable", $"“{column}” can't be read.");
        }
    }

    private static string? Text(JsonElement line, string column) => line.TryGetProperty(column, out var value) && value.ValueKind == JsonValueKind.String ? value.GetString() : null;
}
