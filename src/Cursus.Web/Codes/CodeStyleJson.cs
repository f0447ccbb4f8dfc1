using System.Text.Json;
using System.Text.Json.Serialization;
using Cursus.Core.Codes;

namespace Cursus.Web.Codes;

/// <summary>Styles and shapes as they are kept, written as the API writes them.</summary>
internal static class CodeStyleJson
{
    private static readonly JsonSerializerOptions Options = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower, allowIntegerValues: false) },
    };

    public static string Write(CodeStyle style) => JsonSerializer.Serialize(style, Options);

    public static CodeStyle ReadStyle(string json) => JsonSerializer.Deserialize<CodeStyle>(json, Options)!;

    public static string Write(IReadOnlyList<LogoShape> shapes) => JsonSerializer.Serialize(shapes, Options);

    public static IReadOnlyList<LogoShape> ReadShapes(string json) => JsonSerializer.Deserialize<List<LogoShape>>(json, Options)!;
}
