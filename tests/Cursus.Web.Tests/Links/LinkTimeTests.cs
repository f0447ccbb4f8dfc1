using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Tests.Links;

/// <summary>Links that open later and links that have ended: what visitors meet, and what is told of them.</summary>
public class LinkTimeTests(CursusApp app)
{
    private const string Tags = "utm_source=perch&utm_medium=social&utm_campaign=winter-members";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static string InDays(int days) => InstantPattern.General.Format(SystemClock.Instance.GetCurrentInstant() + Duration.FromDays(days));

    [Fact]
    public async Task Before_a_link_opens_visitors_are_told_to_come_back_and_only_the_teams_test_open_leads_on()
    {
        var world = await World.Make(app);
        (await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { leavesOutByBehaviour = false }, Cancel)).EnsureSuccessStatusCode();
        var link = await Link(world, ("opensAt", InDays(2)), ("redirect", 301));
        var early = await world.Visit((string)link["slug"]!);
        early.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        early.Headers.CacheControl!.NoStore.ShouldBeTrue();
        (await early.Content.ReadAsStringAsync(Cancel)).ShouldContain("isn’t open yet");

        var client = app.CreateClient(new() { AllowAutoRedirect = false });
        client.DefaultRequestHeaders.Authorization = world.Editor.DefaultRequestHeaders.Authorization;
        var pass = (await client.GetAsync($"/api/v1/links/{link["id"]}/open", Cancel)).Headers.Location!;
        (await world.Visit(pass.PathAndQuery[1..])).Headers.Location!.ToString().ShouldBe($"https://www.northmoor.example/sale?{Tags}");
        ((int)(await world.Breakdown("by=link"))["total"]!["clicks"]!).ShouldBe(0);

