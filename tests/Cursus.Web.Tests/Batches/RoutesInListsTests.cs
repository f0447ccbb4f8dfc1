using System.Net.Http.Json;
using System.Text.Json.Nodes;
using static Cursus.Web.Tests.Batches.BatchSteps;

namespace Cursus.Web.Tests.Batches;

/// <summary>Routes in lists, as far as one line can say them.</summary>
public class RoutesInListsTests(CursusApp app)
{
    private const string Split = "30% https://northmoor.example/a, 70% https://northmoor.example/b";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Splits_and_saved_routes_are_taken_away_and_brought_in_again_and_rules_are_told()
    {
        var (from, into) = (await World.Make(app), await World.Make(app));
        await Save(into);
        var route = await Save(from);
        var otherwise =
            """{"to":[{"destination":"https://northmoor.example/a","weight":30},{"destination":"https://northmoor.example/b","weight":70}]}""";
        await Link(from, "split", "routes", JsonNode.Parse($$"""{"otherwise":{{otherwise}}}""")!);
        await Link(from, "saved", "routeId", (string)route["id"]!);
        await Link(from, "ruled", "routes", Rules());

        var list = await (
            await from.Viewer.PostAsJsonAsync("/api/v1/links/files", new { links = new { filter = new { } } }, Cancel)
        ).Content.ReadAsStringAsync(Cancel);
        list.ShouldContain($"\"{Split}\"");
        var choices = new { domains = new Dictionary<string, string> { [from.Domain] = into.Domain } };
        var batch = await Upload(into, list);
        var preview = await Preview(into, batch, new { choices });
        var hint = preview["hints"]!.AsArray().ShouldHaveSingleItem()!;
        ((string)hint["field"]!).ShouldBe("rules");
        hint.ToJsonString().ShouldContain("on a phone: northmoor.example/app");
        await Made(into, batch, new { choices });

        var split = await RoutesOf(into, "split");
        split["otherwise"]!["to"]!
            .AsArray()
            .Select(p => ((string)p!["destination"]!, (int)p["weight"]!))
            .ShouldBe([("https://northmoor.example/a", 30), ("https://northmoor.example/b", 70)]);
        ((string)(await RoutesOf(into, "saved"))["routeId"]!).ShouldBe((string)(await into.Get("/api/v1/routes"))["items"]![0]!["id"]!);
        (await RoutesOf(into, "ruled"))["rules"]!.AsArray().ShouldBeEmpty();
        (await LinkOf(into, "split")).ShouldSatisfyAllConditions(
            l => ((bool)l["isRouted"]!).ShouldBeTrue(),
            l => ((Guid?)l["routeId"]).ShouldBeNull()
        );
    }

    [Fact]
    public async Task A_line_gives_a_link_that_is_there_its_split_and_its_history_takes_it_back()
    {
        var world = await World.Make(app);
        var link = await Link(world, "join", "note", "Members");
        var batch = await Upload(world, $"short address,destination,split\nhttps://{world.Domain}/join,https://northmoor.example/,\"{Split}\"\n");
        await Made(world, batch, new { choices = new { taken = "take-over" } });
        (await RoutesOf(world, "join"))["otherwise"]!["to"]!.AsArray().Count.ShouldBe(2);
        (await world.Editor.PostAsJsonAsync($"/api/v1/links/{link["id"]}/restore", new { version = 1 }, Cancel)).EnsureSuccessStatusCode();
        (await RoutesOf(world, "join"))["otherwise"].ShouldBeNull();
    }

    [Theory]
    [InlineData("split", "half and half", "split")]
    [InlineData("split", "50% https://a.example, 60% https://b.example", "routes.otherwise.to")]
    [InlineData("saved route", "Nobody's", "savedRoute")]
    public async Task What_a_line_cannot_have_is_told_with_its_field(string column, string text, string field)
    {
        var world = await World.Make(app);
        var preview = await Preview(world, await Upload(world, $"destination,{column}\nhttps://northmoor.example/,\"{text}\"\n"), new { });
        ((int)preview["goodLines"]!).ShouldBe(0);
        preview["problems"]!.AsArray().Select(p => (string)p!["field"]!).ShouldBe([field]);
    }

    private static JsonNode Rules() =>
        JsonNode.Parse("""{"rules":[{"when":{"devices":["phone"]},"to":[{"destination":"https://northmoor.example/app"}]}]}""")!;

    private static async Task<JsonNode> Save(World world) =>
        await World.Read(
            await world.Editor.PostAsJsonAsync("/api/v1/routes", new JsonObject { ["name"] = "By device", ["routes"] = Rules() }, Cancel)
        );

    private static async Task<JsonNode> Link(World world, string slug, string field, JsonNode value)
    {
        var wish = new JsonObject
        {
            ["destination"] = "https://northmoor.example/",
            ["slug"] = slug,
            [field] = value,
        };
        return await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/links", wish, Cancel));
    }

    private static async Task<JsonNode> RoutesOf(World world, string slug) =>
        await world.Get($"/api/v1/links/{(await LinkOf(world, slug))["id"]}/routes");
}
