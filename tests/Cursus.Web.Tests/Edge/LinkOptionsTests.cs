using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using NodaTime;

namespace Cursus.Web.Tests.Edge;

/// <summary>What a link's options do to its answers.</summary>
public class LinkOptionsTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>RFC 9110, section 15.4: 301 and 308 may be stored by default ("heuristically cacheable", section 15.1); RFC 9111, section 5.2.2.5:
    /// "no-store … a cache MUST NOT store any part", so that none of the four is answered from a cache.</summary>
    [Theory]
    [InlineData(301)]
    [InlineData(302)]
    [InlineData(307)]
    [InlineData(308)]
    public async Task Whatever_the_type_no_cache_may_reuse_it_and_a_changed_destination_holds_at_once(int type)
    {
        var world = await World.Make(app);
        var link = await Link(world, new JsonObject { ["redirect"] = type });
        var first = await world.Visit((string)link["slug"]!);
        ((int)first.StatusCode).ShouldBe(type);
        first.Headers.CacheControl!.NoStore.ShouldBeTrue();
        first.Headers.CacheControl.Private.ShouldBeTrue();
        first.Content.Headers.Contains("Expires").ShouldBeFalse();

        (
            await world.Editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", new { destination = "https://www.northmoor.example/new" }, Cancel)
        ).EnsureSuccessStatusCode();
        (await world.Visit((string)link["slug"]!)).Headers.Location!.OriginalString.ShouldBe("https://www.northmoor.example/new");
        (await world.Get($"/api/v1/links/{link["id"]}"))["redirect"]!.GetValue<int>().ShouldBe(type);
    }

    [Theory]
    [InlineData("off", "ref=a", "https://www.northmoor.example/p?x=1")]
    [InlineData("link-wins", "x=2&ref=a", "https://www.northmoor.example/p?x=1&ref=a")]
    [InlineData("visitor-wins", "x=2&ref=a", "https://www.northmoor.example/p?x=2&ref=a")]
    public async Task Parameters_are_passed_on_as_the_link_says(string rule, string query, string location)
    {
        var world = await World.Make(app);
        var link = await Link(
            world,
            new JsonObject
            {
                ["destination"] = "https://www.northmoor.example/p?x=1",
                ["options"] = new JsonObject { ["passQuery"] = rule },
            }
        );
        (await world.Visit($"{link["slug"]}?{query}")).Headers.Location!.OriginalString.ShouldBe(location);
    }

    [Fact]
    public async Task A_test_opens_pass_is_never_passed_on()
    {
        var world = await World.Make(app);
        var link = await Link(world, new JsonObject { ["options"] = new JsonObject { ["passQuery"] = "link-wins" } });
        var client = app.CreateClient(new() { AllowAutoRedirect = false });
        client.DefaultRequestHeaders.Authorization = world.Editor.DefaultRequestHeaders.Authorization;
        var open = await client.GetAsync($"/api/v1/links/{link["id"]}/open", Cancel);
        (await world.Visit(open.Headers.Location!.PathAndQuery[1..])).Headers.Location!.OriginalString.ShouldBe((string)link["finalUrl"]!);
    }

    [Fact]
    public async Task Search_engines_and_referrers_are_told_what_the_link_says()
    {
        var world = await World.Make(app);
        var plain = await world.Visit((string)(await Link(world, []))["slug"]!);
        plain.Headers.Contains("X-Robots-Tag").ShouldBeFalse();
        plain.Headers.Contains("Referrer-Policy").ShouldBeFalse();

        var hidden = await world.Visit(
            (string)
                (
                    await Link(
                        world,
                        new JsonObject
                        {
                            ["options"] = new JsonObject { ["hideFromSearch"] = true, ["referrer"] = "hide" },
                        }
                    )
                )["slug"]!
        );
        hidden.Headers.GetValues("X-Robots-Tag").ShouldBe(["noindex"]);
        hidden.Headers.GetValues("Referrer-Policy").ShouldBe(["no-referrer"]);
        hidden.StatusCode.ShouldBe(HttpStatusCode.Found);
    }

    [Fact]
    public async Task A_page_in_between_leads_on_without_a_referrer_and_escapes_the_address()
    {
        var world = await World.Make(app);
        var link = await Link(
            world,
            new JsonObject
            {
                ["destination"] = "https://www.northmoor.example/?a='1'&b=2",
                ["options"] = new JsonObject { ["referrer"] = "hide-by-page" },
            }
        );
        var page = await world.Visit((string)link["slug"]!);
        page.StatusCode.ShouldBe(HttpStatusCode.OK);
        page.Headers.GetValues("Referrer-Policy").ShouldBe(["no-referrer"]);
        page.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("sha256-");
        var html = await page.Content.ReadAsStringAsync(Cancel);
        html.ShouldContain("href=\"https://www.northmoor.example/?a=%271%27&amp;b=2\"");
        ((int)(await world.Breakdown("by=link"))["total"]!["clicks"]!).ShouldBe(1);
    }

    [Fact]
    public async Task A_row_overrides_the_post_the_post_its_domain_and_the_domain_the_workspace()
    {
        var world = await World.Make(app);
        (await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { redirect = 301 }, Cancel)).EnsureSuccessStatusCode();
        (await Link(world, []))["redirect"]!.GetValue<int>().ShouldBe(301);

        var domain = (string)(await world.Get("/api/v1/domains"))["items"]![0]!["id"]!;
        (
            await world.Owner.PatchAsJsonAsync(
                $"/api/v1/domains/{domain}",
                new { redirect = 307, options = new { hideFromSearch = true, nofollow = true } },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        var post = await world.Send(p =>
        {
            p["options"] = new JsonObject { ["nofollow"] = false, ["anchorText"] = "Join us" };
            p["tags"] = new JsonArray("event");
            p["placements"]![1]!["redirect"] = 308;
            p["placements"]![1]!["tags"] = new JsonArray("bird");
            p["placements"]![1]!["options"] = new JsonObject { ["newTab"] = true };
        });
        var (first, second) = (post["placements"]![0]!["link"]!, post["placements"]![1]!["link"]!);
        ((int)first["redirect"]!, (int)second["redirect"]!).ShouldBe((307, 308));
        first["options"]!
            .ToJsonString()
            .ShouldBe(
                """{"passQuery":"off","referrer":"keep","hideFromSearch":true,"nofollow":false,"sponsored":false,"newTab":false,"titleAttribute":null,"anchorText":"Join us","handoffDeadline":null,"endedText":null}"""
            );
        ((bool)second["options"]!["newTab"]!, (bool)second["options"]!["hideFromSearch"]!, (string)second["options"]!["anchorText"]!).ShouldBe(
            (true, true, "Join us")
        );
        (first["tags"]!.ToJsonString(), second["tags"]!.ToJsonString()).ShouldBe(("""["event"]""", """["bird"]"""));
    }

    [Fact]
    public async Task An_owners_pages_stand_in_for_unknown_slugs_and_ended_links()
    {
        var world = await World.Make(app);
        var link = await Link(world, []);
        (await world.Editor.DeleteAsync($"/api/v1/links/{link["id"]}", Cancel)).EnsureSuccessStatusCode();
        (await world.Visit((string)link["slug"]!)).StatusCode.ShouldBe(HttpStatusCode.Gone);

        var domain = (string)(await world.Get("/api/v1/domains"))["items"]![0]!["id"]!;
        (
            await world.Owner.PatchAsJsonAsync(
                $"/api/v1/domains/{domain}",
                new { unknownPage = "northmoor.example/lost", endedPage = "northmoor.example/over" },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        (await world.Visit("never-made")).Headers.Location!.OriginalString.ShouldBe("https://northmoor.example/lost");
        (await world.Visit((string)link["slug"]!)).Headers.Location!.OriginalString.ShouldBe("https://northmoor.example/over");
        (await world.Owner.PatchAsJsonAsync($"/api/v1/domains/{domain}", new { endedPage = $"http://{world.Domain}/x" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    [Fact]
    public async Task A_deleted_links_slug_is_blocked_can_be_revived_and_is_free_after_180_days()
    {
        var world = await World.Make(app);
        var link = await Link(world, new JsonObject { ["slug"] = "Poster" });
        (await world.Editor.DeleteAsync($"/api/v1/links/{link["id"]}", Cancel)).EnsureSuccessStatusCode();

        var preview = await World.Read(
            await world.Editor.PostAsJsonAsync("/api/v1/posts/preview", World.Post(p => p["placements"]![0]!["slug"] = "poster"), Cancel)
        );
        var row = preview["placements"]![0]!;
        ((bool)row["isTaken"]!, (string)row["blocked"]!["linkId"]!).ShouldBe((true, (string)link["id"]!));
        (
            await world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = "northmoor.example/other", slug = "poster" }, Cancel)
        ).StatusCode.ShouldBe(HttpStatusCode.Conflict);

        (await world.Editor.PostAsync($"/api/v1/links/{link["id"]}/revive", null, Cancel)).EnsureSuccessStatusCode();
        (await world.Visit("poster")).Headers.Location!.OriginalString.ShouldBe((string)link["finalUrl"]!);

        (await world.Editor.DeleteAsync($"/api/v1/links/{link["id"]}", Cancel)).EnsureSuccessStatusCode();
        await using (var db = app.Database())
        {
            var id = Guid.Parse((string)link["id"]!);
            var old = await db.Links.FindAsync([id], Cancel);
            old!.DeletedAt = SystemClock.Instance.GetCurrentInstant() - Duration.FromDays(180);
            await db.SaveChangesAsync(Cancel);
        }

        var heir = await Link(world, new JsonObject { ["slug"] = "POSTER", ["destination"] = "https://northmoor.example/heir" });
        (await world.Visit("poster")).Headers.Location!.OriginalString.ShouldBe("https://northmoor.example/heir");
        var late = await world.Editor.PostAsync($"/api/v1/links/{link["id"]}/revive", null, Cancel);
        ((string)(await World.Read(late))["code"]!).ShouldBe("slug-given-away");
        heir["id"]!.ToString().ShouldNotBe(link["id"]!.ToString());
    }

    [Fact]
    public async Task Pasted_UTM_values_are_replaced_or_left_as_the_sender_chooses()
    {
        var world = await World.Make(app);
        const string pasted = "https://www.northmoor.example/?utm_source=elsewhere&x=1";
        var replaced = await world.Send(p => p["destination"] = pasted);
        ((string)replaced["placements"]![0]!["link"]!["finalUrl"]!).ShouldBe(
            "https://www.northmoor.example/?utm_source=guildhall&x=1&utm_medium=social&utm_campaign=winter-members"
        );
        var kept = await world.Send(p =>
        {
            p["destination"] = pasted;
            p["pastedTags"] = "keep";
        });
        var link = kept["placements"]![0]!["link"]!;
        ((string)link["finalUrl"]!, (string)link["source"]!).ShouldBe(
            ("https://www.northmoor.example/?utm_source=elsewhere&x=1&utm_medium=social&utm_campaign=winter-members", "elsewhere")
        );

        var preview = await World.Read(
            await world.Editor.PostAsJsonAsync("/api/v1/posts/preview", World.Post(p => p["destination"] = pasted + "&fbclid=z"), Cancel)
        );
        ((string)preview["pasted"]!["source"]!, (string)preview["pasted"]!["withoutClickIds"]!).ShouldBe(("elsewhere", pasted));
    }

    private static async Task<JsonNode> Link(World world, JsonObject request)
    {
        request["destination"] ??= "https://www.northmoor.example/page";
        var answer = await world.Editor.PostAsJsonAsync("/api/v1/links", request, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Created, await answer.Content.ReadAsStringAsync(Cancel));
        return await World.Read(answer);
    }
}
