using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Edge;

public class EdgeTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Each_visit_is_one_click_and_reaches_the_report()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        for (var i = 0; i < 7; i++)
        {
            await world.Visit(World.Slug(post, 0));
        }

        await world.Visit(World.Slug(post, 1));
        var report = await world.Breakdown("by=channel");
        report["rows"]!.AsArray().Select(r => $"{r!["key"]} {r["clicks"]}").ShouldBe(["guildhall 7", "perch 1"]);
    }

    [Fact]
    public async Task HEAD_answers_as_GET_does_and_is_no_click()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        var get = await world.Visit(World.Slug(post, 0));
        var head = await world.Visit(World.Slug(post, 0), r => r.Method = HttpMethod.Head);
        (head.StatusCode, head.Headers.Location, head.Headers.CacheControl!.ToString()).ShouldBe(
            (get.StatusCode, get.Headers.Location, get.Headers.CacheControl!.ToString())
        );
        ((int)(await world.Breakdown("by=channel"))["total"]!["clicks"]!).ShouldBe(1);
    }

    [Theory]
    [InlineData(301)]
    [InlineData(302)]
    [InlineData(307)]
    [InlineData(308)]
    public async Task Whatever_the_redirect_type_browsers_may_not_keep_it(int status)
    {
        var world = await World.Make(app);
        var visit = await world.Visit(World.Slug(await world.Send(p => p["redirect"] = status), 0));
        ((int)visit.StatusCode).ShouldBe(status);
        visit.Headers.CacheControl!.NoStore.ShouldBeTrue();
        visit.Headers.CacheControl.Private.ShouldBeTrue();
    }

    [Theory]
    [InlineData("GemiNids", "geminids")]
    [InlineData("geminids", "GEMINIDS")]
    [InlineData("geminids", "geminids/")]
    public async Task Slugs_are_found_without_case_and_with_a_trailing_slash(string saved, string typed)
    {
        var world = await World.Make(app);
        await world.Send(p => p["placements"] = new JsonArray(new JsonObject { ["channel"] = "perch", ["slug"] = saved }));
        (await world.Visit(typed)).StatusCode.ShouldBe(HttpStatusCode.Found);
    }

    [Theory]
    [InlineData("nobody-made-this")]
    [InlineData("api/v1/session")]
    [InlineData("a/b/c")]
    [InlineData("..%2f..%2fetc")]
    public async Task An_unknown_slug_is_a_small_page_with_status_404_and_never_the_app(string path)
    {
        var world = await World.Make(app);
        var visit = await world.Visit(path);
        visit.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await visit.Content.ReadAsStringAsync(Cancel)).ShouldContain("This link doesn’t exist");
    }

    [Fact]
    public async Task A_host_that_nobody_registered_gets_404_not_the_app()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        (await world.Visit(slug, host: "nobody.example")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await world.Visit("api/v1/installation", host: "nobody.example")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_edge_does_not_answer_on_the_applications_host()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        (await world.Visit(slug, host: "localhost")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Other_methods_than_GET_and_HEAD_are_refused()
    {
        var world = await World.Make(app);
        var visit = await world.Visit(World.Slug(await world.Send(), 0), r => r.Method = HttpMethod.Post);
        visit.StatusCode.ShouldBe(HttpStatusCode.MethodNotAllowed);
        visit.Content.Headers.Allow.ShouldBe(["GET", "HEAD"]);
    }

    [Fact]
    public async Task The_bare_domain_leads_to_the_page_of_the_workspaces_choice()
    {
        var world = await World.Make(app);
        (await world.Visit("")).StatusCode.ShouldBe(HttpStatusCode.OK);
        var id = (string)(await world.Get("/api/v1/domains"))["items"]![0]!["id"]!;
        (await world.Owner.PatchAsJsonAsync($"/api/v1/domains/{id}", new { barePage = "www.northmoor.example" }, Cancel)).EnsureSuccessStatusCode();
        (await world.Visit("")).Headers.Location!.OriginalString.ShouldBe("https://www.northmoor.example/");
    }

    [Fact]
    public async Task A_changed_destination_takes_effect_at_the_next_visit_and_a_deleted_link_stops()
    {
        var world = await World.Make(app);
        var link = (await world.Send())["placements"]![0]!["link"]!;
        var path = $"/api/v1/links/{link["id"]}";

        (await world.Editor.PatchAsJsonAsync(path, new { destination = "northmoor.example/moved" }, Cancel)).EnsureSuccessStatusCode();
        (await world.Visit((string)link["slug"]!)).Headers.Location!.OriginalString.ShouldBe(
            "https://northmoor.example/moved?utm_source=guildhall&utm_medium=social&utm_campaign=winter-members"
        );

        (await world.Editor.DeleteAsync(path, Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await world.Visit((string)link["slug"]!)).StatusCode.ShouldBe(HttpStatusCode.Gone);
        var again = await world.Editor.PostAsJsonAsync(
            "/api/v1/links",
            new { destination = "northmoor.example", slug = (string)link["slug"]! },
            Cancel
        );
        again.StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task A_test_open_is_the_teams_and_marks_the_browser_for_later_visits()
    {
        var world = await World.Make(app);
        var link = (await world.Send())["placements"]![0]!["link"]!;
        var client = app.CreateClient(new() { AllowAutoRedirect = false, HandleCookies = false });
        client.DefaultRequestHeaders.Authorization = world.Viewer.DefaultRequestHeaders.Authorization;

        await world.Visit((string)link["slug"]!);
        var open = await client.GetAsync($"/api/v1/links/{link["id"]}/open", Cancel);
        var visit = await world.Visit(open.Headers.Location!.PathAndQuery[1..]);
        visit.Headers.Location!.OriginalString.ShouldBe((string)link["finalUrl"]!);
        var cookie = visit.Headers.GetValues("Set-Cookie").Single().Split(';')[0];
        await world.Visit((string)link["slug"]!, r => r.Headers.Add("Cookie", cookie));

        var report = await world.Breakdown("by=channel");
        ((int)report["total"]!["clicks"]!, (int)report["excluded"]!["team"]!).ShouldBe((1, 2));
    }

    [Fact]
    public async Task A_browser_that_signed_in_is_led_over_each_short_domain_and_known_there_as_the_teams()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var slug = World.Slug(await world.Send(), 0);
        var client = app.CreateClient(new() { AllowAutoRedirect = false, HandleCookies = false });
        client.DefaultRequestHeaders.Authorization = world.Viewer.DefaultRequestHeaders.Authorization;

        var first = await client.GetAsync($"/api/v1/session/introduction?domain={other.Domain}&domain={world.Domain}&then=/links", Cancel);
        first.Headers.Location!.Host.ShouldBe(world.Domain);
        var marked = await world.Visit(first.Headers.Location.PathAndQuery[1..]);
        var last = await client.GetAsync(marked.Headers.Location!.PathAndQuery, Cancel);
        last.Headers.Location!.OriginalString.ShouldBe("/links");

        var cookie = marked.Headers.GetValues("Set-Cookie").Single().Split(';')[0];
        await world.Visit(slug, r => r.Headers.Add("Cookie", cookie));
        ((int)(await world.Breakdown("by=channel"))["excluded"]!["team"]!).ShouldBe(1);
    }

    [Theory]
    [InlineData("https://elsewhere.example/")]
    [InlineData("//elsewhere.example/")]
    [InlineData("/\\elsewhere.example/")]
    public async Task The_introduction_leads_nowhere_but_back_to_the_application(string then)
    {
        var world = await World.Make(app);
        var client = app.CreateClient(new() { AllowAutoRedirect = false });
        client.DefaultRequestHeaders.Authorization = world.Viewer.DefaultRequestHeaders.Authorization;
        var answer = await client.GetAsync("/api/v1/session/introduction?then=" + Uri.EscapeDataString(then), Cancel);
        answer.Headers.Location!.OriginalString.ShouldBe("/");
    }

    [Fact]
    public async Task A_forged_mark_or_one_of_another_workspace_is_an_ordinary_visitor()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var slug = World.Slug(await world.Send(), 0);
        var client = app.CreateClient(new() { AllowAutoRedirect = false, HandleCookies = false });
        client.DefaultRequestHeaders.Authorization = other.Viewer.DefaultRequestHeaders.Authorization;
        var introduction = await client.GetAsync($"/api/v1/session/introduction?domain={other.Domain}", Cancel);
        var foreign = (await other.Visit(introduction.Headers.Location!.PathAndQuery[1..])).Headers.GetValues("Set-Cookie").Single().Split(';')[0];

        await world.Visit(slug, r => r.Headers.Add("Cookie", foreign));
        await world.Visit(slug, r => r.Headers.Add("Cookie", "cursus-team=forged"));
        await world.Visit(slug + "?cursus-pass=forged");
        ((int)(await world.Breakdown("by=channel"))["total"]!["clicks"]!).ShouldBe(3);
    }

    [Fact]
    public async Task People_behind_a_trusted_proxy_are_told_apart_and_only_the_host_of_their_referrer_is_kept()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        foreach (var address in new[] { "203.0.113.1", "203.0.113.2", "203.0.113.1" })
        {
            await world.Visit(slug, r =>
            {
                r.Headers.Add("X-Forwarded-For", address);
                r.Headers.Referrer = new Uri("http://perch.localhost:5081/feed?who=maren");
            });
        }

        var report = await world.Breakdown("by=referrer");
        ((int)report["total"]!["clicks"]!, (string)report["rows"]![0]!["key"]!).ShouldBe((3, "perch.localhost"));
    }

    [Fact]
    public async Task Pages_ask_browsers_what_they_run_on_and_redirects_never_do()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        (await world.Visit("nobody-made-this")).Headers.GetValues("Accept-CH").ShouldBe(["Sec-CH-UA-Form-Factors"]);
        (await world.Visit(slug)).Headers.Contains("Accept-CH").ShouldBeFalse();
        await world.Visit(slug, r => r.Headers.Add("Sec-CH-UA-Form-Factors", "\"Tablet\""));
        (await world.Breakdown("by=device"))["rows"]!
            .AsArray()
            .Select(r => $"{r!["key"]} {r["clicks"]}")
            .ShouldBe(["computer 1", "tablet 1"], ignoreOrder: true);
    }
}
