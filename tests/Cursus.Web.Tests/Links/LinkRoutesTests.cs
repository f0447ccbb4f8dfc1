using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Links;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Cursus.Web.Tests.Links;

/// <summary>A short link that leads visitors to different pages.</summary>
public class LinkRoutesTests(CursusApp app)
{
    private const string Phone = "Mozilla/5.0 (Linux; Android 15; Mobile) AppleWebKit/537.36 Person/7";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_first_rule_that_holds_leads_to_its_page_with_the_links_own_tags_and_clicks_say_which_it_was()
    {
        var (world, link) = await Made();
        await Put(
            world,
            link,
            """
            {"rules": [
                {"when": {"devices": ["phone"]}, "to": [{"destination": "https://www.northmoor.example/app"}]},
                {"when": {"languages": ["de"]}, "to": [{"destination": "https://www.northmoor.example/de?x=1#top"}]},
                {"name": "Friends", "when": {"query": {"name": "from", "equals": "a friend"}}, "to": [{"destination": "https://www.northmoor.example/friends"}]}
            ]}
            """
        );
        var slug = (string)link["slug"]!;
        (await Led(world, slug, Phone)).ShouldBe("https://www.northmoor.example/app?utm_source=perch&utm_medium=social&utm_campaign=winter-members");
        (await Led(world, slug, language: "de-AT,en;q=0.5")).ShouldBe(
            "https://www.northmoor.example/de?x=1&utm_source=perch&utm_medium=social&utm_campaign=winter-members#top"
        );
        (await Led(world, $"{slug}?from=a+friend")).ShouldStartWith("https://www.northmoor.example/friends?");
        (await Led(world, slug)).ShouldBe((string)link["finalUrl"]!);
        await app.Shipped();
        await using var db = app.Database();
        var ways = await db
            .Database.SqlQuery<string>($"select page || '-' || rule as \"Value\" from clicks where link_id = {(Guid)link["id"]!} order by id")
            .ToListAsync(Cancel);
        ways.ShouldBe(["2-1", "3-2", "4-3", "0-0"]);
    }

    [Fact]
    public async Task Redirects_for_other_servers_lead_where_most_of_everyone_else_went_and_say_what_they_cannot()
    {
        var (world, link) = await Made();
        await Put(world, link, Split(30, 70));
        var domain = (string)(await world.Get("/api/v1/domains"))["items"]![0]!["id"]!;
        var map = await world.Viewer.GetStringAsync($"/api/v1/domains/{domain}/redirects?form=apache", Cancel);
        map.ShouldContain($"/{link["slug"]} https://www.northmoor.example/b?utm_source=perch&utm_medium=social&utm_campaign=winter-members\n");
        map.ShouldContain("Its rules were: everyone else: 30% www.northmoor.example/a, 70% www.northmoor.example/b\n");
    }

    [Fact]
    public async Task A_visitor_of_a_split_keeps_their_page_and_both_pages_are_shown()
    {
        var (world, link) = await Made();
        await Put(world, link, Split(50, 50));
        var got = new Dictionary<int, string>();
        for (var round = 0; round < 2; round++)
        {
            for (var visitor = 0; visitor < 24; visitor++)
            {
                var page = await Led(world, (string)link["slug"]!, $"Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Split/{visitor}");
                got.TryAdd(visitor, page);
                page.ShouldBe(got[visitor]);
            }
        }

        got.Values.Distinct().Count().ShouldBe(2);
        await Put(world, link, Split(100, 0));
        foreach (var (visitor, page) in got)
        {
            var now = await Led(world, (string)link["slug"]!, $"Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Split/{visitor}");
            now.ShouldContain("/a?");
            (now == page || page.Contains("/b?", StringComparison.Ordinal)).ShouldBeTrue("who had the first page stays there");
        }
    }

    [Fact]
    public async Task A_cookie_keeps_a_visitor_for_thirty_days_only_where_the_link_asks_for_it()
    {
        var (world, link) = await Made();
        await Put(world, link, Split(50, 50));
        (await world.Visit((string)link["slug"]!)).Headers.Contains("Set-Cookie").ShouldBeFalse();
        await Put(world, link, Split(50, 50).Replace("{\"otherwise\"", "{\"remember\": \"30-days\", \"otherwise\"", StringComparison.Ordinal));
        var first = await world.Visit((string)link["slug"]!);
        var cookie = first.Headers.GetValues("Set-Cookie").Single();
        cookie.ShouldContain("cursus-visitor=");
        cookie.ShouldContain("max-age=2592000");
        cookie.ShouldContain("httponly");
        cookie.ShouldContain("samesite=lax");
        for (var visit = 0; visit < 8; visit++)
        {
            var again = await world.Visit((string)link["slug"]!, r => r.Headers.Add("Cookie", cookie.Split(';')[0]));
            again.Headers.Contains("Set-Cookie").ShouldBeFalse();
            again.Headers.Location.ShouldBe(first.Headers.Location, "though every visit here is another browser's");
        }
    }

