using System.Text.Json;
using System.Text.Json.Nodes;

namespace Cursus.Core.Retargeting;

/// <summary>What a network's script is told: values of JSON with macros in their texts.</summary>
internal static class PixelCalls
{
    /// <summary>All texts of a value, names of properties included: there macros mean nothing.</summary>
    public static IEnumerable<string> Texts(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.String => [value.GetString()!],
            JsonValueKind.Array => value.EnumerateArray().SelectMany(Texts),
            JsonValueKind.Object => value.EnumerateObject().SelectMany(p => Texts(p.Value)),
            _ => [],
        };

    /// <summary>The same with the macros filled in; a value can't become more than the text it stands in.</summary>
    public static JsonNode? Fill(JsonElement value, PixelValues values) =>
        value.ValueKind switch
        {
            JsonValueKind.String => PixelTemplate.TryParse(value.GetString()!, out var template, out _)
                ? template.FillText(values)
                : value.GetString(),
            JsonValueKind.Array => new JsonArray([.. value.EnumerateArray().Select(v => Fill(v, values))]),
            JsonValueKind.Object => new JsonObject(value.EnumerateObject().Select(p => KeyValuePair.Create(p.Name, Fill(p.Value, values)))),
            _ => JsonNode.Parse(value.GetRawText()),
        };
}
