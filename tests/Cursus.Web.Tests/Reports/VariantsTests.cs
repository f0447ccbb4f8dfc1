using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Reports;

/// <summary>Which variant of a post won on a channel, and the split by which that is judged.</summary>
public class VariantsTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Variants_are_judged_by_the_split_that_is_set_and_alike_where_it_is_taken_back()
    {
        var (world, post) = await Mailed();

        var alike = await Variants(world, post);
        ((string)alike["channel"]!).ShouldBe("night-letter");
        ((bool)alike["isSplit"]!).ShouldBeFalse();
        Rows(alike).ShouldBe([("button", null, 12, 1.2), ("logo", null, 8, 0.8)]);
        ((string)alike["answer"]!).ShouldStartWith("“button” and “logo” are too close to call: “button” has 12 clicks; “logo” has 8 clicks.");

        (await Set(world, post, 20, 80)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var split = await Variants(world, post);
        Rows(split).ShouldBe([("logo", 20, 8, 2), ("button", 80, 12, 0.75)]);
        ((string)split["answer"]!).ShouldStartWith("“logo” leans ahead of “button”, by a factor of 2.67 (");

        (await world.Editor.DeleteAsync(Address(post), Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Variants(world, post)).ToJsonString().ShouldBe(alike.ToJsonString());
    }

    [Fact]
    public async Task They_are_taken_away_as_the_screen_shows_them()
    {
        var (world, post) = await Mailed();
        await Set(world, post, 20, 80);
        (await world.Viewer.GetStringAsync($"/api/v1/posts/{post["id"]}/variants.csv?bom=false", Cancel))
            .Split("\r\n")[..3]
            .ShouldBe([
                "channel,variant,shown to (%),clicks,share,share at least,share at most,index",
                "night-letter,logo,20,8,0.4,0.2188,0.6134,2",
                "night-letter,button,80,12,0.6,0.3866,0.7812,0.75",
            ]);
        (await world.Viewer.GetAsync($"/api/v1/posts/{post["id"]}/variants.xlsx", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task A_post_that_stands_once_on_each_channel_has_no_variants()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        (await world.Get($"/api/v1/posts/{post["id"]}/variants"))["channels"]!.AsArray().ShouldBeEmpty();
    }

    [Theory]
    [InlineData("split-sum", 30, 60)]
    [InlineData("split-part", 0, 100)]
    [InlineData("split-incomplete", 100, null)]
    public async Task A_split_that_is_none_is_refused_and_the_one_before_stays(string code, int logo, int? button)
    {
        var (world, post) = await Mailed();
        await Set(world, post, 20, 80);
        var refused = await Set(world, post, logo, button);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ((string)(await World.Read(refused))["code"]!).ShouldBe(code);
        Rows(await Variants(world, post)).Select(r => r.Exposure).ShouldBe([20, 80]);
    }

    [Fact]
    public async Task Only_editors_set_a_split_and_only_where_the_post_is()
    {
        var (world, post) = await Mailed();
        (await world.Viewer.PutAsJsonAsync(Address(post), new { parts = Parts(post, 20, 80) }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Editor.PutAsJsonAsync(Address(post, "hearthside"), new { parts = Parts(post, 20, 80) }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
        (await world.Editor.DeleteAsync(Address(post, "hearthside"), Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    /// <summary>A mailing with two links, logo and button, of which the one was followed by eight people and the other by twelve; and a placement
    /// elsewhere.</summary>
    private async Task<(World World, JsonNode Post)> Mailed()
    {
        var world = await World.Make(app);
        var post = await world.Send(p =>
            p["placements"] = JsonNode.Parse(
                """[{ "channel": "night-letter", "variant": "logo" }, { "channel": "night-letter", "variant": "button" }, { "channel": "perch" }]"""
            )
        );
        foreach (var placement in Enumerable.Repeat(0, 8).Concat(Enumerable.Repeat(1, 12)).Append(2))
        {
            await world.Visit(World.Slug(post, placement));
        }

        await app.Shipped();
        return (world, post);
    }

    private static async Task<JsonNode> Variants(World world, JsonNode post) =>
        (await world.Get($"/api/v1/posts/{post["id"]}/variants"))["channels"]!.AsArray().Single()!;

    private static IEnumerable<(string Label, int? Exposure, int Clicks, double Index)> Rows(JsonNode channel) =>
        channel["variants"]!
            .AsArray()
            .Select(v => ((string)v!["label"]!, (int?)v["exposure"], (int)v["clicks"]!, Math.Round((double)v["index"]!, 9)));

    private static Task<HttpResponseMessage> Set(World world, JsonNode post, int logo, int? button) =>
        world.Editor.PutAsJsonAsync(Address(post), new { parts = Parts(post, logo, button) }, Cancel);

    private static Dictionary<string, int> Parts(JsonNode post, params int?[] parts) =>
        parts.Index().Where(p => p.Item is not null).ToDictionary(p => (string)post["placements"]![p.Index]!["link"]!["id"]!, p => p.Item!.Value);

    private static string Address(JsonNode post, string channel = "night-letter") => $"/api/v1/posts/{post["id"]}/variants/{channel}/split";
}
