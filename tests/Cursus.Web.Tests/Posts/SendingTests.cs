using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.Posts;

public class SendingTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_post_to_four_channels_makes_four_links_that_work_at_the_very_next_request()
    {
        var world = await World.Make(app);
        var post = await world.Send(p =>
            p["placements"] = JsonNode.Parse(
                """
                [{"channel":"guildhall"},{"channel":"perch","slug":"GEMINIDS"},{"channel":"night-letter","variant":"logo"},{"channel":"night-letter","variant":"button","medium":"newsletter"}]
                """
            )
        );

        var locations = new List<string>();
        foreach (var placement in post["placements"]!.AsArray())
        {
            var visit = await world.Visit((string)placement!["link"]!["slug"]!);
            visit.StatusCode.ShouldBe(HttpStatusCode.Found);
            locations.Add(visit.Headers.Location!.OriginalString);
            locations[^1].ShouldBe((string)placement["link"]!["finalUrl"]!);
        }

        const string Page = "https://www.northmoor.example/events/geminids-night?lang=en&";
        locations.ShouldBe([
            Page + "utm_source=guildhall&utm_medium=social&utm_campaign=winter-members#top",
            Page + "utm_source=perch&utm_medium=social&utm_campaign=winter-members#top",
            Page + "utm_source=night-letter&utm_medium=email&utm_campaign=winter-members&utm_content=logo#top",
            Page + "utm_source=night-letter&utm_medium=newsletter&utm_campaign=winter-members&utm_content=button#top",
        ]);
    }

    [Fact]
    public async Task The_answer_holds_what_was_entered_and_what_was_made()
    {
        var world = await World.Make(app);
        var post = await world.Send(p => p["tags"] = new JsonArray("event", "members", "Event"));
        var link = post["placements"]![0]!["link"]!;
        ((string)link["destination"]!).ShouldBe("https://www.northmoor.example/events/geminids-night?lang=en#top");
        ((string)link["shortUrl"]!).ShouldBe($"http://{world.Domain}/{link["slug"]}");
        (link["source"] + " " + link["medium"] + " " + link["campaign"]).ShouldBe("guildhall social winter-members");
        link["tags"]!.AsArray().Select(t => (string)t!).ShouldBe(["event", "members"]);
        ((int)link["redirect"]!, (long)link["clicks"]!).ShouldBe((302, 0));
        ((string)link["slug"]!).Length.ShouldBe(6);
    }

    [Fact]
    public async Task A_taken_slug_saves_nothing_and_offers_three_free_ones()
    {
        var world = await World.Make(app);
        await world.Send(p =>
            p["placements"] = JsonNode.Parse("""[{"channel":"guildhall","slug":"geminids"},{"channel":"hearthside","slug":"geminids-perch"}]""")
        );
        var before = await Counts(world);

        var refused = await world.Editor.PostAsJsonAsync(
            "/api/v1/posts",
            World.Post(p => p["placements"] = JsonNode.Parse("""[{"channel":"guildhall"},{"channel":"perch","slug":"Geminids"}]""")),
            Cancel
        );

        refused.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        var problem = await World.Read(refused);
        ((string)problem["code"]!).ShouldBe("slug-taken");
        problem["errors"]!["placements[1].slug"].ShouldNotBeNull();
        var alternatives = problem["alternatives"]!.AsArray().Select(a => (string)a!).ToList();
        alternatives.ShouldBe(["geminids-night-perch", "Geminids-26", "Geminids-2"]);
        (await Counts(world)).ShouldBe(before);
        foreach (var slug in alternatives)
        {
            await world.Send(p => p["placements"] = new JsonArray(new JsonObject { ["channel"] = "perch", ["slug"] = slug }));
        }
    }

    [Fact]
    public async Task Two_rows_that_want_the_same_slug_are_refused_together()
    {
        var world = await World.Make(app);
        var refused = await world.Editor.PostAsJsonAsync(
            "/api/v1/posts",
            World.Post(p => p["placements"] = JsonNode.Parse("""[{"channel":"guildhall","slug":"same"},{"channel":"perch","slug":"SAME"}]""")),
            Cancel
        );
        refused.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await Counts(world)).ShouldBe((0, 0));
    }

    [Fact]
    public async Task Of_many_who_want_the_same_slug_at_once_exactly_one_gets_it()
    {
        var world = await World.Make(app);
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(_ =>
                    world.Editor.PostAsJsonAsync(
                        "/api/v1/posts",
                        World.Post(p => p["placements"] = JsonNode.Parse("""[{"channel":"guildhall","slug":"race"},{"channel":"perch"}]""")),
                        Cancel
                    )
                )
        );
        answers.Count(a => a.StatusCode == HttpStatusCode.Created).ShouldBe(1);
        answers.Count(a => a.StatusCode == HttpStatusCode.Conflict).ShouldBe(7);
        (await Counts(world)).ShouldBe((1, 2));
    }

    [Theory]
    [InlineData("""{"destination":"javascript:alert(1)"}""", "destination", "destination-scheme")]
    [InlineData("""{"destination":"https://a:b@northmoor.example/"}""", "destination", "destination-credentials")]
    [InlineData("""{"destination":null}""", "destination", "destination-missing")]
    [InlineData("""{"campaign":"unheard-of"}""", "campaign", "campaign-unknown")]
    [InlineData("""{"campaign":null}""", "campaign", "campaign-missing")]
    [InlineData("""{"title":"  "}""", "title", "title")]
    [InlineData("""{"domain":"elsewhere.example"}""", "domain", "domain-unknown")]
    [InlineData("""{"redirect":303}""", "redirect", "redirect")]
    [InlineData("""{"placements":[]}""", "placements", "placements")]
    [InlineData("""{"placements":null}""", "placements", "placements")]
    [InlineData("""{"placements":[{"channel":"gilde"}]}""", "placements[0].channel", "channel-unknown")]
    [InlineData("""{"placements":[{"channel":"perch"},{"channel":"perch"}]}""", "placements[1].variant", "variant-twice")]
    [InlineData("""{"placements":[{"channel":"perch","slug":"robots.txt"}]}""", "placements[0].slug", "slug-reserved")]
    [InlineData("""{"placements":[{"channel":"perch","slug":"two words"}]}""", "placements[0].slug", "slug-characters")]
    [InlineData("""{"placements":[{"channel":"perch","source":" "}]}""", "placements[0].source", "tag-missing")]
    [InlineData("""{"pixels":["0199e0a0-0000-7000-8000-000000000000"]}""", "pixels", "pixel-unknown")]
    public async Task Bad_input_is_told_at_its_field_and_saves_nothing(string change, string field, string code)
    {
        var world = await World.Make(app);
        var refused = await world.Editor.PostAsJsonAsync(
            "/api/v1/posts",
            World.Post(p =>
            {
                foreach (var (name, value) in JsonNode.Parse(change)!.AsObject())
                {
                    p[name] = value?.DeepClone();
                }
            }),
            Cancel
        );

        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        refused.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        var problem = await World.Read(refused);
        ((string)problem["code"]!).ShouldBe(code);
        ((string)problem["errors"]![field]![0]!).Length.ShouldBeGreaterThan(10);
        (await Counts(world)).ShouldBe((0, 0));
    }

    [Fact]
    public async Task An_address_that_leads_back_to_an_own_short_domain_is_refused()
    {
        var world = await World.Make(app);
        var refused = await world.Editor.PostAsJsonAsync(
            "/api/v1/posts",
            World.Post(p => p["destination"] = $"http://{world.Domain.ToUpperInvariant()}/loop"),
            Cancel
        );
        ((string)(await World.Read(refused))["code"]!).ShouldBe("destination-loop");
    }

    [Theory]
    [InlineData("{", "application/json", HttpStatusCode.BadRequest)]
    [InlineData("[1,2]", "application/json", HttpStatusCode.UnprocessableEntity)]
    [InlineData("""{"title":{"a":1}}""", "application/json", HttpStatusCode.UnprocessableEntity)]
    [InlineData("", "application/json", HttpStatusCode.UnprocessableEntity)]
    [InlineData("title=x", "application/x-www-form-urlencoded", HttpStatusCode.UnsupportedMediaType)]
    public async Task A_body_that_is_not_the_JSON_expected_is_told_so(string body, string type, HttpStatusCode status)
    {
        var world = await World.Make(app);
        var refused = await world.Editor.PostAsync("/api/v1/posts", new StringContent(body, Encoding.UTF8, type), Cancel);
        refused.StatusCode.ShouldBe(status);
        ((string?)(await World.Read(refused))["code"]).ShouldNotBeNull();
    }

    [Fact]
    public async Task A_repeated_request_with_the_same_key_makes_nothing_twice()
    {
        var world = await World.Make(app);
        async Task<HttpResponseMessage> Post(string title) =>
            await world.Editor.SendAsync(
                new HttpRequestMessage(HttpMethod.Post, "/api/v1/posts")
                {
                    Content = JsonContent.Create(World.Post(p => p["title"] = title)),
                    Headers = { { "Idempotency-Key", "one" } },
                },
                Cancel
            );

        var first = await Post("Geminids");
        var second = await Post("Geminids");
        var other = await Post("Another request");

        second.StatusCode.ShouldBe(HttpStatusCode.Created);
        (await World.Read(second)).ToJsonString().ShouldBe((await World.Read(first)).ToJsonString());
        ((string)(await World.Read(other))["code"]!).ShouldBe("idempotency-mismatch");
        (await Counts(world)).ShouldBe((1, 2));
    }

    [Fact]
    public async Task The_preview_proposes_free_readable_slugs_and_saves_nothing()
    {
        var world = await World.Make(app);
        await world.Send(p => p["placements"] = JsonNode.Parse("""[{"channel":"guildhall","slug":"geminids-night-guildhall"}]"""));
        var before = await Counts(world);

        var response = await world.Editor.PostAsJsonAsync("/api/v1/posts/preview", World.Post(p => p["title"] = null), Cancel);
        var preview = await World.Read(response);

        ((string)preview["proposedTitle"]!).ShouldBe("Geminids night");
        preview["placements"]!
            .AsArray()
            .Select(p => (string)p!["slug"]!)
            .ShouldBe([$"geminids-night-guildhall-{DateTime.UtcNow:yy}", "geminids-night-perch"]);
        ((string)preview["placements"]![1]!["finalUrl"]!).ShouldEndWith("utm_source=perch&utm_medium=social&utm_campaign=winter-members#top");
        (await Counts(world)).ShouldBe(before);
    }

    [Fact]
    public async Task One_link_without_a_post_can_be_plain_or_tagged_but_not_half_tagged()
    {
        var world = await World.Make(app);
        async Task<JsonNode> Make(string body) =>
            await World.Read(await world.Editor.PostAsync("/api/v1/links", new StringContent(body, Encoding.UTF8, "application/json"), Cancel));

        ((string)(await Make("""{"destination":"northmoor.example/shop"}"""))["finalUrl"]!).ShouldBe("https://northmoor.example/shop");
        ((string)(await Make("""{"destination":"northmoor.example/shop","channel":"perch","campaign":"winter-members"}"""))["finalUrl"]!).ShouldBe(
            "https://northmoor.example/shop?utm_source=perch&utm_medium=social&utm_campaign=winter-members"
        );
        (await Make("""{"destination":"northmoor.example/shop","channel":"perch"}"""))["errors"]!["campaign"].ShouldNotBeNull();
        (await Make("""{"destination":"northmoor.example/shop","content":"logo"}"""))["errors"]!["content"].ShouldNotBeNull();
    }

    private async Task<(int Posts, int Links)> Counts(World world)
    {
        await using var db = app.Database();
        return (
            await db.Posts.CountAsync(p => p.WorkspaceId == world.Workspace.Id, Cancel),
            await db.Links.CountAsync(l => l.WorkspaceId == world.Workspace.Id, Cancel)
        );
    }
}
