using System.Net;
using System.Net.Http.Json;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Checking;

/// <summary>The link check against sites that die, fail, hang, go round, lie, move and come back.</summary>
[Collection(Checks.OneAtATime)]
public class LinkCheckTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_page_that_breaks_the_check_keeps_no_other_from_being_asked_and_is_not_asked_again_at_once()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("news.localhost/good", "Good");
        checks.Let("news.localhost/bad", "Bad");
        checks.Let("press.localhost/good", "Good as well");
        var (bad, good, other) = (
            await checks.Link("news.localhost/bad"),
            await checks.Link("news.localhost/good"),
            await checks.Link("press.localhost/good")
        );
        checks.Breaking = "/bad";
        await checks.RunRound();
        foreach (var (link, verdict) in new[] { (good, "fine"), (other, "fine"), (bad, (string)bad["check"]!["verdict"]!) })
        {
            ((string)(await checks.World.Get($"/api/v1/links/{link["id"]}"))["check"]!["verdict"]!).ShouldBe(verdict);
        }

        // It is asked again when its time comes, and not before.
        checks.Breaking = null;
        checks.GoOn(Duration.FromHours(23));
        await checks.RunRound();
        checks.Asked.ShouldNotContain(a => a.Contains("/bad", StringComparison.Ordinal));
        checks.GoOn(Duration.FromHours(2));
        await checks.RunRound();
        ((string)(await checks.World.Get($"/api/v1/links/{bad["id"]}"))["check"]!["verdict"]!).ShouldBe("fine");
    }

    [Fact]
    public async Task Sites_that_die_loop_hang_lie_move_or_shut_are_told_apart_and_those_that_come_back_are_fine()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("a.localhost/dies", "Orion");
        checks.Let("a.localhost/fails", "Orion");
        checks.Let("a.localhost/lies", "Orion");
        checks.Let("a.localhost/moves", "Orion");
        checks.Let("a.localhost/shuts", "Orion");
        checks.Let("a.localhost/hangs", "Orion");
        checks.Let("a.localhost/goes-round", "Orion");
        checks.Let("a.localhost/moved", "Orion");
        string[] names = ["dies", "fails", "lies", "moves", "shuts", "hangs", "goes-round"];
        var links = new Dictionary<string, System.Text.Json.Nodes.JsonNode>();
        foreach (var name in names)
        {
            links[name] = await checks.Link($"a.localhost/{name}");
            ((string)(await checks.Ask(links[name]))["verdict"]!).ShouldBe("fine", name);
        }

        checks.Let("a.localhost/dies", "Gone", 410);
        checks.Let("a.localhost/fails", "Oh", 500);
        checks.Let("a.localhost/lies", "Sorry, page not found");
        checks.Let("a.localhost/moves", "", 301, c => c.Response.Headers.Location = "/moved");
        checks.Let("a.localhost/shuts", "No", 403);
        checks.Let("a.localhost/goes-round", "", 302, c => c.Response.Headers.Location = "/goes-round");
        checks.Sites.Pages["a.localhost/hangs"] = context => Task.Delay(TimeSpan.FromSeconds(30), context.RequestAborted);
        var verdicts = new Dictionary<string, string>();
        for (var round = 0; round < 3; round++)
        {
            foreach (var name in names)
            {
                verdicts[name] = (string)(await checks.Ask(links[name]))["verdict"]!;
            }

            checks.GoOn(Duration.FromMinutes(31));
        }

        verdicts.ShouldBe(
            new Dictionary<string, string>
            {
                ["dies"] = "gone",
                ["fails"] = "failing",
                ["lies"] = "changed",
                ["moves"] = "redirected",
                ["shuts"] = "closed",
                ["hangs"] = "failing",
                ["goes-round"] = "failing",
            }
        );
        var board = (await checks.World.Get("/api/v1/link-checks"))["items"]!.AsArray();
        board
            .Select(p => new Uri((string)p!["address"]!).AbsolutePath[1..])
            .ShouldBe(["dies", "fails", "lies", "moves", "hangs", "goes-round"], ignoreOrder: true);
        ((string)board.Single(p => ((string)p!["address"]!).EndsWith("/moves", StringComparison.Ordinal))!["leadsTo"]!).ShouldBe(
            checks.Sites.At("/moved", "a.localhost")
        );

        foreach (var name in names)
        {
            checks.Let($"a.localhost/{name}", "Orion");
            ((string)(await checks.Ask(links[name]))["verdict"]!).ShouldBe("fine", name);
        }

        ((int)(await checks.World.Get("/api/v1/link-checks"))["total"]!).ShouldBe(0);
    }

    [Fact]
    public async Task Pages_are_asked_while_links_lead_to_them_not_before_they_open_nor_after_they_have_ended()
    {
        await using var checks = await Checks.Begin(app);
        foreach (var page in new[] { "coming", "running", "over" })
        {
            checks.Let($"q.localhost/{page}", "Gone", 410);
        }

        var now = SystemClock.Instance.GetCurrentInstant();
        var coming = await checks.Link("q.localhost/coming", l => l["opensAt"] = $"{now + Duration.FromDays(1)}");
        var running = await checks.Link("q.localhost/running", l => l["endsAt"] = $"{now + Duration.FromDays(3)}");
        var over = await checks.Link("q.localhost/over", l => l["endsAt"] = $"{now - Duration.FromDays(1)}");
        over["check"].ShouldBeNull();
        await checks.RunRound();
        Asked().ShouldBe(["/running"]);
        (await Board()).ShouldBe(["/running"]);
        await checks.Do(HttpMethod.Patch, $"links/{over["id"]}", new { endsAt = "" });
        await checks.RunRound();
        Asked().ShouldBe(["/over", "/running"], "who is given more time is asked at once");

        checks.GoOn(Duration.FromDays(2));
        await checks.RunRound();
        Asked().ShouldContain("/coming");
        checks.GoOn(Duration.FromDays(2));
        await checks.Do(HttpMethod.Patch, $"links/{running["id"]}", new { endsAt = $"{now - Duration.FromDays(1)}" });
        (await Board()).ShouldNotContain("/running", "nobody is led there any more");
        ((string)(await checks.World.Get($"/api/v1/links/{running["id"]}"))["state"]!).ShouldBe("ended");
        ((string)(await checks.World.Get($"/api/v1/links/{coming["id"]}"))["state"]!).ShouldBe("scheduled");

        IEnumerable<string> Asked() =>
            checks
                .Asked.Where(a => a.Contains("q.localhost", StringComparison.Ordinal))
                .Select(a => a[a.LastIndexOf('/')..])
                .Where(a => a != "/robots.txt")
                .Distinct()
                .Order(StringComparer.Ordinal);
        async Task<IEnumerable<string>> Board() =>
            (await checks.World.Get("/api/v1/link-checks"))["items"]!.AsArray().Select(p => new Uri((string)p!["address"]!).AbsolutePath);
    }

    [Fact]
    public async Task A_page_that_leads_back_to_an_own_short_domain_is_found()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("b.localhost/page", "Orion");
        var link = await checks.Link("b.localhost/page");
        checks.Let("b.localhost/page", "", 302, c => c.Response.Headers.Location = $"http://{checks.World.Domain}/orion");
        for (var i = 0; i < 3; i++)
        {
            await checks.Ask(link);
            checks.GoOn(Duration.FromMinutes(31));
        }

        ((string)(await checks.Ask(link))["text"]!).ShouldBe("It redirects back to one of your own short domains.");
    }

    [Fact]
    public async Task A_new_destination_is_asked_at_once_and_one_that_nobody_leads_to_is_forgotten()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("c.localhost/one", "Orion");
        checks.Let("c.localhost/two", "Saturn");
        var link = await checks.Link("c.localhost/one", l => l["destination"] = checks.Sites.At("/one#rings", "c.localhost"));
        await checks.RunRound();
        ((string)(await checks.World.Get($"/api/v1/links/{link["id"]}"))["check"]!["verdict"]!).ShouldBe("fine");
        checks.Asked.ShouldContain("GET c.localhost/one");

        await checks.Do(HttpMethod.Patch, $"links/{link["id"]}", new { destination = checks.Sites.At("/two", "c.localhost") });
        checks.Sites.Log.Clear();
        await checks.RunRound();
        checks.Asked.ShouldContain("GET c.localhost/two");
        checks.Asked.ShouldNotContain("GET c.localhost/one");

        checks.GoOn(Duration.FromDays(2));
        await checks.RunRound();
        await using var db = app.Database();
        (await db.CheckedPages.Where(p => p.WorkspaceId == checks.World.Workspace.Id).Select(p => p.Address).ToListAsync(Cancel)).ShouldBe([
            checks.Sites.At("/two", "c.localhost"),
        ]);
    }

    [Fact]
    public async Task Links_of_a_post_to_one_page_ask_it_once()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("d.localhost/geminids", "Geminids night");
        await checks.World.Send(p => p["destination"] = checks.Sites.At("/geminids", "d.localhost"));
        await checks.RunRound();
        checks.Asked.ShouldBe(["HEAD d.localhost/geminids", "GET d.localhost/geminids"]);
    }

    [Fact]
    public async Task A_page_that_says_itself_to_be_the_same_is_not_read_again_until_the_words_change()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("e.localhost/page", "A year of dark skies", 200, c => c.Response.Headers.ETag = "\"7\"");
        var link = await checks.Link("e.localhost/page");
        await checks.Ask(link);
        checks.Sites.Log.Clear();
        await checks.Ask(link);
        checks.Asked.ShouldBe(["HEAD e.localhost/page"]);

        var changed = await checks.World.Owner.PatchAsJsonAsync("/api/v1/link-checks/settings", new { goneWords = new[] { "dark skies" } }, Cancel);
        changed.StatusCode.ShouldBe(HttpStatusCode.OK);
        ((string)(await checks.Ask(link))["text"]!).ShouldBe("The page loads, but says “dark skies”.");
    }

    [Fact]
    public async Task A_page_is_not_called_gone_because_its_server_does_not_understand_the_question_about_it()
    {
        await using var checks = await Checks.Begin(app);
        checks.Sites.Pages["f.localhost/page"] = async context =>
        {
            context.Response.StatusCode = context.Request.Method == "HEAD" ? 404 : 200;
            await context.Response.WriteAsync("<title>Orion</title>");
        };
        ((string)(await checks.Ask(await checks.Link("f.localhost/page")))["verdict"]!).ShouldBe("fine");
    }

    [Fact]
    public async Task What_a_site_asks_of_programs_is_heeded()
    {
        await using var checks = await Checks.Begin(app);
        checks.Sites.Pages["g.localhost/robots.txt"] = async context =>
        {
            context.Response.ContentType = "text/plain";
            await context.Response.WriteAsync("User-agent: *\nDisallow: /workshop/\n");
        };
        checks.Let("g.localhost/workshop/7", "Workshop");
        checks.Let("g.localhost/shop", "Shop");
        var (closed, open) = (await checks.Link("g.localhost/workshop/7"), await checks.Link("g.localhost/shop"));
        ((string)(await checks.Ask(closed))["verdict"]!).ShouldBe("closed");
        ((string)(await checks.Ask(open))["verdict"]!).ShouldBe("fine");
        checks.Asked.ShouldNotContain(a => a.Contains("/workshop/", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Pages_of_one_site_are_asked_one_after_the_other_while_other_sites_are_asked_too()
    {
        await using var checks = await Checks.Begin(app);
        var (now, most, sites) = (new Dictionary<string, int>(), 0, new HashSet<string>());
        async Task Busy(HttpContext context)
        {
            var host = context.Request.Host.Host;
            lock (now)
            {
                now[host] = now.GetValueOrDefault(host) + 1;
                most = Math.Max(most, now[host]);
                sites.UnionWith(now.Where(n => n.Value > 0).Select(n => n.Key));
            }

            await Task.Delay(30);
            lock (now)
            {
                now[host]--;
            }

            await context.Response.WriteAsync("<title>Orion</title>");
        }

        for (var i = 0; i < 6; i++)
        {
            checks.Sites.Pages[$"h.localhost/{i}"] = Busy;
            checks.Sites.Pages[$"i.localhost/{i}"] = Busy;
            await checks.Link($"h.localhost/{i}");
            await checks.Link($"i.localhost/{i}");
        }

        await checks.RunRound();
        most.ShouldBe(1);
        sites.Count.ShouldBe(2);
        checks.Asked.Count(a => a.StartsWith("GET", StringComparison.Ordinal)).ShouldBe(12);
    }

    [Fact]
    public async Task What_was_made_last_does_not_wait_behind_a_long_list_of_the_same_site()
    {
        await using var checks = await Checks.Begin(app);
        var list = string.Join('\n', Enumerable.Range(0, 100).Select(n => checks.Sites.At($"/listed/{n}", "l.localhost")));
        var batch = await checks.Do(HttpMethod.Post, "batches?name=list.txt", new StringContent(list));
        await checks.Do(HttpMethod.Post, $"batches/{batch["id"]}/run", new { });
        while ((string)(await checks.Do(HttpMethod.Get, $"batches/{batch["id"]}"))["state"]! != "done")
        {
            await Task.Delay(20, Cancel);
        }

        checks.Let("l.localhost/last", "Orion");
        var link = await checks.Link("l.localhost/last");
        await checks.RunRound();
        ((string)(await checks.World.Get($"/api/v1/links/{link["id"]}"))["check"]!["verdict"]!).ShouldBe("fine");
        checks.Asked.Count(a => a.StartsWith("GET l.localhost", StringComparison.Ordinal)).ShouldBe(30, "the others wait for the next rounds");
    }

    [Fact]
    public async Task Of_two_processes_one_asks()
    {
        await using var checks = await Checks.Begin(app);
        checks.Sites.Pages["j.localhost/page"] = async context =>
        {
            await Task.Delay(TimeSpan.FromSeconds(1.5), context.RequestAborted);
            await context.Response.WriteAsync("<title>Orion</title>");
        };
        var link = await checks.Link("j.localhost/page");
        await using var one = Process();
        await using var two = Process();
        _ = (one.Server, two.Server);
        for (var tries = 0; tries < 400 && (string)(await checks.World.Get($"/api/v1/links/{link["id"]}"))["check"]!["verdict"]! != "fine"; tries++)
        {
            await Task.Delay(100, Cancel);
        }

        // A second process that began while the first was waiting would have asked too.
        checks.Asked.ShouldBe(["HEAD j.localhost/page", "GET j.localhost/page"]);
    }

    private WebApplicationFactory<Program> Process() =>
        app.WithWebHostBuilder(web =>
            web.UseSetting("Cursus:Background:IsOn", "true")
                .UseSetting("Cursus:JournalFolder", Directory.CreateTempSubdirectory("cursus-test-").FullName)
                .ConfigureServices(services =>
                {
                    // Other work would meddle with other tests.
                    foreach (var other in services.Where(s => s.ImplementationInstance is RegularWork { Key: not "link-check" }).ToList())
                    {
                        services.Remove(other);
                    }
                })
        );

    [Fact]
    public async Task A_workspace_that_does_not_want_it_is_not_checked()
    {
        await using var checks = await Checks.Begin(app);
        checks.Let("k.localhost/page", "Orion");
        await checks.Link("k.localhost/page");
        (await checks.World.Owner.PatchAsJsonAsync("/api/v1/link-checks/settings", new { isOn = false }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.OK
        );
        await checks.RunRound();
        checks.Asked.ShouldBeEmpty();
        ((bool)(await checks.World.Get("/api/v1/link-checks/summary"))["isOn"]!).ShouldBeFalse();
    }

    [Theory]
    [InlineData("""{ "goneWords": ["ab"] }""", "goneWords")]
    [InlineData("""{ "fallback": "no address" }""", "fallback")]
    [InlineData("""{ "fallback": "http://192.168.0.1/" }""", "fallback")]
    public async Task Settings_that_make_no_sense_are_refused_and_editors_may_not_change_them(string body, string field)
    {
        var world = await World.Make(app);
        StringContent Body() => new(body, null, "application/json");
        var refused = await world.Owner.PatchAsync("/api/v1/link-checks/settings", Body(), Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
        (await world.Editor.PatchAsync("/api/v1/link-checks/settings", Body(), Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }
}
