using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Addresses;
using NodaTime;
using static Cursus.Web.Tests.Batches.BatchSteps;

namespace Cursus.Web.Tests.Batches;

/// <summary>Links that were made with another program move in: with slugs, groups, days and click totals, and without touching what is here unless
/// somebody chose so.</summary>
public class ListsFromElsewhereTests(CursusApp app)
{
    private const string Header = "Short URL,Long URL,Name,Group,Labels,Created,Total clicks,Redirect type\n";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static string Old(World world) =>
        Header
        + $"""
            https://{world.Domain}/Night-Walk,https://northmoor.example/night-walk,Night walk,Events,"walk, night",24/06/2023,"1,204",301
            https://{world.Domain}/dome,https://northmoor.example/dome,The dome,Visits,,02/11/2022 18:20,318,found
            """;

    [Fact]
    public async Task An_old_list_brings_its_slugs_days_groups_tags_and_click_totals()
    {
        var world = await World.Make(app);
        var batch = await Upload(world, Old(world));
        var preview = await Preview(world, batch, new { });
        ((int)preview["links"]!, (int)preview["goodLines"]!, preview["newFolders"]!.ToJsonString()).ShouldBe((2, 2, "[\"Events\",\"Visits\"]"));
        (await world.Get("/api/v1/folders"))["total"]!.ToString().ShouldBe("0", "a preview makes nothing");

        await Made(world, batch, new { });
        var walk = await LinkOf(world, "Night-Walk");
        ((string)walk["createdAt"]!, (string)walk["folder"]!, walk["tags"]!.ToJsonString(), (int)walk["redirect"]!).ShouldBe(
            ("2023-06-23T23:00:00Z", "Events", "[\"night\",\"walk\"]", 301)
        );
        ((string)(await LinkOf(world, "dome"))["createdAt"]!).ShouldBe(
            "2022-11-02T18:20:00Z",
            "the second day tells nothing alone, but the first does for all"
        );
        (await world.Visit("night-walk")).Headers.Location!.ToString().ShouldBe("https://northmoor.example/night-walk");
    }

    [Fact]
    public async Task Imported_clicks_stand_beside_the_counted_ones_and_are_part_of_no_figure()
    {
        var world = await World.Make(app);
        await Made(world, await Upload(world, Old(world)), new { });
        await world.Visit("dome");
        var total = await world.Breakdown("by=link");
        ((int)total["total"]!["clicks"]!).ShouldBe(1);
        var dome = await LinkOf(world, "dome");
        ((int)dome["clicks"]!, (int)dome["broughtAlong"]!, (string)dome["state"]!).ShouldBe((1, 318, "live"));
        ((string)(await LinkOf(world, "Night-Walk"))["state"]!).ShouldBe("never-clicked");
        (await world.Get("/api/v1/links?sort=clicks"))["items"]!.AsArray().Select(l => (string)l!["slug"]!).ShouldBe(["dome", "Night-Walk"]);

        var taken = await (
            await world.Viewer.PostAsJsonAsync("/api/v1/links/files", new { links = new { filter = new { } } }, Cancel)
        ).Content.ReadAsStringAsync(Cancel);
        taken.Split("\r\n").Single(l => l.Contains("/dome", StringComparison.Ordinal)).ShouldContain(",318,,,");
    }

    [Fact]
    public async Task Links_that_ended_elsewhere_have_ended_here_and_a_last_day_is_whole()
    {
        var world = await World.Make(app);
        var batch = await Upload(
            world,
            $"Short URL,Long URL,Starts,Expires\nhttps://{world.Domain}/sale,https://northmoor.example/sale,01/02/2023,24/06/2023\nhttps://{world.Domain}/dome,https://northmoor.example/dome,,\n"
        );
        await Made(world, batch, new { });
        var sale = await LinkOf(world, "sale");
        ((string)sale["opensAt"]!, (string)sale["endsAt"]!, (string)sale["state"]!).ShouldBe(
            ("2023-02-01T00:00:00Z", "2023-06-24T23:00:00Z", "ended")
        );
        (await LinkOf(world, "dome"))["endsAt"].ShouldBeNull();
        (await world.Editor.GetStringAsync($"/api/v1/batches/{batch["id"]}/result.csv", Cancel)).ShouldContain(",2023-06-25");
        (await world.Visit("sale")).StatusCode.ShouldBe(HttpStatusCode.Gone);
    }

