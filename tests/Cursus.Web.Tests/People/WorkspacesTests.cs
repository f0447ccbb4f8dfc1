using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.People;

/// <summary>Several workspaces of one person: each has its own addresses, and a new one can be set up as another is.</summary>
public class WorkspacesTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task An_address_below_a_workspaces_key_asks_within_it_and_others_stay_where_they_were()
    {
        var world = await World.Make(app);
        var browser = await OwnerOf(world);
        var made = await Make(browser, new { name = "Harbour Museum", timeZone = "Europe/Lisbon" });
        var key = (string)made["key"]!;
        key.ShouldStartWith("harbour-museum");

        var there = await browser.At(key).Session();
        ((string)there!["workspace"]!, (string)there["role"]!, (string)there["timeZone"]!).ShouldBe(("Harbour Museum", "owner", "Europe/Lisbon"));
        there["workspaces"]!.AsArray().Select(w => (string)w!["name"]!).ShouldBe(["Harbour Museum", world.Workspace.Name]);
        ((string)(await browser.Session())!["workspace"]!).ShouldBe(world.Workspace.Name);

        var channel = await browser.At(key).Post("channels", new { name = "Guildhall" });
        channel.StatusCode.ShouldBe(HttpStatusCode.Created);
        channel.Headers.Location!.ToString().ShouldStartWith($"/w/{key}/api/v1/channels/");
        ((int)(await browser.At(key).Get("channels"))["total"]!).ShouldBe(1);
        ((int)(await browser.Get("channels"))["total"]!).ShouldBe(4);
    }

    [Fact]
    public async Task Nobody_gets_into_a_workspace_by_its_address_alone()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        var browser = await OwnerOf(mine);
        foreach (var key in new[] { other.Workspace.Key, "no-such-workspace" })
        {
            var answer = await browser.At(key).Send(HttpMethod.Get, "links");
            answer.StatusCode.ShouldBe(HttpStatusCode.NotFound);
            ((string)(await World.Read(answer))["code"]!).ShouldBe("no-such-workspace");
        }

        (await mine.Owner.GetAsync($"/w/{other.Workspace.Key}/api/v1/links", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound, "a token");
        (await mine.Owner.GetAsync($"/w/{mine.Workspace.Key}/api/v1/links", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await app.CreateClient().GetAsync($"/w/{other.Workspace.Key}/api/v1/links", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Whoever_signs_in_at_one_workspaces_address_is_signed_in_everywhere()
    {
        var world = await World.Make(app);
        using var client = World.FromAnyNetwork(app.CreateClient());
        var path = $"/w/{world.Workspace.Key}/api/v1/session";
        var signedIn = await client.PostAsJsonAsync(path, new { email = world.OwnerEmail, password = World.Password }, Cancel);
        var session = await client.GetAsync(path, Cancel);
        var cookies = signedIn.Headers.GetValues("Set-Cookie").Concat(session.Headers.GetValues("Set-Cookie")).ToList();
        cookies.Select(c => c.Split('=')[0]).ShouldBe(["cursus-browser", "cursus-session", "cursus-csrf"], ignoreOrder: true);
        cookies.ShouldAllBe(c => c.Contains("path=/;", StringComparison.Ordinal));
        (await client.GetAsync("/api/v1/session", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Workspaces_of_the_same_name_have_different_keys_even_when_made_at_once()
    {
        var browser = await OwnerOf(await World.Make(app));
        var name = $"Client {Guid.NewGuid():N}"[..20];
        var made = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => Make(browser, new { name })));
        made.Select(m => (string)m["key"]!).Distinct().Count().ShouldBe(4);
        (await browser.Post("workspaces", new { name = " " })).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await browser.Post("workspaces", new { name, timeZone = "Moon/Sea" })).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_new_workspace_is_set_up_as_another_without_its_links_people_and_pixels()
    {
        var world = await World.Make(app);
        var browser = await OwnerOf(world);
        await world.Send(p => p["tags"] = new JsonArray("event"));
        var pixel = await World.Read(
            await browser.Post(
                "pixels",
                new
                {
                    name = "Visitors",
                    network = "image-pixel",
                    reference = "https://northmoor.example/p.gif",
                }
            )
        );
        (
            await browser.Post("recipes", new { name = "Evening talk", content = World.Post(p => p["pixels"] = new JsonArray((string)pixel["id"]!)) })
        ).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await browser.Post("agreed-values", new { field = "term", value = "orion" })).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await browser.Post("referrer-rules", new { host = "forum.northmoor.example", channel = "perch" })).StatusCode.ShouldBe(
            HttpStatusCode.Created
        );
        (await browser.Post("code-styles", new { name = "Plum" })).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await browser.Send(HttpMethod.Patch, "handoff", new { line = "One moment" })).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await browser.Send(HttpMethod.Patch, "workspace", new { weekStart = "sunday", numberLanguage = "de-DE" })).StatusCode.ShouldBe(
            HttpStatusCode.OK
        );

        var key = (string)(await Make(browser, new { name = "Harbour Museum", copyFrom = world.Workspace.Key }))["key"]!;
        var copy = browser.At(key);
        foreach (
            var (list, field) in new[]
            {
                ("channels", "key"),
                ("tags", "name"),
                ("recipes", "name"),
                ("agreed-values", "value"),
                ("code-styles", "name"),
            }
        )
        {
            (await Names(copy, list, field)).ShouldBe(await Names(browser, list, field), list);
            (await Names(copy, list, "id")).Intersect(await Names(browser, list, "id")).ShouldBeEmpty(list);
        }

        ((string)(await copy.Get("referrer-rules"))["items"]![0]!["channel"]!).ShouldBe("perch");
        ((string)(await copy.Get("handoff"))["line"]!).ShouldBe("One moment");
        var settings = await copy.Get("workspace");
        ((string)settings["name"]!, (string)settings["weekStart"]!, (string)settings["numberLanguage"]!).ShouldBe(
            ("Harbour Museum", "sunday", "de-DE")
        );
        foreach (var list in new[] { "links", "posts", "domains", "pixels", "campaigns" })
        {
            ((int)(await copy.Get(list))["total"]!).ShouldBe(0, list);
        }

        var recipe = (await copy.Get("recipes"))["items"]![0]!["content"]!;
        recipe["pixels"].ShouldBeNull();
        (await Names(copy, "members", "name")).ShouldBe(["Owner"]);
        ((string)(await copy.Get("audit"))["items"]![0]!["detail"]!).ShouldBe($"set up as “{world.Workspace.Name}”");
        ((int)(await browser.Get("links"))["total"]!).ShouldBe(2, "the one it was copied from is as before");
    }

    [Fact]
    public async Task Only_what_one_owns_is_copied()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        var browser = await OwnerOf(mine);
        await using var db = app.Database();
        var account = await db.Users.SingleAsync(a => a.Email == mine.OwnerEmail, Cancel);
        db.Add(
            new Member
            {
                WorkspaceId = other.Workspace.Id,
                AccountId = account.Id,
                Role = Role.Editor,
                CreatedAt = NodaTime.SystemClock.Instance.GetCurrentInstant(),
            }
        );
        await db.SaveChangesAsync(Cancel);
        (await browser.Post("workspaces", new { name = "Mine now", copyFrom = other.Workspace.Key })).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await browser.At(other.Workspace.Key).Post("workspaces", new { name = "Mine now" })).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    private async Task<Browser> OwnerOf(World world)
    {
        var browser = app.Mailing.NewBrowser();
        (await browser.SignIn(world.OwnerEmail, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        // As the application does: the CSRF cookie is there before the first change.
        (await browser.Session()).ShouldNotBeNull();
        return browser;
    }

    private static async Task<JsonNode> Make(Browser browser, object workspace)
    {
        var answer = await browser.Post("workspaces", workspace);
        answer.StatusCode.ShouldBe(HttpStatusCode.Created, await answer.Content.ReadAsStringAsync(Cancel));
        return await World.Read(answer);
    }

    private static async Task<List<string>> Names(Browser browser, string list, string field) =>
        [.. (await browser.Get($"{list}?limit=500"))["items"]!.AsArray().Select(i => (string)i![field]!).Order(StringComparer.Ordinal)];
}
