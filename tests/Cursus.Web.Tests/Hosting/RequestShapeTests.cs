using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Hosting;

/// <summary>Whatever is sent to whichever operation, it is answered for: taken, or refused with the field that is at fault. The operations and their
/// fields are those of the API's own document.</summary>
public class RequestShapeTests(CursusApp app)
{
    private const string SomeId = "019a0000-0000-7000-8000-000000000001";
    private static readonly string TooLong = new('x', 100_000);

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static IEnumerable<(string Name, JsonNode? Value)> Wrong =>
        [
            ("null", null),
            ("an empty text", ""),
            ("a long text", TooLong),
            ("a text that can’t be stored", "a\0b"),
            ("a negative number", -1),
            ("a large number", 1e12),
            ("true", true),
            ("an object", new JsonObject()),
            ("an empty list", new JsonArray()),
            ("a list of nothing", new JsonArray((JsonNode?)null)),
            ("a list of objects", new JsonArray(new JsonObject())),
            ("a long list", new JsonArray([.. Enumerable.Repeat("x", 5000).Select(t => (JsonNode)t)])),
            ("an object of nothing", new JsonObject { ["a"] = null }),
        ];

    [Fact]
    public async Task Every_field_of_every_request_may_be_anything_and_is_answered_for()
    {
        var world = await World.Make(app);
        var document = await World.Read(await app.CreateClient().GetAsync("/api/openapi.json", Cancel));
        var (asked, failures) = (0, new List<string>());
        foreach (var (method, path, schema) in Bodies(document))
        {
            foreach (var body in new JsonNode?[] { new JsonObject(), null, new JsonArray(), "x" })
            {
                await Try(body, body?.ToJsonString() ?? "null");
            }

            var good = (JsonObject)Example(document, schema, 0)!;
            foreach (var field in good.Select(f => f.Key).ToList())
            {
                var without = good.DeepClone().AsObject();
                without.Remove(field);
                await Try(without, $"without {field}");
                foreach (var (name, value) in Wrong)
                {
                    var changed = good.DeepClone().AsObject();
                    changed[field] = value?.DeepClone();
                    await Try(changed, $"{field}: {name}");
                }
            }

            async Task Try(JsonNode? body, string what)
            {
                var request = new HttpRequestMessage(method, path.Replace("{id}", SomeId, StringComparison.Ordinal))
                {
                    Content = new StringContent(body?.ToJsonString() ?? "null", Encoding.UTF8, "application/json"),
                };
                var response = await world.Owner.SendAsync(request, Cancel);
                var text = await response.Content.ReadAsStringAsync(Cancel);
                asked++;
                if (
                    response.StatusCode is >= HttpStatusCode.InternalServerError or HttpStatusCode.BadRequest
                    || (response.StatusCode == HttpStatusCode.UnprocessableEntity && JsonNode.Parse(text)!["errors"] is not JsonObject { Count: > 0 })
                )
                {
                    failures.Add($"{method} {path} with {what}: {(int)response.StatusCode} {text}");
                }
            }
        }

        failures.ShouldBeEmpty();
        asked.ShouldBeGreaterThan(2000, "else the document has lost its requests");
    }

    [Fact]
    public async Task Every_parameter_of_every_question_may_be_anything_and_is_answered_for()
    {
        var world = await World.Make(app);
        var document = await World.Read(await app.CreateClient().GetAsync("/api/openapi.json", Cancel));
        var failures = new List<string>();
        foreach (var (path, operations) in document["paths"]!.AsObject())
        {
            foreach (
                var name in (operations!["get"]?["parameters"]?.AsArray() ?? [])
                    .Where(p => (string)p!["in"]! == "query")
                    .Select(p => (string)p!["name"]!)
            )
            {
                foreach (var value in new[] { "", "%00", "-1", "99999999999999", "%F0%9F%A7%AD", "2026-13-45", "x' or 1=1", new string('x', 4000) })
                {
                    var response = await world.Owner.GetAsync(
                        $"{path.Replace("{id}", SomeId, StringComparison.Ordinal)}?{name}={value}",
                        HttpCompletionOption.ResponseHeadersRead,
                        Cancel
                    );
                    if (response.StatusCode >= HttpStatusCode.InternalServerError)
                    {
                        failures.Add($"{path} with {name}={value}: {(int)response.StatusCode}");
                    }
                }
            }
        }

        failures.ShouldBeEmpty();
    }

