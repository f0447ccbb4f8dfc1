using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Posts;

/// <summary>Drafts, recipes and undo: nothing typed is lost, nothing is typed twice, and a slip right after saving costs nothing.</summary>
public class BeginningAgainTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_draft_is_kept_as_unfinished_as_it_is_and_is_its_members_own()
    {
        var world = await World.Make(app);
        var id = Guid.NewGuid();
        (
            await world.Editor.PutAsJsonAsync(
                $"/api/v1/drafts/{id}",
                new { destination = "not yet an addr", placements = new[] { new { channel = "perch", slug = "own" } } },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        (
            await world.Editor.PutAsJsonAsync(
                $"/api/v1/drafts/{id}",
                new { destination = "northmoor.example", placements = new[] { new { channel = "perch", slug = "own" } } },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        var drafts = await World.Read(await world.Editor.GetAsync("/api/v1/drafts", Cancel));
        (
            (int)drafts["total"]!,
            (string)drafts["items"]![0]!["content"]!["destination"]!,
            (string)drafts["items"]![0]!["content"]!["placements"]![0]!["slug"]!
        ).ShouldBe((1, "northmoor.example", "own"));

        ((int)(await World.Read(await world.Owner.GetAsync("/api/v1/drafts", Cancel)))["total"]!).ShouldBe(0);
        (await world.Owner.PutAsJsonAsync($"/api/v1/drafts/{id}", new { destination = "elsewhere.example" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
        (await world.Owner.DeleteAsync($"/api/v1/drafts/{id}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await world.Editor.DeleteAsync($"/api/v1/drafts/{id}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task A_recipe_keeps_the_way_to_send_without_what_belongs_to_one_post()
    {
        var world = await World.Make(app);
        var content = World.Post(p =>
        {
            p["tags"] = new JsonArray("event");
            p["options"] = new JsonObject { ["passQuery"] = "visitor-wins" };
            p["placements"]![0]!["slug"] = "only-once";
        });
        var recipe = await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/recipes", new { name = "Event, two channels", content }, Cancel));
        (recipe["content"]!["title"], recipe["content"]!["campaign"], recipe["content"]!["placements"]![0]!["slug"]).ShouldBe((null, null, null));
        (recipe["content"]!["options"]!["passQuery"]!.ToString(), recipe["content"]!["tags"]!.ToJsonString()).ShouldBe(
            ("visitor-wins", """["event"]""")
        );
        (await world.Editor.PostAsJsonAsync("/api/v1/recipes", new { name = "Event, two channels", content }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Conflict
        );
        (await world.Editor.PostAsJsonAsync("/api/v1/recipes", new { name = "Nothing" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );

        var campaign = (string)(await world.Get("/api/v1/campaigns"))["items"]![0]!["id"]!;
        var changed = await World.Read(
            await world.Editor.PatchAsJsonAsync($"/api/v1/campaigns/{campaign}", new { recipe = (string)recipe["id"]! }, Cancel)
        );
        changed["recipe"]!.ToString().ShouldBe(recipe["id"]!.ToString());
    }

    [Fact]
    public async Task What_was_just_saved_can_be_taken_back_and_its_slugs_are_free_at_once()
    {
        var world = await World.Make(app);
        var post = await world.Send(p => p["placements"]![0]!["slug"] = "too-soon");
        (await world.Editor.PostAsync($"/api/v1/posts/{post["id"]}/undo", null, Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await world.Visit("too-soon")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await world.Viewer.GetAsync($"/api/v1/posts/{post["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        World.Slug(await world.Send(p => p["placements"]![0]!["slug"] = "too-soon"), 0).ShouldBe("too-soon");
    }

    [Fact]
    public async Task What_somebody_has_clicked_cannot_be_taken_back()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        await world.Visit(World.Slug(post, 0));
        await app.Shipped();
        var late = await world.Editor.PostAsync($"/api/v1/posts/{post["id"]}/undo", null, Cancel);
        ((string)(await World.Read(late))["code"]!).ShouldBe("too-late-to-undo");
        (await world.Visit(World.Slug(post, 0))).StatusCode.ShouldBe(HttpStatusCode.Found);
    }
}