        await Change(world, link, new { opensAt = InDays(-1) });
        Led(await world.Visit((string)link["slug"]!))
            .ShouldBe((302, $"https://www.northmoor.example/sale?{Tags}"), "who has led elsewhere never says that this is for good");
        await Change(world, link, new { opensAt = "" });
        Led(await world.Visit((string)link["slug"]!)).Status.ShouldBe(301);
        ((int)(await world.Breakdown("by=link"))["total"]!["clicks"]!).ShouldBe(2);
    }

    [Theory]
    [InlineData("opensAt", 2)]
    [InlineData("endsAt", -2)]
    public async Task Outside_of_its_time_a_link_leads_to_the_nearest_fallback_and_the_visit_counts(string bound, int days)
    {
        var world = await World.Make(app);
        var link = await Link(world, (bound, InDays(days)), ("redirect", 308));
        (await world.Visit((string)link["slug"]!)).StatusCode.ShouldBe(days > 0 ? HttpStatusCode.NotFound : HttpStatusCode.Gone);

        (
            await world.Owner.PatchAsJsonAsync("/api/v1/link-checks/settings", new { fallback = "https://www.northmoor.example/all" }, Cancel)
        ).EnsureSuccessStatusCode();
        await app.Feed.CatchUp();
        Led(await world.Visit((string)link["slug"]!)).ShouldBe((307, $"https://www.northmoor.example/all?{Tags}"));
        var campaign = (await world.Get("/api/v1/campaigns"))["items"]![0]!;
        (
            await world.Editor.PatchAsJsonAsync(
                $"/api/v1/campaigns/{campaign["id"]}",
                new { fallback = "https://www.northmoor.example/winter" },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        await app.Feed.CatchUp();
        Led(await world.Visit((string)link["slug"]!)).ShouldBe((307, $"https://www.northmoor.example/winter?{Tags}"));
        await Change(world, link, new { fallback = "https://www.northmoor.example/offers" });
        Led(await world.Visit((string)link["slug"]!)).ShouldBe((307, $"https://www.northmoor.example/offers?{Tags}"));
        ((int)(await world.Breakdown("by=link"))["total"]!["clicks"]!).ShouldBe(3, "those who were shown a page are not counted");
    }

    [Fact]
    public async Task Without_a_fallback_ended_links_lead_to_the_domains_page_for_them()
    {
        var world = await World.Make(app);
        var link = await Link(world, ("endsAt", InDays(-2)));
        var domain = (await world.Get("/api/v1/domains"))["items"]![0]!;
        (
            await world.Owner.PatchAsJsonAsync($"/api/v1/domains/{domain["id"]}", new { endedPage = "https://www.northmoor.example/over" }, Cancel)
        ).EnsureSuccessStatusCode();
        await app.Feed.CatchUp();
        Led(await world.Visit((string)link["slug"]!)).ShouldBe((302, "https://www.northmoor.example/over"));
        (await world.Get($"/api/v1/links/{link["id"]}"))["clicks"]!.GetValue<int>().ShouldBe(0);
    }

    /// <summary>The link's own words come before the page of its domain, and a page of its own before them; what is written is text, never
    /// markup.</summary>
    [Fact]
    public async Task A_link_that_has_ended_says_so_in_its_own_words()
    {
        var world = await World.Make(app);
        var domain = (await world.Get("/api/v1/domains"))["items"]![0]!;
        await world.Owner.PatchAsJsonAsync($"/api/v1/domains/{domain["id"]}", new { endedPage = "https://www.northmoor.example/over" }, Cancel);
        var words = "Over <b>& out</b>.\nSee you in spring.";
        var link = await Link(world, ("endsAt", InDays(-2)), ("options", new JsonObject { ["endedText"] = words }));
        await app.Feed.CatchUp();
        var answer = await world.Visit((string)link["slug"]!);
        answer.StatusCode.ShouldBe(HttpStatusCode.Gone);
        var page = await answer.Content.ReadAsStringAsync(Cancel);
        page.ShouldContain("Over &lt;b&gt;&amp; out&lt;/b&gt;.");
        page.ShouldNotContain("<b>");
        (await world.Get($"/api/v1/links/{link["id"]}"))["clicks"]!.GetValue<int>().ShouldBe(0);

        await Change(world, link, new { fallback = "https://www.northmoor.example/offers" });
        Led(await world.Visit((string)link["slug"]!)).To.ShouldStartWith("https://www.northmoor.example/offers");
        await Change(world, link, new { fallback = "", options = new { endedText = "" } });
        Led(await world.Visit((string)link["slug"]!)).ShouldBe((302, "https://www.northmoor.example/over"));
        (await world.Get($"/api/v1/links/{link["id"]}/history")).ToJsonString().ShouldContain("ended-text");
    }

    [Fact]
    public async Task Each_state_is_told_found_and_sorted_by()
    {
        var world = await World.Make(app);
        foreach (
            var (slug, opens, ends) in new[]
            {
                ("always", (int?)null, (int?)null),
                ("running", -3, 3),
                ("coming", 2, 4),
                ("coming-for-good", 2, null),
                ("over", -4, -2),
                ("over-archived", null, -1),
            }
        )
        {
            var link = await Link(
                world,
                ("slug", slug),
                ("opensAt", opens is { } o ? InDays(o) : null),
                ("endsAt", ends is { } e ? InDays(e) : null)
            );
            if (slug is "over-archived")
            {
                await Change(world, link, new { isArchived = true });
            }
        }

        await world.Visit("always");
        await app.Shipped();
        (await Slugs("")).ShouldBe(["always", "coming", "coming-for-good", "over", "running"]);
        (await Slugs("?state=live")).ShouldBe(["always", "running"]);
        (await Slugs("?state=scheduled")).ShouldBe(["coming", "coming-for-good"]);
        (await Slugs("?state=ended")).ShouldBe(["over", "over-archived"]);
        (await Slugs("?state=never-clicked")).ShouldBe(["over", "running"], "nobody could click what isn’t open");
        (await Slugs("?state=archived")).ShouldBe(["over-archived"]);
        (await world.Get("/api/v1/links?state=all&sort=state"))["items"]!
            .AsArray()
            .Select(l => (string)l!["state"]!)
            .ShouldBe(["never-clicked", "live", "scheduled", "scheduled", "ended", "ended"]);

        async Task<IEnumerable<string>> Slugs(string query) =>
            (await world.Get("/api/v1/links" + query))["items"]!.AsArray().Select(l => (string)l!["slug"]!).Order(StringComparer.Ordinal);
    }

    [Fact]
    public async Task Times_are_by_the_workspaces_clock_kept_in_the_history_and_brought_back_with_it()
    {
        var world = await World.Make(app, "America/New_York");
        var link = await Link(world, ("opensAt", "2026-07-01T09:00"), ("endsAt", "2026-07-31"));
        ((string)link["opensAt"]!, (string)link["endsAt"]!).ShouldBe(("2026-07-01T13:00:00Z", "2026-08-01T04:00:00Z"));

        await Change(world, link, new { endsAt = "" });
        (await world.Get($"/api/v1/links/{link["id"]}"))["endsAt"].ShouldBeNull();
        var told = (await world.Get($"/api/v1/links/{link["id"]}/history"))["items"]![0]!["differences"]![0]!;
        ((string)told["field"]!, (string)told["from"]!, (string?)told["to"]).ShouldBe(("ends", "31 Jul 2026", null));
        (await world.Editor.PostAsJsonAsync($"/api/v1/links/{link["id"]}/restore", new { version = 1 }, Cancel)).EnsureSuccessStatusCode();
        ((string)(await world.Get($"/api/v1/links/{link["id"]}"))["endsAt"]!).ShouldBe("2026-08-01T04:00:00Z");
    }

    [Theory]
    [InlineData("2026-07-01T09:00", "2026-07-01T09:00", "endsAt", "before it opens")]
    [InlineData("soon", null, "opensAt", "“soon” isn’t a valid date")]
    [InlineData(null, "9999-12-31", "endsAt", "out of range")]
    public async Task What_can_be_no_time_of_a_link_is_refused_whole(string? opensAt, string? endsAt, string field, string text)
    {
        var world = await World.Make(app);
        var link = await Link(world, ("endsAt", "2030-01-01"));
        foreach (
            var answer in new[]
            {
                await world.Editor.PostAsJsonAsync(
                    "/api/v1/links",
                    new
                    {
                        destination = "https://www.northmoor.example/sale",
                        opensAt,
                        endsAt,
                    },
                    Cancel
                ),
                await world.Editor.PatchAsJsonAsync(
                    $"/api/v1/links/{link["id"]}",
                    new
                    {
                        title = "Not saved",
                        opensAt,
                        endsAt,
                    },
                    Cancel
                ),
                await world.Editor.PostAsJsonAsync("/api/v1/posts", World.Post(p => (p["opensAt"], p["endsAt"]) = (opensAt, endsAt)), Cancel),
            }
        )
        {
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            string.Join(' ', (await World.Read(answer))["errors"]![field]!.AsArray().Select(t => (string)t!)).ShouldContain(text);
        }

        ((int)(await world.Get("/api/v1/links"))["total"]!).ShouldBe(1);
        (await world.Get($"/api/v1/links/{link["id"]}"))["title"]!.ToString().ShouldNotBe("Not saved");
    }

    [Fact]
    public async Task A_post_gives_its_time_to_all_its_links_and_a_row_can_have_its_own()
    {
        var world = await World.Make(app);
        var post = await world.Send(p =>
        {
            (p["opensAt"], p["endsAt"]) = ("2030-01-01", "2030-01-31");
            p["placements"]![1]!["endsAt"] = "2030-02-28";
        });
        post["placements"]!
            .AsArray()
            .Select(p => ((string)p!["link"]!["opensAt"]!, (string)p["link"]!["endsAt"]!, (string)p["link"]!["state"]!))
            .ShouldBe([("2030-01-01T00:00:00Z", "2030-02-01T00:00:00Z", "scheduled"), ("2030-01-01T00:00:00Z", "2030-03-01T00:00:00Z", "scheduled")]);
    }

    [Fact]
    public async Task Many_links_are_ended_at_once_and_that_is_taken_back_as_one()
    {
        var world = await World.Make(app);
        var (first, second) = (await Link(world, ("slug", "first")), await Link(world, ("slug", "second"), ("opensAt", InDays(20))));
        var wish = new
        {
            links = new { ids = new[] { (string)first["id"]!, (string)second["id"]! } },
            change = new { endsAt = InDays(-1) },
            isGoodOnly = true,
        };
        var preview = await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/link-changes/preview", wish, Cancel));
        ((int)preview["changed"]!, (int)preview["refused"]!, (string)preview["problems"]![0]!["text"]!).ShouldBe(
            (1, 1, "The link would end before it opens. Choose a later end.")
        );

        var done = await world.ChangeMany(wish);
        (await world.Visit("first")).StatusCode.ShouldBe(HttpStatusCode.Gone);
        ((string)done["what"]!).ShouldStartWith("set to end 20");
        (await world.Editor.PostAsJsonAsync($"/api/v1/link-changes/{done["id"]}/undo", new { }, Cancel)).EnsureSuccessStatusCode();
        (await world.Visit("first")).StatusCode.ShouldBe(HttpStatusCode.Found);
    }

    [Fact]
    public async Task A_copy_opens_when_its_model_does_and_leads_on_where_that_has_ended()
    {
        var world = await World.Make(app);
        var (coming, over) = (await Link(world, ("opensAt", "2030-01-01")), await Link(world, ("endsAt", InDays(-1))));
        ((string)(await Copy(coming))["opensAt"]!).ShouldBe("2030-01-01T00:00:00Z");
        ((string?)(await Copy(over))["endsAt"]).ShouldBeNull();

        async Task<JsonNode> Copy(JsonNode link) =>
            await World.Read(await world.Editor.PostAsJsonAsync($"/api/v1/links/{link["id"]}/copy", new { }, Cancel));
    }

    [Fact]
    public async Task Redirects_for_other_servers_lead_past_what_has_ended_and_are_open_at_once()
    {
        var world = await World.Make(app);
        await Link(world, ("slug", "coming"), ("opensAt", InDays(2)));
        await Link(world, ("slug", "over"), ("endsAt", InDays(-1)));
        var led = await Link(world, ("slug", "over-led"), ("endsAt", InDays(-1)));
        await Change(world, led, new { fallback = "https://www.northmoor.example/all" });
        var domain = (string)(await world.Get("/api/v1/domains"))["items"]![0]!["id"]!;
        var map = await world.Viewer.GetStringAsync($"/api/v1/domains/{domain}/redirects?form=apache", Cancel);
        map.Split('\n')
            .Where(l => l.StartsWith('/'))
            .ShouldBe([$"/coming https://www.northmoor.example/sale?{Tags}", $"/over-led https://www.northmoor.example/all?{Tags}"]);
    }

    private static async Task<JsonNode> Link(World world, params (string Field, JsonNode? Value)[] values)
    {
        var wish = new JsonObject
        {
            ["destination"] = "https://www.northmoor.example/sale",
            ["campaign"] = "winter-members",
            ["channel"] = "perch",
        };
        foreach (var (field, value) in values)
        {
            wish[field] = value;
        }

        var answer = await world.Editor.PostAsJsonAsync("/api/v1/links", wish, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Created, await answer.Content.ReadAsStringAsync(Cancel));
        return await World.Read(answer);
    }

    private static async Task Change(World world, JsonNode link, object change) =>
        (await world.Editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", change, Cancel)).EnsureSuccessStatusCode();

    private static (int Status, string To) Led(HttpResponseMessage answer) => ((int)answer.StatusCode, answer.Headers.Location!.ToString());
}
