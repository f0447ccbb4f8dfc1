using System.Text.Json.Nodes;
using Microsoft.OpenApi;

namespace Cursus.Web.Composition;

/// <summary>Shows whole programs beside the operations that programs call most. They stand in docs/examples, where a test runs them.</summary>
internal static class ReferenceExamples
{
    private static readonly (string Language, string Label, string Ending)[] Languages =
    [
        ("shell", "curl", ".sh"),
        ("csharp", "C#", ".cs"),
        ("typescript", "TypeScript", ".ts"),
    ];

    private static readonly Dictionary<string, string> Names = new()
    {
        ["POST api/v1/posts"] = "make-links",
        ["GET api/v1/reports/breakdown"] = "compare",
    };

    public static void Add(OpenApiOperation operation, string method, string path)
    {
        if (!Names.TryGetValue($"{method} {path}", out var name))
        {
            return;
        }

        var samples = Languages.Select(l => new JsonObject
        {
            ["lang"] = l.Language,
            ["label"] = l.Label,
            ["source"] = Read(name + l.Ending),
        });
        operation.Extensions ??= new Dictionary<string, IOpenApiExtension>();
        operation.Extensions["x-codeSamples"] = new JsonNodeExtension(new JsonArray([.. samples]));
    }

    private static string Read(string file)
    {
        using var stream = typeof(ReferenceExamples).Assembly.GetManifestResourceStream(file)!;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}
