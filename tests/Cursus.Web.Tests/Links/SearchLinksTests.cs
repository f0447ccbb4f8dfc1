using System.Net.Http.Json;
using CsCheck;
using Cursus.Core.Links;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.Links;

/// <summary>The right link is found by what one remembers of it.</summary>
public class SearchLinksTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("geminids", "geminids-perch", false)]
    [InlineData("gem", "geminids-perch", false)]
    [InlineData("ge", "geminids-perch", false)]
    [InlineData("eminid", "geminids-perch", false)]
    [InlineData("GÉMINIDS", "geminids-perch", false)]
    [InlineData("meteors hundred", "geminids-perch", false)]
    [InlineData("gemniids", "geminids-perch", true)]
    [InlineData("telscope", "first-scope", true)]
    [InlineData("telescopes raffle", "first-scope", true)]
    [InlineData("scope northmoor", "first-scope", false)]
    [InlineData("uberraschung", "first-scope", false)]
    [InlineData("https://www.northmoor.example/shop/scope?ref=1", "first-scope", false)]
    [InlineData("old-scope", "first-scope", false)]
    [InlineData("raffle", "first-scope", false)]
    [InlineData("zzz", "", false)]
    public async Task A_link_is_found_by_words_parts_and_in_spite_of_slips(string typed, string first, bool isNear)
    {
        var world = await Sky();
        var found = await world.Get($"/api/v1/links?query={Uri.EscapeDataString(typed)}");
        ((string?)found["items"]!.AsArray().FirstOrDefault()?["slug"] ?? "").ShouldBe(first);
        ((bool)found["isNear"]! && first.Length > 0).ShouldBe(isNear);
    }

    [Fact]
    public async Task Words_that_some_link_has_are_no_slips_where_the_filters_leave_none()
    {
        var world = await Sky();
        var found = await world.Get("/api/v1/links?query=geminids&tag=Raffle");
        ((int)found["total"]!, (bool)found["isNear"]!).ShouldBe((0, false));
    }

    [Fact]
    public async Task What_stands_in_slug_and_title_comes_before_what_stands_in_a_note()
    {
        var world = await Sky();
        var slugs = async (string query) =>
            (await world.Get($"/api/v1/links?query={query}"))["items"]!.AsArray().Select(l => (string)l!["slug"]!).ToList();
        (await slugs("moon")).ShouldBe(["moon", "moon-maps", "first-scope"]);
        (await slugs("moon-maps"))[0].ShouldBe("moon-maps");
    }

    [Fact]
    public async Task A_renamed_tag_or_campaign_is_found_by_its_new_name_and_no_longer_by_the_old()
    {
        var world = await Sky();
        async Task<int> Total(string query) => (int)(await world.Get($"/api/v1/links?query={query}"))["total"]!;
        var tag = (await world.Get("/api/v1/tags"))["items"]!.AsArray().Single(t => (string)t!["name"]! == "Raffle")!;
        await world.Owner.PatchAsJsonAsync($"/api/v1/tags/{tag["id"]}", new { name = "Tombola" }, Cancel);
        (await Total("tombola"), await Total("raffle")).ShouldBe((1, 0));

        var into = (await world.Get("/api/v1/tags"))["items"]!.AsArray().Single(t => (string)t!["name"]! == "event")!;
        (await world.Editor.PostAsJsonAsync($"/api/v1/tags/{tag["id"]}/merge", new { into = (string)into["id"]! }, Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.Forbidden
        );
        var merged = await World.Read(
            await world.Owner.PostAsJsonAsync($"/api/v1/tags/{tag["id"]}/merge", new { into = (string)into["id"]! }, Cancel)
        );
        ((string)merged["name"]!, (int)merged["links"]!).ShouldBe(("event", 2));
        (await Total("tombola"), (int)(await world.Get("/api/v1/links?tag=event"))["total"]!).ShouldBe((0, 2));
    }

    [Theory]
    [InlineData("tag=event&tag=Raffle", 0)]
    [InlineData("tag=event&tag=Raffle&tags=any", 2)]
    [InlineData("tag=event&tag=night", 1)]
    [InlineData("channel=perch&channel=guildhall", 1)]
    [InlineData("folder=Shop", 1)]
    [InlineData("folder=", 3)]
    [InlineData("folder=Shop&folder=", 4)]
    [InlineData("pixels=any", 1)]
    [InlineData("pixels=none", 3)]
    [InlineData("since=2020-01-01&until=2020-01-31", 0)]
    [InlineData("since=2020-01-01", 4)]
    [InlineData("state=never-clicked", 3)]
    [InlineData("state=all", 4)]
    public async Task Filters_are_joined(string filter, int total)
    {
        var world = await Sky();
        ((int)(await world.Get("/api/v1/links?" + filter))["total"]!).ShouldBe(total);
    }

    [Fact]
    public async Task Links_are_found_by_who_made_them_and_filters_are_kept_by_name()
    {
        var world = await Sky();
        var members = (await world.Get("/api/v1/members"))["items"]!.AsArray();
        string Id(string name) => (string)members.Single(m => (string)m!["name"]! == name)!["id"]!;
        ((int)(await world.Get($"/api/v1/links?by={Id("Editor")}"))["total"]!).ShouldBe(4);
        ((int)(await world.Get($"/api/v1/links?by={Id("Owner")}"))["total"]!).ShouldBe(0);

        var kept = await World.Read(
            await world.Editor.PostAsJsonAsync("/api/v1/saved-filters", new { name = "Shop", filter = "?folder=Shop" }, Cancel)
        );
        ((string)kept["filter"]!).ShouldBe("folder=Shop");
        (await world.Editor.PostAsJsonAsync("/api/v1/saved-filters", new { name = "Shop", filter = "tag=x" }, Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.Conflict
        );
        (await world.Editor.PostAsJsonAsync("/api/v1/saved-filters", new { name = "All", filter = "" }, Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.UnprocessableEntity
        );
        await world.Editor.PatchAsJsonAsync($"/api/v1/saved-filters/{kept["id"]}", new { name = "The shop" }, Cancel);
        (await world.Get("/api/v1/saved-filters"))["items"]!
            .AsArray()
            .Select(f => $"{f!["name"]}: {f["filter"]}")
            .ShouldBe(["The shop: folder=Shop"]);
        (await world.Editor.DeleteAsync($"/api/v1/saved-filters/{kept["id"]}", Cancel)).StatusCode.ShouldBe(System.Net.HttpStatusCode.NoContent);
    }

    [Theory]
    [InlineData("title")]
    [InlineData("address")]
    [InlineData("destination")]
    [InlineData("channel")]
    [InlineData("campaign")]
    [InlineData("tags")]
    [InlineData("clicks")]
    [InlineData("recent-clicks")]
    [InlineData("state")]
    [InlineData("last-click")]
    [InlineData("changed")]
    [InlineData("newest")]
    public async Task Every_order_can_be_turned_round_and_leaves_none_out(string order)
    {
        var world = await Sky();
        async Task<List<string>> Slugs(string sort) =>
            [.. (await world.Get($"/api/v1/links?sort={sort}"))["items"]!.AsArray().Select(l => (string)l!["slug"]!)];
        var (up, down) = (await Slugs(order), await Slugs("-" + order));
        up.Count.ShouldBe(4);
        down.ShouldBe(up, ignoreOrder: true);
        if (order is "clicks" or "recent-clicks" or "last-click")
        {
            up[0].ShouldBe("geminids-perch");
        }

        if (order is "state")
        {
            up[^1].ShouldBe("geminids-perch", "it alone was clicked");
        }

        if (order is "tags")
        {
            up[..2].ShouldBe(["first-scope", "geminids-perch"], "links without tags come last");
        }

        if (order is "address" or "title" or "destination")
        {
            down.ShouldBe(Enumerable.Reverse(up));
        }
    }

    [Fact]
    public async Task The_course_of_thirty_days_ends_with_today()
    {
        var world = await Sky();
        var link = (await world.Get("/api/v1/links?query=geminids-perch"))["items"]![0]!;
        var course = link["course"]!.AsArray().Select(c => (int)c!).ToList();
        (course.Count, course[^1], course.Sum(), link["lastClickAt"] is not null).ShouldBe((30, 1, 1, true));
    }

    [Fact]
    public async Task The_database_makes_the_same_words_of_a_text_as_the_search_does()
    {
        await using var db = app.Database();
        var texts = Gen.String[Gen.OneOf(Gen.Char[' ', '~'], Gen.Char['À', 'ɏ'], Gen.Char['а', 'я'], Gen.Char['０', '９']), 0, 40]
            .Array[200]
            .Single(_ => true, "0000xNHAkSp1");
        var words = await db
            .Database.SqlQuery<string>($"select plain_words(t) as \"Value\" from unnest({texts}) with ordinality as x (t, n) order by n")
            .ToListAsync(Cancel);
        foreach (var (text, inDatabase) in texts.Zip(words))
        {
            var searched = SearchWords.Of(text);
            if (searched.Count is > 0 and < SearchWords.Most)
            {
                inDatabase.Split(' ').Distinct().ShouldBe(searched, customMessage: text);
            }
        }
    }

    /// <summary>Four links: of a post with a campaign, tags and a click; of a shop page in a folder with a pixel, a note and an earlier address; and
    /// two about the moon.</summary>
    private async Task<World> Sky()
    {
        var world = await World.Make(app);
        await world.Send(p =>
        {
            p["title"] = "Geminids night: dinner under a hundred meteors";
            p["tags"] = new System.Text.Json.Nodes.JsonArray("event", "night");
            p["placements"] = System.Text.Json.Nodes.JsonNode.Parse("""[{"channel":"perch","slug":"geminids-perch"}]""");
        });
        await world.Owner.PostAsJsonAsync("/api/v1/folders", new { name = "Shop" }, Cancel);
        var added = await world.Owner.PostAsJsonAsync(
            "/api/v1/pixels",
            new
            {
                name = "Members",
                network = "image-pixel",
                reference = "https://pixels.example/p.gif",
            },
            Cancel
        );
        added.StatusCode.ShouldBe(System.Net.HttpStatusCode.Created, await added.Content.ReadAsStringAsync(Cancel));
        var pixel = await World.Read(added);
        var shop = await Make(
            world,
            new
            {
                destination = "https://www.northmoor.example/shop/scope?ref=1",
                slug = "old-scope",
                title = "What to look for in a first telescope",
                folder = "Shop",
                note = "Überraschung for the full moon",
                tags = new[] { "Raffle" },
                pixels = new[] { (string)pixel["id"]! },
            }
        );
        (await world.Editor.PatchAsJsonAsync($"/api/v1/links/{shop["id"]}", new { slug = "first-scope" }, Cancel)).EnsureSuccessStatusCode();
        await Make(
            world,
            new
            {
                destination = "northmoor.example/maps",
                slug = "moon-maps",
                title = "Maps of the moon",
            }
        );
        await Make(
            world,
            new
            {
                destination = "northmoor.example/moon",
                slug = "moon",
                title = "Phases",
            }
        );
        await world.Visit("geminids-perch");
        await app.Shipped();
        return world;
    }

    private static async Task<System.Text.Json.Nodes.JsonNode> Make(World world, object link)
    {
        var made = await world.Editor.PostAsJsonAsync("/api/v1/links", link, Cancel);
        made.StatusCode.ShouldBe(System.Net.HttpStatusCode.Created, await made.Content.ReadAsStringAsync(Cancel));
        return await World.Read(made);
    }
}
