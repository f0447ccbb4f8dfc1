using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;

namespace Cursus.Web.Audit;

/// <summary>Says what is different between two states of settings.</summary>
internal sealed class AuditDetail(IOptions<JsonOptions> json)
{
    private const string Nothing = "none";

    /// <summary>The fields that changed, as the API names them, each with what it was and is; null where none did.</summary>
    public string? Of<T>(T before, T after)
    {
        var (was, now) = (Fields(before), Fields(after));
        var changes = was
            .Keys.Union(now.Keys)
            .Order(StringComparer.Ordinal)
            .Select(key => (Key: key, Was: was.GetValueOrDefault(key), Now: now.GetValueOrDefault(key)))
            .Where(f => !JsonNode.DeepEquals(f.Was, f.Now))
            .Select(f => $"{f.Key}: {Text(f.Was)} → {Text(f.Now)}")
            .ToList();
        return changes.Count == 0 ? null : string.Join("; ", changes);
    }

    private static string Text(JsonNode? value) =>
        value switch
        {
            null => Nothing,
            JsonValue single when single.TryGetValue<string>(out var text) => text.Length == 0 ? Nothing : text,
            JsonArray list => list.Count == 0 ? Nothing : string.Join(", ", list.Select(Text)),
            var other => other.ToJsonString(),
        };

    /// <summary>Fields of fields stand by themselves, so that one changed option isn't told as all of them.</summary>
    private Dictionary<string, JsonNode?> Fields<T>(T state) =>
        Flat(JsonSerializer.SerializeToNode(state, json.Value.SerializerOptions)!.AsObject(), "").ToDictionary();

    private static IEnumerable<(string Key, JsonNode? Value)> Flat(JsonObject state, string above) =>
        state.SelectMany(f => f.Value is JsonObject inner ? Flat(inner, $"{above}{f.Key}.") : [(above + f.Key, f.Value)]);
}
