using System.Text.Json;
using System.Text.Json.Serialization;
using Cursus.Core.Clicks;
using NodaTime;
using NodaTime.Serialization.SystemTextJson;

namespace Cursus.Core.Routing;

/// <summary>Routes as they are stored, and as the edge has them: JSON in which what is nothing stands nowhere.</summary>
public static class RouteText
{
    private static readonly JsonSerializerOptions Json = new JsonSerializerOptions(JsonSerializerDefaults.Web)
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault,
        RespectNullableAnnotations = true,
        RespectRequiredConstructorParameters = true,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower), new Country() },
    }.ConfigureForNodaTime(DateTimeZoneProviders.Tzdb);

    public static string Of(Route route) => JsonSerializer.Serialize(route, Json);

    /// <summary>Conditions that ask the same have the same text.</summary>
    public static string Of(RouteConditions when) => JsonSerializer.Serialize(when, Json);

    public static byte[] ToUtf8(Route route) => JsonSerializer.SerializeToUtf8Bytes(route, Json);

    /// <exception cref="JsonException">It is no route.</exception>
    public static Route Read(string text) => JsonSerializer.Deserialize<Route>(text, Json) ?? throw new JsonException("No route.");

    /// <exception cref="JsonException">It is no route.</exception>
    public static Route Read(ReadOnlySpan<byte> utf8) => JsonSerializer.Deserialize<Route>(utf8, Json) ?? throw new JsonException("No route.");

    private sealed class Country : JsonConverter<CountryCode>
    {
        public override CountryCode Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            CountryCode.Of(reader.GetString());

        public override void Write(Utf8JsonWriter writer, CountryCode value, JsonSerializerOptions options) => writer.WriteStringValue($"{value}");
    }
}
