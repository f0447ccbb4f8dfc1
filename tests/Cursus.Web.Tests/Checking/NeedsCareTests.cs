using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.Checking;

/// <summary>What people do about pages that need care, and where visitors are led meanwhile.</summary>
[Collection(Checks.OneAtATime)]
public class NeedsCareTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Visitors_of_a_dead_page_are_led_to_the_nearest_fallback_until_it_comes_back()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("m.localhost/kit", "A telescope kit");
        var link = await checks.Link("m.localhost/kit", l =>
        {
            (l["campaign"], l["source"], l["medium"], l["redirect"]) = ("winter-members", "perch", "social", 301);
        });
        await checks.Ask(link);
        var well = await checks.Follow(link);
        well.ShouldBe((301, $"{checks.Sites.At("/kit", "m.localhost")}?utm_source=perch&utm_medium=social&utm_campaign=winter-members"));

        checks.Let("m.localhost/kit", "Gone", 410);
        await checks.Ask(link);
        (await checks.Follow(link)).ShouldBe(well, "without a fallback, visitors see for themselves");

        const string Tags = "utm_source=perch&utm_medium=social&utm_campaign=winter-members";
        (
            await checks.World.Owner.PatchAsJsonAsync("/api/v1/link-checks/settings", new { fallback = "https://www.northmoor.example/all" }, Cancel)
        ).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await checks.Follow(link)).ShouldBe((302, $"https://www.northmoor.example/all?{Tags}"));
        var campaign = (await checks.World.Get("/api/v1/campaigns"))["items"]![0]!;
        await checks.Do(HttpMethod.Patch, $"campaigns/{campaign["id"]}", new { fallback = "https://www.northmoor.example/winter" });
        (await checks.Follow(link)).ShouldBe((302, $"https://www.northmoor.example/winter?{Tags}"));
        await checks.Do(HttpMethod.Patch, $"links/{link["id"]}", new { fallback = "https://www.northmoor.example/kits" });
        (await checks.Follow(link)).ShouldBe((302, $"https://www.northmoor.example/kits?{Tags}"));
        (await checks.World.Get("/api/v1/link-checks"))["items"]![0]!["fallbacks"]!
            .AsArray()
            .Select(f => (string)f!)
            .ShouldBe(["https://www.northmoor.example/kits"]);

        await checks.Do(HttpMethod.Put, $"link-checks/{link["check"]!["page"]}/ignored", new { days = 7 });
        (await checks.Follow(link)).ShouldBe(well, "who ignores it says that the page is all right");
        await checks.Do(HttpMethod.Delete, $"link-checks/{link["check"]!["page"]}/ignored");
        (await checks.Follow(link)).Status.ShouldBe(302);

        checks.Let("m.localhost/kit", "A telescope kit");
        await checks.Ask(link);
        (await checks.Follow(link)).ShouldBe(well);
    }

    [Fact]
    public async Task The_page_with_the_most_recent_clicks_comes_first_with_the_posts_and_campaigns_that_it_hurts()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("n.localhost/quiet", "", 404);
        checks.Let("n.localhost/busy", "", 404);
        var quiet = await checks.Link("n.localhost/quiet");
        var post = await checks.World.Send(p => p["destination"] = checks.Sites.At("/busy", "n.localhost"));
        for (var i = 0; i < 3; i++)
        {
            await checks.World.Visit(World.Slug(post, 0));
        }

        await checks.World.Visit((string)quiet["slug"]!);
        await app.Shipped();
        await checks.RunRound();

        var board = (await checks.World.Get("/api/v1/link-checks"))["items"]!.AsArray();
        board.Select(p => $"{new Uri((string)p!["address"]!).AbsolutePath} {p["links"]} {p["recentClicks"]}").ShouldBe(["/busy 2 3", "/quiet 1 1"]);
        var hurt = board[0]!["hurts"]![0]!;
        ((string)hurt["title"]!, (string)hurt["campaignName"]!, (int)hurt["links"]!).ShouldBe(("Geminids night", "Winter members", 2));
        board[1]!["hurts"]![0]!["post"].ShouldBeNull();
        ((int)(await checks.World.Get("/api/v1/links?state=dead"))["total"]!).ShouldBe(3);
        ((int)(await checks.World.Get($"/api/v1/links?page={board[0]!["id"]}"))["total"]!).ShouldBe(2);
        ((string)(await checks.World.Get($"/api/v1/links/{quiet["id"]}"))["state"]!).ShouldBe("dead");
    }

    [Fact]
    public async Task A_page_is_replaced_in_place_in_all_its_links_and_that_can_be_taken_back()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("o.localhost/old", "", 404);
        checks.Let("o.localhost/new", "Orion");
        var post = await checks.World.Send(p => p["destination"] = checks.Sites.At("/old", "o.localhost"));
        await checks.RunRound();
        var page = (await checks.World.Get("/api/v1/link-checks"))["items"]![0]!;

        var done = await checks.World.ChangeMany(
            new
            {
                links = new { filter = new { page = (string)page["id"]!, state = "all" } },
                change = new { destination = checks.Sites.At("/new", "o.localhost") },
            }
        );
        ((string)done["state"]!, (int)done["links"]!).ShouldBe(("done", 2));
        (await checks.World.Visit(World.Slug(post, 0)))
            .Headers.Location!.ToString()
            .ShouldStartWith(checks.Sites.At("/new?utm_source=", "o.localhost"));
        ((int)(await checks.World.Get("/api/v1/link-checks"))["total"]!).ShouldBe(0);
        await checks.RunRound();
        checks.Asked.ShouldContain("GET o.localhost/new");

        await checks.Do(HttpMethod.Post, $"link-changes/{done["id"]}/undo");
        (await checks.World.Visit(World.Slug(post, 0)))
            .Headers.Location!.ToString()
            .ShouldStartWith(checks.Sites.At("/old?utm_source=", "o.localhost"));
    }

    [Fact]
    public async Task Ignored_pages_leave_the_list_for_so_long_and_accepted_ones_for_good()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("p.localhost/gone", "", 404);
        checks.Let("p.localhost/renamed", "Night walk with rangers");
        var (gone, renamed) = (await checks.Link("p.localhost/gone"), await checks.Link("p.localhost/renamed"));
        await checks.Ask(renamed);
        checks.Let("p.localhost/renamed", "Programme of the year 2027");
        await checks.Ask(renamed);
        await checks.Ask(gone);
        async Task<int> Total(string query = "") => (int)(await checks.World.Get("/api/v1/link-checks" + query))["total"]!;
        (await Total()).ShouldBe(2);

        ((string)(await checks.Do(HttpMethod.Post, $"link-checks/{renamed["check"]!["page"]}/accept"))["verdict"]!).ShouldBe("fine");
        (await Total()).ShouldBe(1);
        await checks.Do(HttpMethod.Put, $"link-checks/{gone["check"]!["page"]}/ignored", new { days = 3 });
        (await Total(), await Total("?ignored=true")).ShouldBe((0, 1));
        var summary = await checks.World.Get("/api/v1/link-checks/summary");
        ((int)summary["needCare"]!, (int)summary["ignored"]!, (int)summary["pages"]!["gone"]!, (int)summary["pages"]!["fine"]!).ShouldBe(
            (0, 1, 1, 1)
        );

        checks.GoOn(NodaTime.Duration.FromDays(4));
        await checks.RunRound();
        (await Total()).ShouldBe(1);
        foreach (var days in new int?[] { null, 0, 366 })
        {
            var refused = await checks.World.Editor.PutAsJsonAsync($"/api/v1/link-checks/{gone["check"]!["page"]}/ignored", new { days }, Cancel);
            (await World.Read(refused))["errors"]!["days"].ShouldNotBeNull();
        }
    }

    [Fact]
    public async Task A_page_is_asked_now_where_somebody_wants_to_know_now()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("q.localhost/page", "", 404);
        var link = await checks.Link("q.localhost/page");
        ((string)(await checks.Do(HttpMethod.Post, $"link-checks/{link["check"]!["page"]}/again"))["verdict"]!).ShouldBe("gone");
        checks.Let("q.localhost/page", "Orion");
        ((string)(await checks.Do(HttpMethod.Post, $"link-checks/{link["check"]!["page"]}/again"))["verdict"]!).ShouldBe("fine");
    }

    [Fact]
    public async Task The_digest_of_the_last_week_says_what_needs_care_and_where()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("r.localhost/page", "", 404);
        var post = await checks.World.Send(p => p["destination"] = checks.Sites.At("/page", "r.localhost"));
        await checks.World.Visit(World.Slug(post, 0));
        await app.Shipped();
        await checks.RunRound();
        await using var db = app.Database();
        await db
            .Domains.Where(d => d.Name == checks.World.Domain)
            .ExecuteUpdateAsync(
                d => d.SetProperty(x => x.CertificateEndsAt, NodaTime.SystemClock.Instance.GetCurrentInstant() + NodaTime.Duration.FromDays(3)),
                Cancel
            );

        var section = (await checks.World.Get("/api/v1/reports/digest"))["sections"]![1]!;
        ((string)section["heading"]!).ShouldBe("Needs attention");
        ((string)section["lines"]![0]!["text"]!).ShouldStartWith($"The certificate of {checks.World.Domain} ends on ");
        ((string)section["lines"]![1]!["text"]!).ShouldBe(
            $"{checks.Sites.At("/page", "r.localhost")}: The site says this page doesn’t exist (404). 1 click in 30 days, in “Geminids night”."
        );
        (await checks.World.Get("/api/v1/reports/digest?week=2026-01-05"))["sections"]!
            .AsArray()
            .Select(s => (string)s!["heading"]!)
            .ShouldNotContain("Needs attention");
    }

    [Fact]
    public async Task A_fallback_is_part_of_a_link_s_history_and_given_to_many_at_once()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("s.localhost/page", "Orion");
        var link = await checks.Link("s.localhost/page");
        await checks.World.ChangeMany(
            new { links = new { ids = new[] { (string)link["id"]! } }, change = new { fallback = "https://www.northmoor.example/" } }
        );
        var changed = await checks.World.Get($"/api/v1/links/{link["id"]}");
        ((string)changed["fallback"]!).ShouldBe("https://www.northmoor.example/");
        await checks.Do(HttpMethod.Patch, $"links/{link["id"]}", new { fallback = "" });
        (await checks.World.Get($"/api/v1/links/{link["id"]}"))["fallback"].ShouldBeNull();

        var refused = await checks.World.Editor.PatchAsJsonAsync(
            $"/api/v1/links/{link["id"]}",
            new { fallback = $"https://{checks.World.Domain}/x" },
            Cancel
        );
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ((JsonObject)(await World.Read(refused))["errors"]!).ContainsKey("fallback").ShouldBeTrue();
    }
}
