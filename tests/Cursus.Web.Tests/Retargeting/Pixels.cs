using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Retargeting;

/// <summary>Ad networks and pixels of a test's workspace.</summary>
internal static class Pixels
{
    public const string Picture = """
        {
          "key": "fairlead", "name": "Fairlead", "takes": "id", "idPattern": "FL-[0-9]{6}", "idExample": "FL-204417", "find": ["[?&]p=(?<id>FL-[0-9]{6})"],
          "fires": { "kind": "image", "address": "https://px.fairlead.example/hit?p={id}&on={link}&c={campaign}" }, "smallestAudience": 3
        }
        """;

    public const string Script = """
        {
          "key": "beaconry", "name": "Beaconry", "takes": "id", "idPattern": "[0-9a-f]{12}", "idExample": "9f2c41d07ab3",
          "fires": { "kind": "script", "address": "https://tag.beaconry.example/t.js", "queue": "beaconry", "calls": [["begin", "{id}"]] }
        }
        """;

    /// <summary>Describes both networks and sets a pixel of each up; returns their ids.</summary>
    public static async Task<(string Fairlead, string Beaconry)> SetUp(World world)
    {
        foreach (var network in new[] { Picture, Script })
        {
            (
                await world.Owner.PostAsJsonAsync("/api/v1/ad-networks", JsonNode.Parse(network), TestContext.Current.CancellationToken)
            ).StatusCode.ShouldBe(System.Net.HttpStatusCode.Created);
        }

        return (await Add(world, "fairlead", "FL-204417"), await Add(world, "beaconry", "9f2c41d07ab3"));
    }

    public static async Task<string> Add(World world, string network, string reference, string? name = null)
    {
        var response = await world.Owner.PostAsJsonAsync(
            "/api/v1/pixels",
            new
            {
                name,
                network,
                reference,
            },
            TestContext.Current.CancellationToken
        );
        var text = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(System.Net.HttpStatusCode.Created, text);
        return (string)JsonNode.Parse(text)!["id"]!;
    }

    /// <summary>Nobody is asked, so that pixels fire at once.</summary>
    public static async Task AskNobody(World world) =>
        (
            await world.Owner.PatchAsJsonAsync("/api/v1/handoff", new { consent = "off" }, TestContext.Current.CancellationToken)
        ).EnsureSuccessStatusCode();
}