    [Fact]
    public async Task Groups_become_tags_where_that_is_chosen()
    {
        var world = await World.Make(app);
        await Made(world, await Upload(world, Old(world)), new { choices = new { groups = "tags" } });
        var walk = await LinkOf(world, "Night-Walk");
        (walk["folder"] is null, walk["tags"]!.ToJsonString()).ShouldBe((true, "[\"Events\",\"night\",\"walk\"]"));
    }

    [Fact]
    public async Task What_the_list_cannot_say_is_asked_for_and_nothing_is_guessed()
    {
        var world = await World.Make(app);
        var batch = await Upload(world, Header + "https://old.example/sky,https://northmoor.example/sky,,,,3/4/2022,,permanent\n");
        var preview = await Preview(world, batch, new { });
        ((bool)preview["isDayOrderOpen"]!, preview["errors"]!["choices.dayOrder"] is not null).ShouldBe((true, true));

        preview = await Preview(world, batch, new { choices = new { dayOrder = "month-first" } });
        (preview["openRedirects"]!.ToJsonString(), preview["openDomains"]!.ToJsonString(), (int)preview["goodLines"]!).ShouldBe(
            ("[\"permanent\"]", "[\"old.example\"]", 0)
        );
        (
            await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch["id"]}/run", new { choices = new { dayOrder = "month-first" } }, Cancel)
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        var choices = new
        {
            dayOrder = "month-first",
            redirects = new { permanent = 308 },
            domains = new Dictionary<string, string> { ["old.example"] = world.Domain },
        };
        await Made(world, batch, new { choices });
        var sky = await LinkOf(world, "sky");
        ((string)sky["domain"]!, (int)sky["redirect"]!, ((string)sky["createdAt"]!)[..10]).ShouldBe((world.Domain, 308, "2022-03-04"));
    }

    [Fact]
    public async Task The_next_list_with_the_same_columns_is_understood_at_once_but_in_this_workspace_alone()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var first = await Upload(world, "Page,Words,Kind\nnorthmoor.example/a,url,x\n");
        first["columns"]!.AsArray().Select(c => (string?)c!["field"]).ShouldBe(["destination", null, null]);
        await Made(
            world,
            first,
            new
            {
                columns = new[] { "destination", "title", "group" },
                choices = new { groups = "tags", taken = "skip" },
                forAll = new { campaign = (string?)null, note = "Only this time" },
            }
        );

