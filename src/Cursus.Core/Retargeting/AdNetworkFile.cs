using System.Text.Json;
using System.Text.Json.Serialization;

namespace Cursus.Core.Retargeting;

/// <summary>Descriptions of ad networks as JSON: in the file that ships, in the demo's, in the database and in requests, all of one form.</summary>
public static class AdNetworkFile
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false) },
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    /// <summary>The kinds that work with every network: a picture, a script or a container by its address.</summary>
    public static IReadOnlyList<AdNetwork> Shipped { get; } = ReadShipped();

    /// <summary>A list of descriptions.</summary>
    /// <exception cref="JsonException">These are none.</exception>
    public static IReadOnlyList<AdNetwork> ReadAll(string json) => JsonSerializer.Deserialize<IReadOnlyList<AdNetwork>>(json, Json) ?? [];

    /// <summary>One description.</summary>
    /// <exception cref="JsonException">This is none.</exception>
    public static AdNetwork Read(string json) =>
        JsonSerializer.Deserialize<AdNetwork>(json, Json) ?? throw new JsonException("The description of an ad network is empty.");

    /// <summary>A description as <see cref="Read"/> reads it.</summary>
    public static string Write(AdNetwork network) => JsonSerializer.Serialize(network, Json);

    private static IReadOnlyList<AdNetwork> ReadShipped()
    {
        using var file = new StreamReader(
            typeof(AdNetworkFile).Assembly.GetManifestResourceStream("ad-networks.json")
                ?? throw new InvalidOperationException("ad-networks.json is not built in.")
        );
        return ReadAll(file.ReadToEnd());
    }
}
