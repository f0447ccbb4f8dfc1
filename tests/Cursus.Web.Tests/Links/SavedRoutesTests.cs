using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Links;

/// <summary>Rules kept under a name, which links follow.</summary>
public class SavedRoutesTests(CursusApp app)
{
    private const string Phone = "Mozilla/5.0 (Linux; Android 15; Mobile) AppleWebKit/537.36 Person/7";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Links_that_follow_a_saved_route_change_with_it_at_once_and_both_keep_their_history()
    {
        var world = await World.Make(app);
        var route = await Saved(world, "By device", "app");
        var id = (Guid)route["id"]!;
        var post = await world.Send(p =>
        {
            p["routeId"] = id;
            p["placements"] = JsonNode.Parse("""[{"channel":"perch"},{"channel":"guildhall"},{"channel":"hearthside","routes":{}}]""");
        });
        var links = post["placements"]!.AsArray().Select(p => p!["link"]!).ToList();
        (await Led(world, links[0])).ShouldStartWith("https://www.northmoor.example/app?utm_source=");
        (await Led(world, links[2])).ShouldNotContain("/app");
        ((Guid?)(await world.Get($"/api/v1/links/{links[0]["id"]}/routes"))["routeId"]).ShouldBe(id);
        ((int)(await world.Get($"/api/v1/routes/{id}"))["links"]!).ShouldBe(2);

        var changed = await world.Editor.PatchAsJsonAsync($"/api/v1/routes/{id}", new JsonObject { ["routes"] = Rules("new-app") }, Cancel);
        changed.StatusCode.ShouldBe(HttpStatusCode.OK, await changed.Content.ReadAsStringAsync(Cancel));
        (await Led(world, links[0])).ShouldStartWith("https://www.northmoor.example/new-app?");
        (await Led(world, links[1])).ShouldStartWith("https://www.northmoor.example/new-app?");
        var history = (await world.Get($"/api/v1/routes/{id}/history"))["items"]!.AsArray();
        history.Select(v => (int)v!["number"]!).ShouldBe([2, 1]);
        ((string)history[1]!["words"]!).ShouldBe("on a phone: www.northmoor.example/app");
        var ofLink = (await world.Get($"/api/v1/links/{links[0]["id"]}/history"))["items"]!.AsArray();
        ((string)ofLink[0]!["differences"]![0]!["to"]!).ShouldBe("on a phone: www.northmoor.example/new-app");
    }

