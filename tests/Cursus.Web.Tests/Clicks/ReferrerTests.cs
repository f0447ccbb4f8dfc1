using System.Net;
using System.Net.Http.Json;

namespace Cursus.Web.Tests.Clicks;

/// <summary>Where a link has travelled: the channel it was made for against the place it was clicked on.</summary>
public class ReferrerTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_a_workspace_says_of_a_site_decides_where_its_visitors_came_from()
    {
        var world = await World.Make(app);
        var guildhall = World.Slug(await world.Send(), 0);
        foreach (
            var site in new[]
            {
                "https://clubs.forum.example/t/1",
                "https://forum.example/",
                "https://www.northmoor.example/news?mail=maren",
                $"http://{world.Domain}/x",
                "",
            }
        )
        {
            await world.Visit(guildhall, r => r.Headers.TryAddWithoutValidation("Referer", site));
        }

        (await Rows(world, "network")).ShouldBe(
            ["clubs.forum.example 1", "forum.example 1", "own 1", "www.northmoor.example 1", " 1"],
            ignoreOrder: true
        );
        await Say(world, "https://Forum.example/rules", "perch");
        await Say(world, "clubs.forum.example", "guildhall");
        await Say(world, "northmoor.example", null);
        (await Rows(world, "network")).ShouldBe(["perch 1", "guildhall 1", "own 2", " 1"], ignoreOrder: true);
        (await Rows(world, "elsewhere")).ShouldBe(["elsewhere 1", "own-channel 1", " 3"], ignoreOrder: true);

        var seen = (await world.Get("/api/v1/referrers")).AsArray().ToDictionary(s => (string)s!["host"]!, s => s!);
        seen.Keys.ShouldBe(["clubs.forum.example", "forum.example", "www.northmoor.example", world.Domain], ignoreOrder: true);
        ((string?)seen["clubs.forum.example"]["channel"], (string?)seen["forum.example"]["channel"]).ShouldBe(("guildhall", "perch"));
        ((bool)seen["www.northmoor.example"]["isOwn"]!, (bool)seen[world.Domain]["isOwn"]!, (bool)seen["forum.example"]["isOwn"]!).ShouldBe(
            (true, true, false)
        );

        await world.Editor.DeleteAsync($"/api/v1/referrer-rules/{seen["clubs.forum.example"]["rule"]}", Cancel);
        (await Rows(world, "network")).ShouldBe(["perch 2", "own 2", " 1"], ignoreOrder: true);
    }

    [Fact]
    public async Task A_site_has_one_rule_and_must_be_a_host_and_its_channel_must_exist()
    {
        var world = await World.Make(app);
        await Say(world, "forum.example", "perch");
        await Say(world, "forum.example", "guildhall");
        (await world.Get("/api/v1/referrer-rules"))["items"]!.AsArray().ShouldHaveSingleItem()!["channel"]!.GetValue<string>().ShouldBe("guildhall");

        var refused = await world.Editor.PostAsJsonAsync("/api/v1/referrer-rules", new { host = "not a host", channel = "nobody" }, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]!.AsObject().Select(e => e.Key).ShouldBe(["host", "channel"]);
    }

    private static async Task Say(World world, string host, string? channel) =>
        (await world.Editor.PostAsJsonAsync("/api/v1/referrer-rules", new { host, channel }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Created);

    private static async Task<IEnumerable<string>> Rows(World world, string by) =>
        (await world.Breakdown($"by={by}"))["rows"]!.AsArray().Select(r => $"{r!["key"]} {r["clicks"]}");
}