    [Fact]
    public async Task A_link_can_be_closed_to_some_with_words_or_with_a_page()
    {
        var (world, link) = await Made();
        await Put(
            world,
            link,
            """
            {"rules": [
                {"when": {"languages": ["de"]}, "closed": {"text": "Nur in <England>."}},
                {"when": {"languages": ["fr"]}, "closed": {"page": "https://www.northmoor.example/fr"}}
            ]}
            """
        );
        var closed = await Visit(world, (string)link["slug"]!, language: "de");
        closed.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await closed.Content.ReadAsStringAsync(Cancel)).ShouldContain("Nur in &lt;England&gt;.");
        (await Led(world, (string)link["slug"]!, language: "fr")).ShouldStartWith("https://www.northmoor.example/fr?");
        await app.Shipped();
        (await world.Get($"/api/v1/links/{link["id"]}"))["clicks"]!.GetValue<int>().ShouldBe(1, "who reads that it is closed was led nowhere");
    }

    [Fact]
    public async Task The_first_people_are_counted_without_machines_the_team_or_anybody_twice()
    {
        var (world, link) = await Made();
        var slug = (string)link["slug"]!;
        await Put(world, link, """{"rules": [{"when": {"first": 2}, "to": [{"destination": "https://www.northmoor.example/gift"}]}]}""");
        (await Led(world, slug, "ExampleBot/1.0 (+https://bot.example)")).ShouldContain("/sale?");
        var team = app.CreateClient(new() { AllowAutoRedirect = false });
        team.DefaultRequestHeaders.Authorization = world.Editor.DefaultRequestHeaders.Authorization;
        var open = await team.GetAsync($"/api/v1/links/{link["id"]}/open", Cancel);
        (await world.Visit(open.Headers.Location!.PathAndQuery[1..])).Headers.Location!.AbsolutePath.ShouldBe(
            "/gift",
            "the team sees what others do"
        );
        foreach (var (person, page) in new[] { (1, "gift"), (1, "gift"), (2, "gift"), (3, "sale"), (1, "gift"), (4, "sale") })
        {
            (await Led(world, slug, $"Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 First/{person}")).ShouldContain($"/{page}?");
        }

        // Another process learns of it from the database.
        await using var db = app.Database();
        await Eventually(async () =>
            await db
                .Database.SqlQuery<int>($"select count(*)::int as \"Value\" from rule_people where link_id = {(Guid)link["id"]!}")
                .SingleAsync(Cancel) == 2
        );
        ((int)(await world.Get($"/api/v1/links/{link["id"]}/routes"))["rules"]![0]!["people"]!).ShouldBe(2);
        await db.Database.ExecuteSqlAsync($"update rule_people set seen_at = now() - interval '40 days' where link_id = {(Guid)link["id"]!}", Cancel);
        var clock = app.Services.GetRequiredService<NodaTime.IClock>();
        await Cursus.Data.Links.RulePeople.Forget(app.Services.GetRequiredService<Npgsql.NpgsqlDataSource>(), clock.GetCurrentInstant(), Cancel);
        ((int)(await world.Get($"/api/v1/links/{link["id"]}/routes"))["rules"]![0]!["people"]!).ShouldBe(2, "that they were there stays");
        (
            await db.Database.SqlQuery<long>($"select visitor as \"Value\" from rule_people where link_id = {(Guid)link["id"]!}").ToListAsync(Cancel)
        ).ShouldAllBe(visitor => visitor < 0);
    }

    [Fact]
    public async Task Machines_get_what_everyone_else_gets_and_a_permanent_redirect_is_none_while_rules_decide()
    {
        var (world, link) = await Made();
        (await world.Editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", new { redirect = 301 }, Cancel)).EnsureSuccessStatusCode();
        await Put(
            world,
            link,
            """{"rules": [{"when": {"notCountries": ["DE"]}, "to": [{"destination": "https://www.northmoor.example/abroad"}]}]}"""
        );
        var machine = await Visit(world, (string)link["slug"]!, "ExampleBot/1.0 (+https://bot.example)");
        machine.Headers.Location!.OriginalString.ShouldBe((string)link["finalUrl"]!);
        var person = await world.Visit((string)link["slug"]!);
        ((int)person.StatusCode, person.Headers.Location!.AbsolutePath).ShouldBe((302, "/abroad"));
    }

    [Fact]
    public async Task Rules_are_history_and_come_back_with_it_and_nobodys_are_overwritten_unseen()
    {
        var (world, link) = await Made();
        var path = $"/api/v1/links/{link["id"]}";
        await Put(world, link, """{"rules": [{"when": {"devices": ["phone"]}, "to": [{"destination": "https://www.northmoor.example/app"}]}]}""");
        var stale = new HttpRequestMessage(HttpMethod.Put, $"{path}/routes") { Content = JsonContent.Create(new { rules = Array.Empty<object>() }) };
        stale.Headers.TryAddWithoutValidation("If-Match", "\"1\"");
        (await world.Editor.SendAsync(stale, Cancel)).StatusCode.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await world.Editor.DeleteAsync($"{path}/routes", Cancel)).EnsureSuccessStatusCode();
        (await Led(world, (string)link["slug"]!, Phone)).ShouldBe((string)link["finalUrl"]!);
        var told = (await world.Get($"{path}/history")).ToJsonString();
        told.ShouldContain("on a phone: www.northmoor.example/app");
        (await world.Editor.PostAsJsonAsync($"{path}/restore", new { version = 2 }, Cancel)).EnsureSuccessStatusCode();
        (await Led(world, (string)link["slug"]!, Phone)).ShouldStartWith("https://www.northmoor.example/app?");
        ((int)(await world.Get($"{path}/routes"))["rules"]![0]!["to"]![0]!["number"]!).ShouldBe(2, "the page has its number again");
    }

    [Fact]
    public async Task A_copy_of_a_link_has_its_rules()
    {
        var (world, link) = await Made();
        await Put(world, link, """{"rules": [{"when": {"devices": ["phone"]}, "to": [{"destination": "https://www.northmoor.example/app"}]}]}""");
        var copy = await World.Read(await world.Editor.PostAsJsonAsync($"/api/v1/links/{link["id"]}/copy", new { slug = "like-it" }, Cancel));
        (await Led(world, (string)copy["slug"]!, Phone)).ShouldStartWith("https://www.northmoor.example/app?");
    }

    [Fact]
    public async Task The_pages_of_a_route_are_checked_and_a_dead_one_hands_its_visitors_over()
    {
        var (world, link) = await Made();
        await Put(
            world,
            link,
            """
            {"otherwise": {"handsOverWhileDead": true, "to": [
                {"destination": "https://www.northmoor.example/a", "weight": 50},
                {"destination": "https://www.northmoor.example/b", "weight": 50}]}}
            """
        );
        await using var db = app.Database();
        var workspace = await db.Links.Where(l => l.Id == (Guid)link["id"]!).Select(l => l.WorkspaceId).SingleAsync(Cancel);
        var pages = db.CheckedPages.Where(p => p.WorkspaceId == workspace);
        (await pages.Select(p => p.Address).ToListAsync(Cancel)).ShouldContain("https://www.northmoor.example/a");
        await db.Database.ExecuteSqlAsync(
            $"update checked_pages set verdict = 4, needs_care = true where workspace_id = {workspace} and address like '%/a'",
            Cancel
        );
        await app.Feed.CatchUp();
        for (var visit = 0; visit < 12; visit++)
        {
            (await Led(world, (string)link["slug"]!)).ShouldStartWith("https://www.northmoor.example/b?");
        }

        (await world.Get("/api/v1/link-checks"))["items"]!.AsArray().Count.ShouldBe(1);
        await Put(world, link, """{"rules": []}""");
        (await db.Set<RoutedPage>().Where(p => p.LinkId == (Guid)link["id"]!).Select(p => p.IsUsed).ToListAsync(Cancel)).ShouldBe([false, false]);
    }

    [Fact]
    public async Task A_made_up_visit_says_which_rule_decides_and_why_the_others_did_not()
    {
        var (world, link) = await Made();
        await Put(
            world,
            link,
            """
            {"rules": [
                {"when": {"countries": ["DE", "unknown"], "weekdays": [1, 2, 3, 4, 5], "hours": "08:00-18:00"}, "to": [{"destination": "https://www.northmoor.example/de"}]},
                {"when": {"devices": ["phone"], "networks": ["Perch"]}, "closed": {}}
            ]}
            """
        );
        var path = $"/api/v1/links/{link["id"]}/routes/try";
        var monday = await Tried(new { country = "DE", at = "2026-12-07T09:30" });
        ((int)monday["rule"]!, (string)monday["destination"]!).ShouldBe((1, "https://www.northmoor.example/de"));
        ((string)monday["finalUrl"]!).ShouldContain("utm_source=perch");
        var sunday = await Tried(
            new
            {
                country = "DE",
                at = "2026-12-06T09:30",
                userAgent = Phone,
                referrer = "Perch",
            }
        );
        ((int)sunday["rule"]!, sunday["destination"]).ShouldBe((2, null));
        ((string)sunday["why"]![0]!).ShouldContain("Mon–Fri 08:00–18:00");
        var other = await Tried(new { country = "FR" });
        (other["rule"], (string)other["finalUrl"]!).ShouldBe((null, (string)link["finalUrl"]!));

        async Task<JsonNode> Tried(object visit)
        {
            var answer = await world.Viewer.PostAsJsonAsync(path, visit, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync(Cancel));
            return await World.Read(answer);
        }
    }

    [Theory]
    [InlineData("""{"rules": [{"to": [{"destination": "https://northmoor.example/"}]}]}""", "rules[0].when")]
    [InlineData("""{"rules": [{"when": {"countries": ["XX"]}, "to": [{"destination": "https://northmoor.example/"}]}]}""", "rules[0].when.countries")]
    [InlineData(
        """{"rules": [{"when": {"countries": ["Germany"]}, "to": [{"destination": "https://northmoor.example/"}]}]}""",
        "rules[0].when.countries"
    )]
    [InlineData("""{"rules": [{"when": {"hours": "25:00-26:00"}, "to": [{"destination": "https://northmoor.example/"}]}]}""", "rules[0].when.hours")]
    [InlineData("""{"rules": [{"when": {"weekdays": [0]}, "to": [{"destination": "https://northmoor.example/"}]}]}""", "rules[0].when.weekdays")]
    [InlineData("""{"rules": [{"when": {"from": "soon"}, "to": [{"destination": "https://northmoor.example/"}]}]}""", "rules[0].when.from")]
    [InlineData("""{"rules": [{"when": {"first": 0}, "to": [{"destination": "https://northmoor.example/"}]}]}""", "rules[0].when.first")]
    [InlineData("""{"rules": [{"when": {"devices": ["phone"]}}]}""", "rules[0].to")]
    [InlineData("""{"rules": [{"when": {"devices": ["phone"]}, "to": [{"destination": "javascript:x"}]}]}""", "rules[0].to[0].destination")]
    [InlineData(
        """{"otherwise": {"to": [{"destination": "https://northmoor.example/a", "weight": 60}, {"destination": "https://northmoor.example/b", "weight": 50}]}}""",
        "otherwise.to"
    )]
    public async Task What_cannot_be_followed_is_refused_with_its_field_and_nothing_changes(string body, string field)
    {
        var (world, link) = await Made();
        var answer = await PutAnswer(world, link, body);
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, await answer.Content.ReadAsStringAsync(Cancel));
        (await World.Read(answer))["errors"]!.AsObject().Select(e => e.Key).ShouldContain(field);
        ((int)(await world.Get($"/api/v1/links/{link["id"]}"))["version"]!).ShouldBe(1);
    }

    [Fact]
    public async Task A_page_on_an_own_short_domain_is_refused()
    {
        var (world, link) = await Made();
        var body = $$$"""{"rules": [{"when": {"devices": ["phone"]}, "to": [{"destination": "https://{{{world.Domain}}}/sale"}]}]}""";
        (await PutAnswer(world, link, body)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    private static string Split(int a, int b) =>
        $$$"""
            {"otherwise": {"to": [{"destination": "https://www.northmoor.example/a", "weight": {{{a}}}}, {"destination": "https://www.northmoor.example/b", "weight": {{{b}}}}]}}
            """;

    [Fact]
    public async Task A_post_gives_all_its_links_its_rules_but_those_that_have_others_or_none()
    {
        var world = await World.Make(app);
        const string split =
            """{"otherwise":{"to":[{"destination":"https://www.northmoor.example/a","weight":70},{"destination":"https://www.northmoor.example/b","weight":30}]}}""";
        var post = await world.Send(p =>
        {
            p["routes"] = JsonNode.Parse(split);
            p["placements"] = JsonNode.Parse(
                """
                [{"channel":"perch"},{"channel":"guildhall","routes":{}},{"channel":"hearthside","routes":{"rules":[
                    {"when":{"devices":["phone"]},"to":[{"destination":"https://www.northmoor.example/app"}]}]}}]
                """
            );
        });
        var routes = new List<JsonNode>();
        foreach (var placement in post["placements"]!.AsArray())
        {
            routes.Add(await world.Get($"/api/v1/links/{placement!["link"]!["id"]}/routes"));
        }

        routes[0]["otherwise"]!["to"]!.AsArray().Select(p => ((int)p!["weight"]!, (int)p["number"]!)).ShouldBe([(70, 2), (30, 3)]);
        (routes[1]["otherwise"], routes[1]["rules"]!.AsArray().Count).ShouldBe((null, 0));
        ((int)routes[2]["rules"]![0]!["number"]!, (string)routes[2]["rules"]![0]!["words"]!, routes[2]["otherwise"]).ShouldBe(
            (1, "on a phone", null)
        );
        var slug = (string)post["placements"]![2]!["link"]!["slug"]!;
        (await Led(world, slug, Phone)).ShouldStartWith("https://www.northmoor.example/app?utm_source=");
    }

    [Fact]
    public async Task Rules_that_are_wrong_are_told_where_they_stand_and_nothing_is_made()
    {
        var world = await World.Make(app);
        const string wrong = """{"rules":[{"to":[{"destination":"https://www.northmoor.example/a"}]}]}""";
        var before = (int)(await world.Get("/api/v1/links?limit=1"))["total"]!;
        await Told("/api/v1/routes/check", JsonNode.Parse(wrong)!, "rules[0].when");
        var link = new JsonObject { ["destination"] = "https://www.northmoor.example/", ["routes"] = JsonNode.Parse(wrong) };
        await Told("/api/v1/links", link, "routes.rules[0].when");
        var post = new JsonObject
        {
            ["title"] = "Rules",
            ["destination"] = "https://www.northmoor.example/",
            ["campaign"] = "winter-members",
            ["placements"] = new JsonArray(new JsonObject { ["channel"] = "perch", ["routes"] = JsonNode.Parse(wrong) }),
        };
        await Told("/api/v1/posts", post, "placements[0].routes.rules[0].when");
        ((int)(await world.Get("/api/v1/links?limit=1"))["total"]!).ShouldBe(before);

        async Task Told(string path, JsonNode body, string field)
        {
            var answer = await world.Editor.PostAsJsonAsync(path, body, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            (await World.Read(answer))["errors"]!.AsObject().Select(e => e.Key).ShouldBe([field]);
        }
    }

    [Fact]
    public async Task Rules_that_no_link_has_yet_are_checked_and_come_back_in_words()
    {
        var world = await World.Make(app);
        const string rules = """{"rules":[{"when":{"countries":["DE"]},"closed":{"text":"Not here"}},{"when":{"devices":["phone"]},"closed":{}}]}""";
        var answer = await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/routes/check", JsonNode.Parse(rules), Cancel));
        answer["rules"]!.AsArray().Select(r => ((int)r!["number"]!, (string)r["words"]!)).ShouldBe([(1, "in Germany"), (2, "on a phone")]);
    }

    private async Task<(World World, JsonNode Link)> Made()
    {
        var world = await World.Make(app);
        var wish = new
        {
            destination = "https://www.northmoor.example/sale",
            campaign = "winter-members",
            channel = "perch",
        };
        return (world, await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/links", wish, Cancel)));
    }

    private static async Task Put(World world, JsonNode link, string body)
    {
        var answer = await PutAnswer(world, link, body);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync(Cancel));
    }

    private static Task<HttpResponseMessage> PutAnswer(World world, JsonNode link, string body) =>
        world.Editor.PutAsync($"/api/v1/links/{link["id"]}/routes", new StringContent(body, null, "application/json"), Cancel);

    private static async Task Eventually(Func<Task<bool>> holds)
    {
        while (!await holds())
        {
            await Task.Delay(50, Cancel);
        }
    }

    private static async Task<string> Led(World world, string slug, string? agent = null, string? language = null) =>
        (await Visit(world, slug, agent, language)).Headers.Location!.OriginalString;

    private static Task<HttpResponseMessage> Visit(World world, string slug, string? agent = null, string? language = null) => world.Visit(slug, r =>
        {
            if (agent is not null)
            {
                r.Headers.UserAgent.Clear();
                r.Headers.TryAddWithoutValidation("User-Agent", agent);
            }

            if (language is not null)
            {
                r.Headers.TryAddWithoutValidation("Accept-Language", language);
            }
        });
}
