using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Links;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.Links;

/// <summary>A link is changed without fear: nothing is overwritten unseen, every version is kept, and no short address in the world goes
/// dead.</summary>
public class ChangeLinkTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Of_two_who_change_the_same_version_the_second_is_told_and_nothing_is_overwritten()
    {
        var (world, link) = await One("tide");
        var first = await Patch(world.Owner, link, new { title = "By the owner" }, seen: "\"1\"");
        first.StatusCode.ShouldBe(HttpStatusCode.OK);
        first.Headers.ETag!.Tag.ShouldBe("\"2\"");

        var second = await Patch(world.Editor, link, new { title = "By the editor" }, seen: "\"1\"");
        second.StatusCode.ShouldBe(HttpStatusCode.PreconditionFailed);
        ((string)(await World.Read(second))["detail"]!).ShouldStartWith(
            "Owner has changed this link since you opened it, so your changes were not saved."
        );
        ((string)(await world.Get(Path(link)))["title"]!).ShouldBe("By the owner");

        (await Patch(world.Editor, link, new { title = "By the editor" }, seen: "\"2\"")).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Patch(world.Editor, link, new { note = "by a program that looks at no version" })).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await world.Owner.SendAsync(WithSeen(HttpMethod.Delete, Path(link), "\"2\""), Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.PreconditionFailed
        );
    }

    [Fact]
    public async Task Of_many_who_change_the_same_version_in_one_moment_one_does()
    {
        var (world, link) = await One("race");
        var answers = await Task.WhenAll(
            Enumerable.Range(0, 12).Select(i => Patch(world.Editor, link, new { title = $"Runner {i}" }, seen: "\"1\""))
        );
        answers.Count(a => a.StatusCode == HttpStatusCode.OK).ShouldBe(1);
        answers.Count(a => a.StatusCode == HttpStatusCode.PreconditionFailed).ShouldBe(11);
        ((int)(await world.Get(Path(link)))["version"]!).ShouldBe(2);
        ((int)(await world.Get(Path(link) + "/history"))["total"]!).ShouldBe(2);
    }

    [Fact]
    public async Task A_link_that_was_made_for_another_channel_takes_its_clicks_along_and_comes_back_with_them()
    {
        var world = await World.Make(app);
        var link = (await world.Send(p => p["placements"]!.AsArray().RemoveAt(1)))["placements"]![0]!["link"]!;
        await world.Visit((string)link["slug"]!);
        (await ClicksOf("guildhall")).ShouldBe(1);

        await Patch(world.Editor, link, new { channel = "hearthside" });
        (await ClicksOf("hearthside"), await ClicksOf("guildhall")).ShouldBe((1, 0));
        var entry = (await world.Get(Path(link) + "/history"))["items"]![0]!;
        Told(entry["differences"]!.AsArray().Single()).ShouldBe("channel: Guildhall → Hearthside");
        ((string)(await world.Get(Path(link)))["source"]!).ShouldBe("guildhall", "what was recorded stays until somebody changes it");
        (await world.Editor.PostAsJsonAsync(Path(link) + "/restore", new { version = 1 }, Cancel)).EnsureSuccessStatusCode();
        (await ClicksOf("guildhall")).ShouldBe(1);

        async Task<int> ClicksOf(string channel) =>
            (await world.Breakdown("by=channel"))["rows"]!.AsArray().Where(r => (string)r!["key"]! == channel).Sum(r => (int)r!["clicks"]!);
    }

    [Fact]
    public async Task Placements_of_a_post_stay_apart_and_each_keeps_a_channel()
    {
        var world = await World.Make(app);
        var link = (await world.Send())["placements"]![0]!["link"]!;
        foreach (
            var (channel, told) in new[]
            {
                ("perch", "already has a link for this channel"),
                ("", "it needs a channel"),
                ("unheard-of", "no channel “unheard-of”"),
            }
        )
        {
            var refused = await Patch(world.Editor, link, new { channel, title = "Not saved" });
            refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            (await World.Read(refused))["errors"]!["channel"]!
                .ToJsonString(new() { Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping })
                .ShouldContain(told);
        }

        ((string)(await world.Get(Path(link)))["title"]!).ShouldBe("Geminids night");
        var single = await World.Read(
            await world.Editor.PostAsJsonAsync(
                "/api/v1/links",
                new
                {
                    destination = "https://northmoor.example/alone",
                    channel = "perch",
                    campaign = "winter-members",
                },
                Cancel
            )
        );
        ((string?)(await World.Read(await Patch(world.Editor, single, new { channel = "" })))["channel"]).ShouldBeNull();
    }

    [Fact]
    public async Task The_default_wait_is_stored_as_if_it_had_never_been_set()
    {
        var (world, link) = await One("waiting");
        await Patch(world.Editor, link, new { options = new { handoffDeadline = 300 } });
        ((int?)(await world.Get(Path(link)))["options"]!["handoffDeadline"]).ShouldBe(300);
        await Patch(world.Editor, link, new { options = new { handoffDeadline = 800 } });
        ((int?)(await world.Get(Path(link)))["options"]!["handoffDeadline"]).ShouldBeNull();
    }

    [Fact]
    public async Task An_earlier_short_address_leads_on_after_the_link_got_another()
    {
        var (world, link) = await One("spring");
        var changed = await World.Read(await Patch(world.Editor, link, new { slug = "Spring-2026" }));
        ((string)changed["shortUrl"]!).ShouldEndWith("/Spring-2026");
        changed["aliases"]!.AsArray().Select(a => (string)a!).ShouldBe([(string)link["shortUrl"]!]);
        foreach (var slug in new[] { "spring", "SPRING", "spring-2026" })
        {
            (await world.Visit(slug)).Headers.Location!.ToString().ShouldBe((string)changed["finalUrl"]!);
        }

        await Patch(world.Editor, link, new { destination = "northmoor.example/summer" });
        (await world.Visit("spring")).Headers.Location!.ToString().ShouldStartWith("https://northmoor.example/summer");
        await app.Shipped();
        ((int)(await world.Get(Path(link)))["clicks"]!).ShouldBe(4);
        (await world.Get("/api/v1/links?query=spring"))["items"]!.AsArray().Count.ShouldBe(1);

        (await world.Owner.DeleteAsync(Path(link), Cancel)).EnsureSuccessStatusCode();
        (await world.Visit("spring")).StatusCode.ShouldBe(HttpStatusCode.Gone);
    }

    [Fact]
    public async Task An_earlier_short_address_is_given_to_no_other_link_but_back_to_its_own()
    {
        var (world, link) = await One("harbour");
        await Patch(world.Editor, link, new { slug = "port" });
        (
            await world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = "northmoor.example/b", slug = "Harbour" }, Cancel)
        ).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        var other = await Make(world, "quay");
        (await Patch(world.Editor, other, new { slug = "harbour" })).StatusCode.ShouldBe(HttpStatusCode.Conflict);

        var back = await World.Read(await Patch(world.Editor, link, new { slug = "harbour" }));
        back["aliases"]!.AsArray().Select(a => ((string)a!).Split('/')[^1]).ShouldBe(["port"]);
        (await world.Visit("harbour")).StatusCode.ShouldBe(HttpStatusCode.Found);
        (await world.Visit("port")).StatusCode.ShouldBe(HttpStatusCode.Found);
    }

    [Fact]
    public async Task The_database_itself_keeps_slugs_and_earlier_addresses_apart()
    {
        var (world, link) = await One("lantern");
        await Patch(world.Editor, link, new { slug = "lamp" });
        await using var db = app.Database();
        var kept = await db.Links.AsNoTracking().SingleAsync(l => l.SlugKey == "lamp" && l.WorkspaceId == world.Workspace.Id, Cancel);
        async Task Refused(object row)
        {
            await using var second = app.Database();
            second.Add(row);
            (await Should.ThrowAsync<DbUpdateException>(() => second.SaveChangesAsync(Cancel)))
                .InnerException.ShouldBeOfType<Npgsql.PostgresException>()
                .SqlState.ShouldBe("23505");
        }

        await Refused(
            new Link
            {
                WorkspaceId = world.Workspace.Id,
                DomainId = kept.DomainId,
                Slug = "lantern",
                SlugKey = "lantern",
                Title = "x",
                Destination = "https://a.example",
                FinalUrl = "https://a.example",
            }
        );
        await Refused(
            new LinkAlias
            {
                LinkId = kept.Id,
                DomainId = kept.DomainId,
                Slug = "lamp",
                SlugKey = "lamp",
            }
        );
        await Refused(
            new LinkAlias
            {
                LinkId = kept.Id,
                DomainId = kept.DomainId,
                Slug = "Lantern",
                SlugKey = "lantern",
            }
        );
    }

    [Fact]
    public async Task The_history_tells_who_changed_what_and_how_many_went_to_each_destination()
    {
        var (world, link) = await One("meteor");
        await world.Visit("meteor");
        await world.Visit("meteor");
        await Patch(world.Owner, link, new { destination = "northmoor.example/second", tags = new[] { "event" } });
        await world.Visit("meteor");
        await Patch(world.Editor, link, new { title = "Meteor" });
        await Patch(world.Editor, link, new { title = "Meteor" });
        await app.Shipped();

        var history = (await world.Get(Path(link) + "/history"))["items"]!.AsArray();
        history
            .Select(v => $"{v!["version"]} {v["madeBy"]} {v["clicks"]} {new Uri((string)v["finalUrl"]!).AbsolutePath}")
            .ShouldBe(["3 Editor 0 /second", "2 Owner 1 /second", "1 Editor 2 /meteor"]);
        history[0]!["differences"]!.AsArray().Select(Told).ShouldBe(["title: One → Meteor"]);
        history[1]!["differences"]!
            .AsArray()
            .Select(Told)
            .ShouldBe(["destination: northmoor.example/meteor → northmoor.example/second", "tags:  → event"]);
        history[2]!["differences"]!.AsArray().ShouldBeEmpty();
        history[0]!["until"].ShouldBeNull();
        ((string)history[1]!["until"]!).ShouldBe((string)history[0]!["since"]!);
    }

    [Fact]
    public async Task Any_version_is_restored_whole_and_what_came_after_it_is_kept()
    {
        var (world, link) = await One("comet");
        await Patch(
            world.Editor,
            link,
            new
            {
                tags = new[] { "event" },
                note = "first",
                slug = "comet-a",
            }
        );
        var second = await world.Get(Path(link));
        await Patch(
            world.Editor,
            link,
            new
            {
                tags = Array.Empty<string>(),
                note = "",
                slug = "comet-b",
                destination = "northmoor.example/elsewhere",
                redirect = 301,
                isArchived = true,
            }
        );
        (await Patch(world.Owner, link, new { title = "Seen" }, seen: "\"3\"")).StatusCode.ShouldBe(HttpStatusCode.OK);

        var old = WithSeen(HttpMethod.Post, Path(link) + "/restore", "\"3\"");
        old.Content = JsonContent.Create(new { version = 2 });
        (await world.Editor.SendAsync(old, Cancel)).StatusCode.ShouldBe(HttpStatusCode.PreconditionFailed);
        (await world.Editor.PostAsJsonAsync(Path(link) + "/restore", new { version = 9 }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        var restored = await World.Read(await world.Editor.PostAsJsonAsync(Path(link) + "/restore", new { version = 2 }, Cancel));
        foreach (var same in new[] { "shortUrl", "title", "destination", "finalUrl", "note", "redirect", "tags", "archivedAt" })
        {
            restored[same]?.ToJsonString().ShouldBe(second[same]?.ToJsonString(), same);
        }

        ((int)restored["version"]!).ShouldBe(5);
        restored["aliases"]!.AsArray().Select(a => ((string)a!).Split('/')[^1]).Order(StringComparer.Ordinal).ShouldBe(["comet", "comet-b"]);
        (await world.Visit("comet-b")).StatusCode.ShouldBe(HttpStatusCode.Found);
        ((int)(await world.Get(Path(link) + "/history"))["total"]!).ShouldBe(5);
    }

    [Fact]
    public async Task An_archived_link_leads_on_though_it_is_out_of_the_lists()
    {
        var (world, link) = await One("relic");
        await Patch(world.Editor, link, new { isArchived = true });
        (await world.Visit("relic")).StatusCode.ShouldBe(HttpStatusCode.Found);
        async Task<int> Total(string state) => (int)(await world.Get($"/api/v1/links?query=relic&state={state}"))["total"]!;
        (await Total("live"), await Total("archived"), await Total("all"), await Total("deleted")).ShouldBe((0, 1, 1, 0));
        await Patch(world.Editor, link, new { isArchived = false });
        (await Total("live"), await Total("archived")).ShouldBe((1, 0));
    }

    [Fact]
    public async Task A_deleted_link_comes_back_with_its_history()
    {
        var (world, link) = await One("phoenix");
        (await world.Editor.DeleteAsync(Path(link), Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await world.Visit("phoenix")).StatusCode.ShouldBe(HttpStatusCode.Gone);
        (await world.Editor.PostAsync(Path(link) + "/revive", null, Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await world.Visit("phoenix")).StatusCode.ShouldBe(HttpStatusCode.Found);
        (await world.Get(Path(link) + "/history"))["items"]!
            .AsArray()
            .SelectMany(v => v!["differences"]!.AsArray().Select(Told))
            .ShouldBe(["deleted: yes → ", "deleted:  → yes"]);
    }

    [Fact]
    public async Task A_copy_is_like_the_link_in_all_but_its_address_and_clicks()
    {
        var world = await World.Make(app);
        var post = await world.Send(p => p["tags"] = new JsonArray("event"));
        var link = post["placements"]![0]!["link"]!;
        await Patch(
            world.Editor,
            link,
            new
            {
                note = "for the shop",
                options = new { hideFromSearch = true, anchorText = "come" },
                redirect = 307,
                content = "button",
            }
        );
        await world.Visit((string)link["slug"]!);
        await app.Shipped();
        var (original, made) = (
            await world.Get(Path(link)),
            await world.Editor.PostAsJsonAsync(Path(link) + "/copy", new { slug = "second-one" }, Cancel)
        );
        made.StatusCode.ShouldBe(HttpStatusCode.Created);
        var copy = await World.Read(made);
        foreach (
            var same in new[]
            {
                "title",
                "destination",
                "finalUrl",
                "source",
                "medium",
                "campaign",
                "content",
                "channel",
                "redirect",
                "tags",
                "options",
                "note",
                "domain",
            }
        )
        {
            copy[same]?.ToJsonString().ShouldBe(original[same]?.ToJsonString(), same);
        }

        ((string)copy["slug"]!, (int)copy["clicks"]!, copy["post"]).ShouldBe(("second-one", 0, null));
        (await world.Editor.PostAsJsonAsync(Path(link) + "/copy", new { slug = "second-one" }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task All_redirects_of_a_domain_are_taken_away_for_another_server()
    {
        var (world, link) = await One("beacon");
        await Patch(world.Editor, link, new { slug = "Lighthouse" });
        var gone = await Make(world, "wreck");
        await world.Editor.DeleteAsync(Path(gone), Cancel);
        var domain = (string)(await world.Get("/api/v1/domains"))["items"]![0]!["id"]!;
        var map = await world.Viewer.GetStringAsync($"/api/v1/domains/{domain}/redirects?form=apache", Cancel);
        map.Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Where(l => !l.StartsWith('#'))
            .ShouldBe(["/beacon https://northmoor.example/beacon", "/lighthouse https://northmoor.example/beacon"]);
        (await world.Viewer.GetStringAsync($"/api/v1/domains/{domain}/redirects", Cancel)).ShouldContain(
            "  /lighthouse \"https://northmoor.example/beacon\";\n"
        );
        using var zip = new System.IO.Compression.ZipArchive(
            await world.Viewer.GetStreamAsync($"/api/v1/domains/{domain}/redirects?form=pages", Cancel)
        );
        zip.Entries.Select(e => e.FullName).ShouldContain("LIGHTHOUSE/1/index.html");
        (await world.Viewer.GetAsync($"/api/v1/domains/{domain}/redirects?form=round", Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    private async Task<(World World, JsonNode Link)> One(string slug)
    {
        var world = await World.Make(app);
        return (world, await Make(world, slug));
    }

    private static async Task<JsonNode> Make(World world, string slug)
    {
        var made = await world.Editor.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination = $"northmoor.example/{slug}",
                slug,
                title = "One",
            },
            Cancel
        );
        made.StatusCode.ShouldBe(HttpStatusCode.Created);
        return await World.Read(made);
    }

    private static string Path(JsonNode link) => $"/api/v1/links/{link["id"]}";

    private static string Told(JsonNode? difference) => $"{difference!["field"]}: {difference["from"]} → {difference["to"]}";

    private static Task<HttpResponseMessage> Patch(HttpClient client, JsonNode link, object body, string? seen = null)
    {
        var request = seen is null ? new HttpRequestMessage(HttpMethod.Patch, Path(link)) : WithSeen(HttpMethod.Patch, Path(link), seen);
        request.Content = JsonContent.Create(body);
        return client.SendAsync(request, Cancel);
    }

    private static HttpRequestMessage WithSeen(HttpMethod method, string path, string seen)
    {
        var request = new HttpRequestMessage(method, path);
        request.Headers.IfMatch.Add(EntityTagHeaderValue.Parse(seen));
        return request;
    }
}
