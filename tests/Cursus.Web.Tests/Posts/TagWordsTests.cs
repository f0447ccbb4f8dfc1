using System.Net;
using System.Net.Http.Json;

namespace Cursus.Web.Tests.Posts;

/// <summary>One vocabulary: slips are caught while typing, and those in use are merged without losing what was recorded.</summary>
public class TagWordsTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_slip_is_pointed_out_while_typing_and_taken_all_the_same()
    {
        var world = await World.Make(app);
        var preview = await World.Read(
            await world.Editor.PostAsJsonAsync(
                "/api/v1/posts/preview",
                World.Post(p =>
                {
                    p["placements"]![0]!["medium"] = "Socail";
                    p["placements"]![1]!["source"] = "PERCH";
                }),
                Cancel
            )
        );
        preview["placements"]![0]!["hints"]!.ToJsonString().ShouldBe("""[{"field":"medium","value":"Socail","agreed":"social","kind":"typo"}]""");
        preview["placements"]![1]!["hints"]!.ToJsonString().ShouldBe("""[{"field":"source","value":"PERCH","agreed":"perch","kind":"spelling"}]""");
        preview["errors"]!.AsObject().Count.ShouldBe(0);
    }

    [Fact]
    public async Task A_locked_vocabulary_takes_agreed_values_from_editors_and_anything_from_owners()
    {
        var world = await World.Make(app);
        (await world.Editor.PatchAsJsonAsync("/api/v1/workspace", new { isVocabularyLocked = true }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { isVocabularyLocked = true }, Cancel)).EnsureSuccessStatusCode();
        var odd = World.Post(p => p["placements"]![0]!["source"] = "guildhal");
        var refused = await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/posts", odd, Cancel));
        ((string)refused["errors"]!["placements[0].source"]![0]!).ShouldEndWith("Did you mean “guildhall”?");
        (await world.Owner.PostAsJsonAsync("/api/v1/posts", odd.DeepClone(), Cancel)).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await world.Editor.PostAsJsonAsync("/api/v1/posts", World.Post(), Cancel)).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await world.Editor.PostAsJsonAsync("/api/v1/campaigns", new { name = "Spring" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (
            await world.Editor.PostAsJsonAsync(
                "/api/v1/links",
                new
                {
                    destination = "northmoor.example",
                    campaign = "winter-members",
                    source = "x",
                    medium = "social",
                },
                Cancel
            )
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task Lists_are_taken_line_by_line_and_bad_lines_are_reported()
    {
        var world = await World.Make(app);
        var lines = "\ufeffContent\r\nlogo\r\n\"button\"\r\n\r\nlogo\r\n" + new string('x', 151) + "\r\npicture;";
        var taken = await World.Read(
            await world.Owner.PostAsJsonAsync("/api/v1/agreed-values/lines", new { field = "content", text = lines }, Cancel)
        );
        ((int)taken["added"]!).ShouldBe(3);
        taken["problems"]!.AsArray().Select(p => (int)p!["line"]!).ShouldBe([5, 6]);
        ((string)taken["problems"]![0]!["reason"]!).ShouldBe("Line 2 has the same value.");
        (await world.Get("/api/v1/agreed-values"))["items"]!.AsArray().Select(v => (string)v!["value"]!).ShouldBe(["button", "logo", "picture"]);

        var preview = await World.Read(
            await world.Editor.PostAsJsonAsync("/api/v1/posts/preview", World.Post(p => p["placements"]![0]!["variant"] = "Logo"), Cancel)
        );
        ((string)preview["placements"]![0]!["hints"]![0]!["agreed"]!).ShouldBe("logo");
    }

    [Fact]
    public async Task A_merge_counts_both_as_one_sends_the_agreed_value_and_can_be_taken_back()
    {
        var world = await World.Make(app);
        var odd = await world.Send(p => p["placements"]![0]!["source"] = "Guild-Hall");
        var even = await world.Send();
        await world.Visit(World.Slug(odd, 0));
        await world.Visit(World.Slug(even, 0), r => r.Headers.UserAgent.ParseAdd("Second/1"));
        await app.Shipped();

        var suspicion = (await world.Get("/api/v1/tag-suspicions"))[0]!;
        (
            suspicion["field"]!.ToString(),
            suspicion["from"]!["value"]!.ToString(),
            suspicion["into"]!["value"]!.ToString(),
            (long)suspicion["from"]!["clicks"]!
        ).ShouldBe(("source", "Guild-Hall", "guildhall", 1));

        var answer = await world.Owner.PostAsJsonAsync(
            "/api/v1/tag-merges",
            new
            {
                field = "source",
                from = "Guild-Hall",
                into = "guildhall",
            },
            Cancel
        );
        var merge = await World.Read(answer);
        ((int)merge["links"]!).ShouldBe(1);
        (await world.Visit(World.Slug(odd, 0))).Headers.Location!.Query.ShouldContain("utm_source=guildhall");
        (await Sources(world)).ShouldBe("guildhall 3, perch 0");
        ((string)(await world.Get($"/api/v1/links/{odd["placements"]![0]!["link"]!["id"]}"))["source"]!).ShouldBe(
            "Guild-Hall",
            "what was recorded stays"
        );
        (await world.Get("/api/v1/tag-suspicions")).AsArray().ShouldBeEmpty();
        ((int)(await world.Breakdown("by=link&source=guildhall"))["total"]!["clicks"]!).ShouldBe(3);

        // Later links are sent under the agreed value from the start.
        var late = await world.Send(p => p["placements"]![0]!["source"] = "Guild-Hall");
        ((string)late["placements"]![0]!["link"]!["finalUrl"]!).ShouldContain("utm_source=guildhall");
        (
            await world.Owner.PostAsJsonAsync(
                "/api/v1/tag-merges",
                new
                {
                    field = "source",
                    from = "guildhall",
                    into = "gh",
                },
                Cancel
            )
        ).StatusCode.ShouldBe(HttpStatusCode.Conflict);

        (await world.Owner.DeleteAsync($"/api/v1/tag-merges/{merge["id"]}", Cancel)).EnsureSuccessStatusCode();
        (await world.Visit(World.Slug(odd, 0))).Headers.Location!.Query.ShouldContain("utm_source=Guild-Hall");
        (await Sources(world)).ShouldBe("Guild-Hall 3, guildhall 1, perch 0");
    }

    [Fact]
    public async Task Two_campaigns_are_merged_in_reports_and_addresses()
    {
        var world = await World.Make(app);
        (
            await world.Owner.PostAsJsonAsync(
                "/api/v1/campaigns",
                new
                {
                    name = "Winter Members",
                    key = "Winter-Members",
                    evenSo = true,
                },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        var odd = await world.Send(p => p["campaign"] = "Winter-Members");
        await world.Visit(World.Slug(odd, 0));
        (
            await world.Owner.PostAsJsonAsync(
                "/api/v1/tag-merges",
                new
                {
                    field = "campaign",
                    from = "Winter-Members",
                    into = "winter-members",
                },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        (await world.Visit(World.Slug(odd, 0))).Headers.Location!.Query.ShouldContain("utm_campaign=winter-members");
        var report = await world.Breakdown("by=campaign");
        report["rows"]!.AsArray().Select(r => $"{r!["key"]} {r["label"]} {r["clicks"]}").ShouldBe(["winter-members Winter members 2"]);
    }

    [Fact]
    public async Task A_campaign_in_another_spelling_is_asked_about_and_the_next_of_a_series_is_proposed()
    {
        var world = await World.Make(app);
        var similar = await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/campaigns", new { name = "Wintermembers" }, Cancel));
        (similar["code"]!.ToString(), similar["similar"]!["key"]!.ToString()).ShouldBe(("campaign-similar", "winter-members"));
        (await world.Editor.PostAsJsonAsync("/api/v1/campaigns", new { name = "Wintermembers", evenSo = true }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Created
        );

        foreach (var part in new[] { "Moon course {part}", "Moon course {part}" })
        {
            (await world.Editor.PostAsJsonAsync("/api/v1/campaigns", new { name = part }, Cancel)).EnsureSuccessStatusCode();
        }

        var proposals = await world.Get("/api/v1/campaigns/proposals?name=" + Uri.EscapeDataString("Été {yyyy}"));
        proposals["next"]![0]!.ToJsonString().ShouldBe("""{"name":"Moon course 3","key":"moon-course-3"}""");
        proposals["typed"]!["key"]!.ToString().ShouldStartWith("ete-20");
    }

    private static async Task<string> Sources(World world) =>
        string.Join(", ", (await world.Breakdown("by=source"))["rows"]!.AsArray().Select(r => $"{r!["key"]} {r["clicks"]}"));
}
