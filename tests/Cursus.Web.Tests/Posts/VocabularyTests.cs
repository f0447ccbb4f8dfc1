using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Posts;

/// <summary>Channels, campaigns and tags: the words a workspace agrees on.</summary>
public class VocabularyTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_channel_needs_only_a_name_and_its_words_are_taken_for_new_links()
    {
        var world = await World.Make(app);
        var channel = await Post(world.Editor, "channels", new { name = "Partner’s Blog", medium = "referral" });
        ((string)channel["key"]!, (string)channel["source"]!, (string)channel["medium"]!, (string)channel["signet"]!).ShouldBe(
            ("partners-blog", "partners-blog", "referral", "Pa")
        );
        var post = await world.Send(p => p["placements"] = JsonNode.Parse("""[{"channel":"partners-blog"}]"""));
        ((string)post["placements"]![0]!["link"]!["finalUrl"]!).ShouldContain("utm_source=partners-blog&utm_medium=referral");
    }

    [Fact]
    public async Task Changed_words_count_for_new_links_and_leave_existing_ones_alone()
    {
        var world = await World.Make(app);
        var before = World.Slug(await world.Send(), 1);
        var id = (string)(await world.Get("/api/v1/channels"))["items"]![1]!["id"]!;
        var changed = await world.Editor.PatchAsJsonAsync(
            $"/api/v1/channels/{id}",
            new
            {
                source = "perch-app",
                textLimit = 300,
                color = 9,
                signet = "P",
            },
            Cancel
        );
        ((int)(await World.Read(changed))["textLimit"]!).ShouldBe(300);
        (await world.Visit(before)).Headers.Location!.Query.ShouldContain("utm_source=perch&");
        (await world.Visit(World.Slug(await world.Send(), 1))).Headers.Location!.Query.ShouldContain("utm_source=perch-app&");
    }

    [Theory]
    [InlineData("channels", """{"name":""}""", "name")]
    [InlineData("channels", """{"name":"???"}""", "name")]
    [InlineData("channels", """{"name":"Good","medium":" "}""", "medium")]
    [InlineData("channels", """{"name":"Good","signet":"ABC"}""", "signet")]
    [InlineData("channels", """{"name":"Good","color":10}""", "color")]
    [InlineData("channels", """{"name":"Good","textLimit":-1}""", "textLimit")]
    [InlineData("campaigns", """{"name":"  "}""", "name")]
    [InlineData("campaigns", """{"name":"!!!"}""", "name")]
    [InlineData("campaigns", """{"name":"Good","key":"a\nb"}""", "key")]
    [InlineData("tags", """{"name":""}""", "name")]
    [InlineData("tags", """{"name":"good","color":-1}""", "color")]
    public async Task What_is_wrong_with_a_word_is_told_at_its_field(string feature, string body, string field)
    {
        var world = await World.Make(app);
        var refused = await world.Editor.PostAsync(
            $"/api/v1/{feature}",
            new StringContent(body, System.Text.Encoding.UTF8, "application/json"),
            Cancel
        );
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
    }

    [Theory]
    [InlineData("channels", "Perch")]
    [InlineData("campaigns", "Winter members")]
    [InlineData("tags", "EVENT")]
    public async Task No_word_exists_twice(string feature, string name)
    {
        var world = await World.Make(app);
        await world.Send(p => p["tags"] = new JsonArray("event"));
        (await world.Editor.PostAsJsonAsync($"/api/v1/{feature}", new { name }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task Words_with_links_stay_and_unused_ones_can_go()
    {
        var world = await World.Make(app);
        await world.Send();
        foreach (var feature in new[] { "channels", "campaigns", "domains" })
        {
            var id = (string)(await world.Get($"/api/v1/{feature}"))["items"]![0]!["id"]!;
            (await world.Owner.DeleteAsync($"/api/v1/{feature}/{id}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict, feature);
        }

        foreach (
            var (feature, name) in new[]
            {
                ("channels", "Unused"),
                ("campaigns", "Unused"),
                ("domains", $"unused-{Guid.NewGuid():N}.localhost"),
                ("tags", "unused"),
            }
        )
        {
            var made = await Post(world.Owner, feature, new { name });
            (await world.Owner.DeleteAsync($"/api/v1/{feature}/{made["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent, feature);
            (await world.Viewer.GetAsync($"/api/v1/{feature}/{made["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound, feature);
        }
    }

    [Fact]
    public async Task A_campaigns_key_is_made_from_its_name_and_stays_when_it_is_renamed()
    {
        var world = await World.Make(app);
        var campaign = await Post(world.Editor, "campaigns", new { name = "Café Nights: Été 2026" });
        ((string)campaign["key"]!).ShouldBe("cafe-nights-ete-2026");
        var renamed = await World.Read(
            await world.Editor.PatchAsJsonAsync($"/api/v1/campaigns/{campaign["id"]}", new { name = "Summer nights" }, Cancel)
        );
        ((string)renamed["key"]!, (string)renamed["name"]!).ShouldBe(("cafe-nights-ete-2026", "Summer nights"));
    }

    /// <summary>Common practice, no source: values are compared as written, so a key that is typed is kept as typed.</summary>
    [Fact]
    public async Task Two_spellings_are_two_campaigns()
    {
        var world = await World.Make(app);
        (
            (string)
                (
                    await Post(
                        world.Editor,
                        "campaigns",
                        new
                        {
                            name = "Typed otherwise",
                            key = "Winter-Members",
                            evenSo = true,
                        }
                    )
                )["key"]!
        ).ShouldBe("Winter-Members");
        (await world.Send(p => p["campaign"] = "Winter-Members"))["placements"]![0]!["link"]!["finalUrl"]!
            .ToString()
            .ShouldContain("utm_campaign=Winter-Members");
    }

    [Fact]
    public async Task A_tag_can_be_renamed_and_recoloured_by_owners_only()
    {
        var world = await World.Make(app);
        var tag = await Post(world.Editor, "tags", new { name = "event" });
        (await world.Editor.PatchAsJsonAsync($"/api/v1/tags/{tag["id"]}", new { name = "night" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        var changed = await World.Read(await world.Owner.PatchAsJsonAsync($"/api/v1/tags/{tag["id"]}", new { name = "night", color = 4 }, Cancel));
        ((string)changed["name"]!, (int)changed["color"]!).ShouldBe(("night", 4));
    }

    private static async Task<JsonNode> Post(HttpClient client, string feature, object body)
    {
        var response = await client.PostAsJsonAsync($"/api/v1/{feature}", body, Cancel);
        response.StatusCode.ShouldBe(HttpStatusCode.Created, await response.Content.ReadAsStringAsync(Cancel));
        return await World.Read(await client.GetAsync(response.Headers.Location, Cancel));
    }
}
