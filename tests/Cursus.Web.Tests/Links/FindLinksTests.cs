using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Links;

public class FindLinksTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("query=moon", "moon-guildhall moon-perch")]
    [InlineData("query=rise%20moon", "moon-guildhall moon-perch")]
    [InlineData("query=saturn-p", "saturn-perch")]
    [InlineData("query=%25", "")]
    [InlineData("query=winter", "moon-guildhall moon-perch saturn-perch")]
    [InlineData("channel=perch", "moon-perch saturn-perch")]
    [InlineData("channel=perch&query=moon", "moon-perch")]
    [InlineData("tag=night", "moon-guildhall moon-perch")]
    [InlineData("tag=nig", "")]
    [InlineData("campaign=winter-members", "moon-guildhall moon-perch saturn-perch")]
    [InlineData("campaign=unheard-of", "")]
    [InlineData("state=never-clicked", "moon-guildhall moon-perch single")]
    public async Task Links_are_found_by_words_and_filters(string filter, string slugs)
    {
        var world = await Sky();
        var found = await world.Get("/api/v1/links?" + filter);
        found["items"]!
            .AsArray()
            .Select(l => (string)l!["slug"]!)
            .Order(StringComparer.Ordinal)
            .ShouldBe(slugs.Split(' ', StringSplitOptions.RemoveEmptyEntries));
        ((int)found["total"]!).ShouldBe(found["items"]!.AsArray().Count);
    }

    [Theory]
    [InlineData("newest", "single saturn-perch moon-guildhall moon-perch")]
    [InlineData("oldest", "moon-guildhall moon-perch saturn-perch single")]
    [InlineData("title", "moon-guildhall moon-perch saturn-perch single")]
    public async Task Links_are_sorted_as_asked(string sort, string slugs)
    {
        var world = await Sky();
        (await world.Get($"/api/v1/links?sort={sort}"))["items"]!.AsArray().Select(l => (string)l!["slug"]!).ShouldBe(slugs.Split(' '));
    }

    [Fact]
    public async Task The_most_clicked_link_comes_first_when_asked_by_clicks()
    {
        var world = await Sky();
        var first = (await world.Get("/api/v1/links?sort=clicks"))["items"]![0]!;
        ((string)first["slug"]!, (int)first["clicks"]!).ShouldBe(("saturn-perch", 2));
    }

    [Theory]
    [InlineData("sort=beauty")]
    [InlineData("state=lost")]
    public async Task An_unknown_sort_or_state_is_told(string query)
    {
        var world = await World.Make(app);
        (await world.Viewer.GetAsync("/api/v1/links?" + query, Cancel)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task Pages_follow_one_another_without_gap_or_repeat()
    {
        var world = await Sky();
        var seen = new List<string>();
        string? cursor = null;
        do
        {
            var page = await world.Get($"/api/v1/links?limit=3{(cursor is null ? "" : $"&cursor={cursor}")}");
            seen.AddRange(page["items"]!.AsArray().Select(l => (string)l!["slug"]!));
            cursor = (string?)page["nextCursor"];
            ((int)page["total"]!).ShouldBe(4);
        } while (cursor is not null);
        seen.ShouldBe(["single", "saturn-perch", "moon-guildhall", "moon-perch"]);
    }

    [Theory]
    [InlineData("""{"destination":"javascript:1"}""", "destination")]
    [InlineData("""{"redirect":418}""", "redirect")]
    [InlineData("""{"title":" "}""", "title")]
    [InlineData("""{"campaign":"unheard-of"}""", "campaign")]
    [InlineData("""{"source":""}""", "source")]
    public async Task A_change_that_cannot_be_made_changes_nothing(string body, string field)
    {
        var world = await Sky();
        var link = (await world.Get("/api/v1/links?query=saturn-perch"))["items"]![0]!;
        var refused = await world.Editor.PatchAsync(
            $"/api/v1/links/{link["id"]}",
            new StringContent(body, System.Text.Encoding.UTF8, "application/json"),
            Cancel
        );
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
        (await world.Get($"/api/v1/links/{link["id"]}")).ToJsonString().ShouldBe(link.ToJsonString());
    }

    [Fact]
    public async Task A_change_keeps_what_it_does_not_name()
    {
        var world = await Sky();
        var link = (await world.Get("/api/v1/links?query=moon-perch"))["items"]![0]!;
        var changed = await World.Read(
            await world.Editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", new { content = "button", tags = new[] { "day" } }, Cancel)
        );
        ((string)changed["finalUrl"]!).ShouldBe(((string)link["finalUrl"]!).Replace("#top", "&utm_content=button#top", StringComparison.Ordinal));
        changed["tags"]!.AsArray().Select(t => (string)t!).ShouldBe(["day"]);
        ((string)changed["title"]!, (string)changed["slug"]!, (int)changed["redirect"]!).ShouldBe(((string)link["title"]!, "moon-perch", 302));
    }

    [Fact]
    public async Task Words_in_the_address_bar_find_links_posts_and_campaigns()
    {
        var world = await Sky();
        var hits = await world.Get("/api/v1/find?query=moon");
        hits.AsArray()
            .Select(h => $"{h!["kind"]} {h["label"]}")
            .Order(StringComparer.Ordinal)
            .ShouldBe([$"link {world.Domain}/moon-guildhall", $"link {world.Domain}/moon-perch", "post A late moonrise"]);
        (await world.Get("/api/v1/find?query=winter%20mem"))[0]!["key"]!.ToString().ShouldBe("winter-members");
        (await world.Get("/api/v1/find?query=%20")).AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task Posts_are_read_with_their_links_newest_first()
    {
        var world = await Sky();
        var posts = await world.Get("/api/v1/posts");
        posts["items"]!.AsArray().Select(p => $"{p!["title"]} {p["clicks"]}").ShouldBe(["Saturn 2", "A late moonrise 0"]);
        (await world.Get("/api/v1/posts?channel=guildhall"))["items"]!.AsArray().Count.ShouldBe(1);
        (await world.Get("/api/v1/posts?tag=night&campaign=winter-members&query=late"))["items"]!.AsArray().Count.ShouldBe(1);
    }

    /// <summary>A post on two channels, one on one with two clicks, and a single link.</summary>
    private async Task<World> Sky()
    {
        var world = await World.Make(app);
        await world.Send(p =>
        {
            p["title"] = "A late moonrise";
            p["publishedOn"] = "2026-11-01";
            p["tags"] = new JsonArray("night");
            p["placements"] = JsonNode.Parse("""[{"channel":"guildhall","slug":"moon-guildhall"},{"channel":"perch","slug":"moon-perch"}]""");
        });
        await world.Send(p =>
        {
            p["title"] = "Saturn";
            p["publishedOn"] = "2026-11-02";
            p["placements"] = JsonNode.Parse("""[{"channel":"perch","slug":"saturn-perch"}]""");
        });
        (
            await world.Editor.PostAsJsonAsync(
                "/api/v1/links",
                new
                {
                    destination = "northmoor.example/shop",
                    slug = "single",
                    title = "Shop",
                },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        await world.Visit("saturn-perch");
        await world.Visit("saturn-perch");
        await app.Shipped();
        return world;
    }
}
