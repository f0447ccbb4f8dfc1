using System.Net;
using System.Net.Http.Json;

namespace Cursus.Web.Tests.Posts;

/// <summary>Channels as they are set up: offered to a new workspace, put in order, retired and merged.</summary>
public class ChannelSettingsTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_starter_set_is_added_whole_with_what_was_renamed_and_source_and_medium_for_each()
    {
        var world = await World.Make(app);
        var offered = (await world.Get("/api/v1/channels/starter-set")).AsArray();
        offered.Count(c => (bool)c!["isUsual"]!).ShouldBe(4);

        var chosen = offered.Take(4).Select((c, i) => new { name = i == 0 ? "Longreel" : (string)c!["name"]!, medium = (string)c!["medium"]! });
        var added = (
            await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/channels/starter-set", new { channels = chosen }, Cancel))
        ).AsArray();
        added
            .Select(c => ((string)c!["key"]!, (string)c["source"]!, (string)c["medium"]!))
            .ShouldBe([
                ("longreel", "longreel", "social"),
                ("short-posts", "short-posts", "social"),
                ("friends-and-groups", "friends-and-groups", "social"),
                ("newsletter", "newsletter", "email"),
            ]);
    }

    [Fact]
    public async Task Of_a_set_with_one_channel_that_is_there_already_none_is_added()
    {
        var world = await World.Make(app);
        var refused = await world.Editor.PostAsJsonAsync(
            "/api/v1/channels/starter-set",
            new { channels = new[] { new { name = "Poster" }, new { name = "Perch" } } },
            Cancel
        );
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]!["channels[1].name"].ShouldNotBeNull();
        (await Keys(world)).ShouldBe(["guildhall", "perch", "hearthside", "night-letter"]);
    }

    [Fact]
    public async Task The_order_is_what_somebody_put_the_channels_in()
    {
        var world = await World.Make(app);
        string[] order = ["night-letter", "guildhall", "hearthside", "perch"];
        (await world.Editor.PutAsJsonAsync("/api/v1/channels/order", new { keys = order }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Keys(world)).ShouldBe(order);

        foreach (
            var wrong in new[]
            {
                ["perch"],
                ["perch", "perch", "guildhall", "hearthside"],
                new[] { "night-letter", "guildhall", "hearthside", "poster" },
            }
        )
        {
            (await world.Editor.PutAsJsonAsync("/api/v1/channels/order", new { keys = wrong }, Cancel)).StatusCode.ShouldBe(
                HttpStatusCode.UnprocessableEntity
            );
        }

        (await Keys(world)).ShouldBe(order);
    }

    [Fact]
    public async Task A_retired_channel_takes_no_new_links_and_stays_in_reports_until_it_is_reactivated()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 1);
        await world.Visit(slug);
        await Change(world, "perch", new { retired = true });

        var refused = await world.Editor.PostAsJsonAsync("/api/v1/posts", World.Post(), Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ((string)(await World.Read(refused))["errors"]!["placements[1].channel"]![0]!).ShouldStartWith("“Perch” is retired.");
        (await world.Visit(slug)).StatusCode.ShouldBe(HttpStatusCode.Found, "its links still work");
        (await ClicksOf(world, "perch")).ShouldBe(2);

        await Change(world, "perch", new { retired = false });
        await world.Send();
    }

    [Fact]
    public async Task A_merged_channel_s_links_and_all_their_clicks_count_for_the_other()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        await world.Visit(World.Slug(post, 0));
        await world.Visit(World.Slug(post, 1));
        await world.Owner.PostAsJsonAsync("/api/v1/recipes", new { name = "Both", content = World.Post() }, Cancel);
        await world.Owner.PostAsJsonAsync("/api/v1/views", new { name = "Perch alone", question = "by=post&channel=perch" }, Cancel);
        await world.Owner.PostAsJsonAsync(
            "/api/v1/saved-filters",
            new { name = "Both channels", filter = "query=moon&channel=perch%2Cguildhall" },
            Cancel
        );
        await world.Owner.PostAsJsonAsync("/api/v1/referrer-rules", new { host = "forum.northmoor.example", channel = "perch" }, Cancel);
        var perch = await IdOf(world, "perch");
        var usage = await world.Get($"/api/v1/channels/{perch}/usage");
        ((int)usage["links"]!, (int)usage["posts"]!, (int)usage["sites"]!, (int)usage["recipes"]!).ShouldBe((1, 1, 1, 1));

        (await world.Editor.PostAsJsonAsync($"/api/v1/channels/{perch}/merge", new { into = "guildhall" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await world.Owner.PostAsJsonAsync($"/api/v1/channels/{perch}/merge", new { into = "perch" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await world.Owner.PostAsJsonAsync($"/api/v1/channels/{perch}/merge", new { into = "guildhall" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.OK
        );

        (await Keys(world)).ShouldBe(["guildhall", "hearthside", "night-letter"]);
        (await ClicksOf(world, "guildhall")).ShouldBe(2);
        var after = await world.Get($"/api/v1/posts/{post["id"]}");
        after["placements"]!
            .AsArray()
            .Select(p => ((string)p!["channel"]!, (string?)p["variant"]))
            .ShouldBe([("guildhall", null), ("guildhall", "Perch")], "a post’s two links can still be told apart");
        (await world.Visit(World.Slug(post, 1))).Headers.Location!.Query.ShouldContain(
            "utm_source=perch&",
            Case.Sensitive,
            "what visitors carry stays"
        );
        (await world.Get("/api/v1/recipes"))["items"]![0]!["content"]!["placements"]!
            .AsArray()
            .Select(p => (string)p!["channel"]!)
            .ShouldBe(["guildhall"]);
        ((string)(await world.Get("/api/v1/views"))["items"]![0]!["question"]!).ShouldBe("by=post&channel=guildhall");
        ((string)(await world.Get("/api/v1/saved-filters"))["items"]![0]!["filter"]!).ShouldBe("query=moon&channel=guildhall");
        ((string)(await world.Get("/api/v1/referrer-rules"))["items"]![0]!["channel"]!).ShouldBe("guildhall");
    }

    [Fact]
    public async Task A_workspace_cannot_merge_or_look_into_the_channel_of_another()
    {
        var (mine, theirs) = (await World.Make(app), await World.Make(app));
        var foreign = await IdOf(theirs, "perch");
        (await mine.Owner.PostAsJsonAsync($"/api/v1/channels/{foreign}/merge", new { into = "guildhall" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
        (await mine.Owner.GetAsync($"/api/v1/channels/{foreign}/usage", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    private static async Task<IEnumerable<string>> Keys(World world) =>
        (await world.Get("/api/v1/channels"))["items"]!.AsArray().Select(c => (string)c!["key"]!);

    private static async Task<string> IdOf(World world, string key) =>
        (string)(await world.Get("/api/v1/channels"))["items"]!.AsArray().Single(c => (string)c!["key"]! == key)!["id"]!;

    private static async Task Change(World world, string key, object change) =>
        (await world.Editor.PatchAsJsonAsync($"/api/v1/channels/{await IdOf(world, key)}", change, Cancel)).EnsureSuccessStatusCode();

    private static async Task<int> ClicksOf(World world, string channel) =>
        (await world.Breakdown("by=channel"))["rows"]!.AsArray().Where(r => (string)r!["key"]! == channel).Sum(r => (int)r!["clicks"]!);
}