    [Fact]
    public async Task A_link_with_rules_of_its_own_follows_no_more_and_those_of_a_deleted_route_keep_its_rules()
    {
        var world = await World.Make(app);
        var id = (Guid)(await Saved(world, "By device", "app"))["id"]!;
        var links = new List<JsonNode>();
        foreach (var title in new[] { "One", "Two" })
        {
            var wish = new
            {
                destination = "https://www.northmoor.example/",
                title,
                routeId = id,
            };
            links.Add(await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/links", wish, Cancel)));
        }

        (await world.Editor.PutAsJsonAsync($"/api/v1/links/{links[0]["id"]}/routes", Rules("own"), Cancel)).EnsureSuccessStatusCode();
        (
            await world.Editor.PatchAsJsonAsync($"/api/v1/routes/{id}", new JsonObject { ["routes"] = Rules("later") }, Cancel)
        ).EnsureSuccessStatusCode();
        (await Led(world, links[0])).ShouldBe("https://www.northmoor.example/own");
        (await Led(world, links[1])).ShouldBe("https://www.northmoor.example/later");
        (await world.Editor.DeleteAsync($"/api/v1/routes/{id}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Led(world, links[1])).ShouldBe("https://www.northmoor.example/later");
        ((Guid?)(await world.Get($"/api/v1/links/{links[1]["id"]}/routes"))["routeId"]).ShouldBeNull();
    }

    [Fact]
    public async Task A_link_that_goes_back_to_rules_its_saved_route_has_no_more_follows_it_no_more()
    {
        var world = await World.Make(app);
        var id = (Guid)(await Saved(world, "By device", "app"))["id"]!;
        var link = (await world.Send(p => p["routeId"] = id))["placements"]![0]!["link"]!;
        await Changed("new-app");
        await Restored(version: 1);
        (await Led(world, link)).ShouldStartWith("https://www.northmoor.example/app?");
        (await Followed()).ShouldBeNull();
        await Restored(version: 2);
        (await Followed()).ShouldBe(id);
        await Changed("newest-app");
        (await Led(world, link)).ShouldStartWith("https://www.northmoor.example/newest-app?");

        async Task<Guid?> Followed() => (Guid?)(await world.Get($"/api/v1/links/{link["id"]}/routes"))["routeId"];
        async Task Changed(string page) =>
            (
                await world.Editor.PatchAsJsonAsync($"/api/v1/routes/{id}", new JsonObject { ["routes"] = Rules(page) }, Cancel)
            ).EnsureSuccessStatusCode();
        async Task Restored(int version) =>
            (await world.Editor.PostAsJsonAsync($"/api/v1/links/{link["id"]}/restore", new { version }, Cancel)).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Many_links_are_given_a_saved_route_in_one_go_and_lose_it_again()
    {
        var world = await World.Make(app);
        var id = (Guid)(await Saved(world, "By device", "app"))["id"]!;
        var links = (await world.Send())["placements"]!.AsArray().Select(p => p!["link"]!).Take(2).ToList();
        var ids = links.Select(l => (Guid)l["id"]!).ToList();
        await world.ChangeMany(new { links = new { ids }, change = new { routeId = $"{id}" } });
        (await Led(world, links[1])).ShouldStartWith("https://www.northmoor.example/app?");
        await world.ChangeMany(new { links = new { ids }, change = new { routeId = "" } });
        (await Led(world, links[1])).ShouldNotContain("/app");
    }

    [Fact]
    public async Task What_cannot_be_saved_is_told_with_its_field()
    {
        var world = await World.Make(app);
        await Saved(world, "By device", "app");
        await Told(new JsonObject { ["name"] = "By device", ["routes"] = Rules("app") }, HttpStatusCode.Conflict);
        await Told(new JsonObject { ["name"] = "Empty", ["routes"] = new JsonObject() }, HttpStatusCode.UnprocessableEntity, "routes");
        await Told(new JsonObject { ["name"] = " ", ["routes"] = Rules("app") }, HttpStatusCode.UnprocessableEntity, "name");
        var nobody = new JsonObject
        {
            ["name"] = "No one",
            ["routes"] = JsonNode.Parse("""{"rules":[{"to":[{"destination":"https://a.example/"}]}]}"""),
        };
        await Told(nobody, HttpStatusCode.UnprocessableEntity, "routes.rules[0].when");
        var unknown = new { destination = "https://www.northmoor.example/", routeId = Guid.NewGuid() };
        var answer = await world.Editor.PostAsJsonAsync("/api/v1/links", unknown, Cancel);
        (await World.Read(answer))["errors"]!.AsObject().Select(e => e.Key).ShouldBe(["routeId"]);

        async Task Told(JsonObject body, HttpStatusCode status, string? field = null)
        {
            var response = await world.Editor.PostAsJsonAsync("/api/v1/routes", body, Cancel);
            response.StatusCode.ShouldBe(status);
            if (field is not null)
            {
                (await World.Read(response))["errors"]!.AsObject().Select(e => e.Key).ShouldBe([field]);
            }
        }
    }

    private static JsonNode Rules(string page) =>
        JsonNode.Parse($$"""{"rules":[{"when":{"devices":["phone"]},"to":[{"destination":"https://www.northmoor.example/{{page}}"}] } ] }""")!;

    private static async Task<JsonNode> Saved(World world, string name, string page)
    {
        var answer = await world.Editor.PostAsJsonAsync("/api/v1/routes", new JsonObject { ["name"] = name, ["routes"] = Rules(page) }, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Created, await answer.Content.ReadAsStringAsync(Cancel));
        return await World.Read(answer);
    }

    private static async Task<string> Led(World world, JsonNode link) => (await world.Visit((string)link["slug"]!, r =>
            {
                r.Headers.UserAgent.Clear();
                r.Headers.TryAddWithoutValidation("User-Agent", Phone);
            })).Headers.Location!.OriginalString;
}