        var next = await Upload(world, "Page,Words,Kind\nnorthmoor.example/b,url,x\n");
        next["columns"]!.AsArray().Select(c => (string?)c!["field"]).ShouldBe(["destination", "title", "group"]);
        ((string)next["choices"]!["groups"]!, (string)next["choices"]!["taken"]!).ShouldBe(("tags", "skip"));
        foreach (
            var unlike in new[]
            {
                await Upload(world, "Page,Words\nnorthmoor.example/b,url\n"),
                await Upload(other, "Page,Words,Kind\nnorthmoor.example/b,url,x\n"),
            }
        )
        {
            (unlike["choices"] is null, (string?)unlike["columns"]![1]!["field"]).ShouldBe((true, null));
        }
    }

    [Fact]
    public async Task A_line_whose_slug_is_taken_is_skipped_renamed_or_takes_over_as_chosen()
    {
        var world = await World.Make(app);
        await world.Send(p => p["placements"]![0]!["slug"] = "sky");
        var text = "slug,url,title,clicks\nsky,https://northmoor.example/new,New sky,77\nmoon,https://northmoor.example/moon,Moon,\n";

        var batch = await Upload(world, text);
        ((int)(await Preview(world, batch, new { }))["goodLines"]!).ShouldBe(1, "refused unless something else is chosen");
        foreach (var (taken, links, renamed, takenOver, skipped) in new[] { ("skip", 1, 0, 0, 1), ("rename", 2, 1, 0, 0), ("take-over", 1, 0, 1, 0) })
        {
            var preview = await Preview(world, batch, new { choices = new { taken } });
            (
                (int)preview["links"]!,
                (int)preview["renamed"]!,
                (int)preview["takenOver"]!,
                (int)preview["skipped"]!,
                (int)preview["goodLines"]!
            ).ShouldBe((links, renamed, takenOver, skipped, 2), taken);
        }

        var skippedBatch = await Made(world, await Upload(world, text), new { choices = new { taken = "skip" } });
        ((int)skippedBatch["links"]!, (int)skippedBatch["leftOut"]!, (string)(await LinkOf(world, "sky"))["title"]!).ShouldBe(
            (1, 1, "Geminids night")
        );
        (await Undo(world, skippedBatch)).StatusCode.ShouldBe(HttpStatusCode.NoContent);

        await Made(world, await Upload(world, text), new { choices = new { taken = "rename" } });
        var renamedLink = (await world.Get("/api/v1/links?query=new"))["items"]!.AsArray().Single(l => (string)l!["title"]! == "New sky")!;
        ((string)renamedLink["slug"]!).ShouldNotBe("sky");
        ((string)(await LinkOf(world, "sky"))["title"]!).ShouldBe("Geminids night");
    }

    [Fact]
    public async Task A_link_that_is_taken_over_keeps_clicks_and_history_and_becomes_what_it_was_when_the_list_is_taken_back()
    {
        var world = await World.Make(app);
        await world.Send(p => p["placements"]![0]!["slug"] = "sky");
        await world.Visit("sky");
        await app.Shipped();
        var before = await LinkOf(world, "sky");
        var list =
            "slug,url,title,tags,clicks,group\nsky,https://northmoor.example/new,New sky,old,77,Old links\nmoon,https://northmoor.example/moon,Moon,,5,Old links\n";
        var batch = await Made(world, await Upload(world, list), new { choices = new { taken = "take-over" } });
        ((int)batch["links"]!, (int)batch["takenOver"]!, (int)batch["leftOut"]!).ShouldBe((1, 1, 0));

        var after = await LinkOf(world, "sky");
        (
            Same(after, before, "id"),
            (string)after["title"]!,
            (string)after["folder"]!,
            after["tags"]!.ToJsonString(),
            (int)after["broughtAlong"]!,
            (int)after["clicks"]!
        ).ShouldBe((true, "New sky", "Old links", "[\"old\"]", 77, 1));
        ((string)after["finalUrl"]!).ShouldBe(
            "https://northmoor.example/new?utm_source=guildhall&utm_medium=social&utm_campaign=winter-members",
            "what the list doesn’t say stays"
        );
        (await world.Visit("sky", r => World.As(r, 1))).Headers.Location!.ToString().ShouldStartWith("https://northmoor.example/new");
        var history = await world.Get($"/api/v1/links/{after["id"]}/history");
        history.ToJsonString().ShouldContain("brought-along");

        (await Undo(world, batch)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var restored = await LinkOf(world, "sky");
        foreach (var field in new[] { "id", "title", "destination", "finalUrl", "folder", "tags", "broughtAlong", "note", "redirect", "createdAt" })
        {
            Same(restored, before, field).ShouldBeTrue(field);
        }

        (await world.Get("/api/v1/links?query=moon"))["items"]!.AsArray().ShouldBeEmpty();
        (await world.Get("/api/v1/folders"))["items"]!.AsArray().ShouldBeEmpty("the list made the folder, and nothing else is in it");
        (await world.Visit("sky", r => World.As(r, 2)))
            .Headers.Location!.ToString()
            .ShouldStartWith("https://www.northmoor.example/events/geminids-night");
    }

    [Fact]
    public async Task A_folder_that_somebody_else_uses_by_now_stays_when_the_list_is_taken_back()
    {
        var world = await World.Make(app);
        var batch = await Made(world, await Upload(world, "slug,url,folder\nmoon,https://northmoor.example/moon,Shop\n"), new { });
        await Made(world, await Upload(world, "slug,url,folder\nsun,https://northmoor.example/sun,shop\n"), new { });
        (await Undo(world, batch)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        ((string)(await LinkOf(world, "sun"))["folder"]!).ShouldBe("Shop", "there is one folder, whatever the case of its letters");
    }

    [Fact]
    public async Task Only_a_link_that_has_the_slug_now_is_taken_over_and_by_one_line_alone()
    {
        var world = await World.Make(app);
        await world.Send(p => p["placements"]![0]!["slug"] = "former");
        var former = await LinkOf(world, "former");
        (await Patch(world, former, new { slug = "present" })).StatusCode.ShouldBe(HttpStatusCode.OK);
        await world.Send(p => p["placements"]![0]!["slug"] = "deleted");
        var deleted = await LinkOf(world, "deleted");
        using var request = new HttpRequestMessage(HttpMethod.Delete, $"/api/v1/links/{deleted["id"]}");
        request.Headers.TryAddWithoutValidation("If-Match", $"\"{deleted["version"]}\"");
        (await world.Editor.SendAsync(request, Cancel)).IsSuccessStatusCode.ShouldBeTrue();

        var batch = await Upload(world, "slug,url\nformer,a.example\ndeleted,b.example\npresent,c.example\nPresent,d.example\n");
        var preview = await Preview(world, batch, new { choices = new { taken = "take-over" } });
        preview["problems"]!.AsArray().Select(p => $"{p!["lines"]![0]}").ShouldBe(["2", "3", "5"]);
        ((int)preview["takenOver"]!).ShouldBe(1);
    }

    [Fact]
    public async Task Ten_lines_with_one_slug_get_ten_different_ones_where_they_may_be_renamed()
    {
        var world = await World.Make(app);
        var batch = await Upload(world, "slug,url\n" + string.Concat(Enumerable.Range(1, 30).Select(i => $"sky,northmoor.example/{i}\n")));
        var made = await Made(world, batch, new { choices = new { taken = "rename" } });
        ((int)made["links"]!).ShouldBe(30);
        (await world.Get("/api/v1/links?limit=100"))["items"]!.AsArray().Select(l => (string)l!["slug"]!).Distinct().Count().ShouldBe(30);
    }

    [Fact]
    public async Task The_report_of_a_dry_run_says_of_every_line_what_making_it_then_does()
    {
        var world = await World.Make(app);
        await world.Send(p => p["placements"]![0]!["slug"] = "sky");
        var batch = await Upload(
            world,
            "slug,url,title,created,clicks\nsky,a.example,A,2022-01-01,5\nmoon,b.example,B,2022-01-02,6\nsun,ftp://c.example,C,,\nstar,d.example,D,,many\n"
        );
        var request = new { choices = new { taken = "skip" }, isGoodOnly = true };
        var report = await (await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch["id"]}/report", request, Cancel)).Content.ReadAsStringAsync(
            Cancel
        );
        Outcomes(report).ShouldBe(["2 skipped", "3 made", "4 refused", "5 refused"]);
        (await world.Get("/api/v1/links?query=moon"))["items"]!.AsArray().ShouldBeEmpty();

        await Made(world, batch, request);
        var result = await world.Editor.GetStringAsync($"/api/v1/batches/{batch["id"]}/result.csv", Cancel);
        result.ShouldBe(report);
        (await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch["id"]}/report", request, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound,
            "it waits no more"
        );
    }

    [Fact]
    public async Task A_day_that_is_yet_to_come_and_a_folder_that_is_no_name_are_refused_with_their_lines()
    {
        var world = await World.Make(app);
        var batch = await Upload(world, $"url,created,group\na.example,2126-01-01,\nb.example,,{new string('x', 61)}\n");
        (await Preview(world, batch, new { }))["problems"]!
            .AsArray()
            .Select(p => $"{p!["lines"]![0]} {p["field"]}")
            .ShouldBe(["2 createdAt", "3 folder"]);
        ((int)(await Preview(world, batch, new { choices = new { groups = "tags" } }))["goodLines"]!).ShouldBe(
            0,
            "a tag that long is refused as well"
        );
    }

    [Fact]
    public async Task Links_can_be_there_before_their_domain_points_here()
    {
        var world = await World.Make(app);
        await using (var db = app.Database())
        {
            db.Add(
                new ShortDomain
                {
                    WorkspaceId = world.Workspace.Id,
                    Name = $"moving-{world.Domain}",
                    CreatedAt = SystemClock.Instance.GetCurrentInstant(),
                }
            );
            await db.SaveChangesAsync(Cancel);
        }

        var batch = await Upload(world, $"short link,url\nhttps://moving-{world.Domain}/sky,a.example\n");
        var preview = await Preview(world, batch, new { });
        ((int)preview["goodLines"]!, (string)preview["hints"]![0]!["field"]!).ShouldBe((1, "domain"));
        await Made(world, batch, new { });
        (await world.Visit("sky", host: $"moving-{world.Domain}")).StatusCode.ShouldNotBe(HttpStatusCode.Found);
    }

    [Fact]
    public async Task What_one_workspace_takes_away_another_brings_in()
    {
        var (from, into) = (await World.Make(app), await World.Make(app));
        await from.Send(p =>
        {
            p["placements"]![0]!["slug"] = "sky";
            p["placements"]![0]!["options"] = new JsonObject
            {
                ["passQuery"] = "visitor-wins",
                ["newTab"] = true,
                ["handoffDeadline"] = 300,
                ["endedText"] = "Over, until spring.",
            };
        });
        await from.Visit("sky");
        await app.Shipped();
        var list = await (
            await from.Viewer.PostAsJsonAsync("/api/v1/links/files", new { links = new { filter = new { } } }, Cancel)
        ).Content.ReadAsStringAsync(Cancel);
        var choices = new { domains = new Dictionary<string, string> { [from.Domain] = into.Domain } };
        var made = await Made(into, await Upload(into, list), new { choices });
        ((int)made["links"]!).ShouldBe(2);
        var (there, here) = (await LinkOf(from, "sky"), await LinkOf(into, "sky"));
        foreach (var field in new[] { "title", "destination", "finalUrl", "channel", "campaign", "source", "medium", "redirect", "options" })
        {
            Same(here, there, field).ShouldBeTrue(field);
        }

        ((int)here["clicks"]!, (int)here["broughtAlong"]!, ((string)here["createdAt"]!)[..19]).ShouldBe((0, 1, ((string)there["createdAt"]!)[..19]));
    }

    private static bool Same(JsonNode a, JsonNode b, string field) => JsonNode.DeepEquals(a[field], b[field]);

    private static IEnumerable<string> Outcomes(string csv) =>
        csv.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Skip(1).Select(l => l.Split(',')).Select(c => $"{c[0]} {c[2]}");

    private static Task<HttpResponseMessage> Patch(World world, JsonNode link, object change)
    {
        var request = new HttpRequestMessage(HttpMethod.Patch, $"/api/v1/links/{link["id"]}") { Content = JsonContent.Create(change) };
        request.Headers.TryAddWithoutValidation("If-Match", $"\"{link["version"]}\"");
        return world.Editor.SendAsync(request, Cancel);
    }
}