    [Fact]
    public async Task Every_text_and_list_in_a_request_has_a_documented_maximum()
    {
        var document = await World.Read(await app.CreateClient().GetAsync("/api/openapi.json", Cancel));
        foreach (var (method, path, schema) in Bodies(document))
        {
            Look(schema, $"{method} {path}", 0);
        }

        void Look(JsonNode? schema, string where, int depth)
        {
            if (schema is null || depth > 8)
            {
                return;
            }

            schema = Resolve(document, schema);
            var type = TypeOf(schema);
            if (type == "string" && schema["format"] is null && schema["enum"] is null)
            {
                schema["maxLength"].ShouldNotBeNull(where);
            }
            else if (type == "array")
            {
                schema["maxItems"].ShouldNotBeNull(where);
                Look(schema["items"], where + "[]", depth + 1);
            }

            foreach (var (name, property) in schema["properties"]?.AsObject() ?? [])
            {
                Look(property, $"{where} {name}", depth + 1);
            }
        }
    }

    [Fact]
    public async Task What_is_wrong_is_told_with_its_place_in_the_request()
    {
        var world = await World.Make(app);
        await ShouldTell(World.Post(p => p["placements"]![1]!["note"] = TooLong), "placements[1].note", "too-long");
        await ShouldTell(World.Post(p => p["placements"]![0]!["channel"] = 7), "placements[0].channel", "wrong-type");
        await ShouldTell(World.Post(p => p["tags"] = new JsonArray("ours", "the\0irs")), "tags[1]", "text");
        await ShouldTell(
            World.Post(p => p["tags"] = new JsonArray([.. Enumerable.Range(0, 100_000).Select(n => (JsonNode)$"tag {n}")])),
            "tags",
            "too-many"
        );

        async Task ShouldTell(JsonObject request, string field, string code)
        {
            var response = await world.Editor.PostAsJsonAsync("/api/v1/posts", request, Cancel);
            response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            var problem = await World.Read(response);
            ((string)problem["code"]!).ShouldBe(code);
            problem["errors"]!.AsObject().Select(e => e.Key).ShouldBe([field]);
        }
    }

    /// <summary>The operations that take JSON. Signing in and out would end what the test is signed in by.</summary>
    private static IEnumerable<(HttpMethod Method, string Path, JsonNode Schema)> Bodies(JsonNode document) =>
        from path in document["paths"]!.AsObject()
        from operation in path.Value!.AsObject()
        let schema = operation.Value!["requestBody"]?["content"]?["application/json"]?["schema"]
        where schema is not null && path.Key is not "/api/v1/session"
        select (new HttpMethod(operation.Key.ToUpperInvariant()), path.Key, schema);

    private static JsonNode Resolve(JsonNode document, JsonNode schema)
    {
        while ((schema["$ref"] ?? schema["oneOf"]?.AsArray().Select(o => o!["$ref"]).FirstOrDefault(r => r is not null)) is { } reference)
        {
            schema = document["components"]!["schemas"]![((string)reference!).Split('/')[^1]]!;
        }

        return schema["oneOf"] is JsonArray either ? Resolve(document, either.First(o => TypeOf(o!) != "null")!) : schema;
    }

    private static string? TypeOf(JsonNode schema) =>
        schema["type"] is JsonArray several ? several.Select(t => (string)t!).First(t => t != "null") : (string?)schema["type"];

    /// <summary>Something of the right type throughout.</summary>
    private static JsonNode? Example(JsonNode document, JsonNode schema, int depth)
    {
        schema = Resolve(document, schema);
        return TypeOf(schema) switch
        {
            _ when schema["enum"] is JsonArray { Count: > 0 } values => values[0]?.DeepClone(),
            "string" => (string?)schema["format"] switch
            {
                "uuid" => SomeId,
                "date-time" => "2026-11-02T09:30:00Z",
                "date" => "2026-11-02",
                _ => "x",
            },
            "integer" or "number" => 1,
            "boolean" => true,
            "array" => depth > 3 ? new JsonArray()
            : schema["items"] is { } items ? new JsonArray(Example(document, items, depth + 1))
            : new JsonArray("x"),
            _ => depth > 4
                ? new JsonObject()
                : new JsonObject(
                    (schema["properties"]?.AsObject() ?? []).Select(p => KeyValuePair.Create(p.Key, Example(document, p.Value!, depth + 1)))
                ),
        };
    }
}
