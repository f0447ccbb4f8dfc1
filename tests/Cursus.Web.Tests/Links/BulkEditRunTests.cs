using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using CsvHelper;
using Cursus.Data.Links;
using Microsoft.EntityFrameworkCore;
using MiniExcelLibs;

namespace Cursus.Web.Tests.Links;

/// <summary>Many links at once: looked at first, changed all or none, taken back within ten minutes.</summary>
public class BulkEditRunTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_host_that_has_moved_is_replaced_in_all_destinations_after_a_look_at_them()
    {
        var world = await Shelf(30);
        var change = new { find = "old.northmoor.example", replaceWith = "www.northmoor.example" };
        var preview = await World.Read(
            await Post(world.Editor, "link-changes/preview", new { links = new { filter = new { query = "page" }, expected = 30 }, change })
        );
        ((int)preview["found"]!, (int)preview["changed"]!, (int)preview["refused"]!).ShouldBe((30, 15, 0));
        ((string)preview["examples"]![0]!["from"]!, (string)preview["examples"]![0]!["to"]!).ShouldBe(
            ("https://old.northmoor.example/p/0", "https://www.northmoor.example/p/0")
        );
        (await Destinations(world, "old.")).ShouldBe(15);

        var done = await world.ChangeMany(new { links = new { filter = new { query = "page" } }, change });
        ((string)done["state"]!, (int)done["links"]!).ShouldBe(("done", 15));
        (await Destinations(world, "old.")).ShouldBe(0);
        (await world.Visit("page-0")).Headers.Location!.Host.ShouldBe("www.northmoor.example");

        var undone = await World.Read(await Post(world.Editor, $"link-changes/{done["id"]}/undo", new { }));
        ((int)undone["links"]!, (int)undone["changedSince"]!).ShouldBe((15, 0));
        (await Destinations(world, "old.")).ShouldBe(15);
        (await world.Visit("page-0")).Headers.Location!.Host.ShouldBe("old.northmoor.example");
        (await Post(world.Editor, $"link-changes/{done["id"]}/undo", new { })).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task Where_one_link_cannot_be_changed_none_is()
    {
        var world = await Shelf(1200);
        await using var before = app.Database();
        var former = await before
            .Links.Where(l => l.WorkspaceId == world.Workspace.Id)
            .OrderBy(l => l.Id)
            .Select(l => $"{l.Id} {l.Destination} {l.Version}")
            .ToListAsync(Cancel);

        // The seven hundredth link alone would lead to what is no address.
        var odd = (await world.Get("/api/v1/links?query=page-700"))["items"]![0]!;
        await world.Editor.PatchAsJsonAsync($"/api/v1/links/{odd["id"]}", new { destination = "https://elsewhere.example/p" }, Cancel);
        former[former.FindIndex(f => f.StartsWith((string)odd["id"]!, StringComparison.Ordinal))] = $"{odd["id"]} https://elsewhere.example/p 2";
        var change = new
        {
            find = "elsewhere.example",
            replaceWith = "",
            addTags = new[] { "moved" },
        };
        var failed = await world.ChangeMany(new { links = new { filter = new { } }, change });
        ((string)failed["state"]!).ShouldBe("failed");
        ((string)failed["failure"]!).ShouldContain("“page-700” can’t be changed this way");
        await using var after = app.Database();
        (
            await after
                .Links.Where(l => l.WorkspaceId == world.Workspace.Id)
                .OrderBy(l => l.Id)
                .Select(l => $"{l.Id} {l.Destination} {l.Version}")
                .ToListAsync(Cancel)
        ).ShouldBe(former);
        (await after.Tags.CountAsync(t => t.WorkspaceId == world.Workspace.Id, Cancel)).ShouldBe(0);
        (await after.LinkChanges.CountAsync(c => c.WorkspaceId == world.Workspace.Id, Cancel)).ShouldBe(0);

        var preview = await World.Read(await Post(world.Editor, "link-changes/preview", new { links = new { filter = new { } }, change }));
        ((int)preview["changed"]!, (int)preview["refused"]!, (string)preview["problems"]![0]!["id"]!).ShouldBe((1199, 1, (string)odd["id"]!));
        var good = await world.ChangeMany(
            new
            {
                links = new { filter = new { } },
                change,
                isGoodOnly = true,
            }
        );
        ((string)good["state"]!, (int)good["links"]!).ShouldBe(("done", 1199));
        ((int)(await world.Get("/api/v1/links?tag=moved"))["total"]!).ShouldBe(1199);
    }

    [Fact]
    public async Task A_change_that_is_stopped_on_the_way_changes_nothing()
    {
        var world = await Shelf(700);

        // Somebody else holds a link of the second portion, so that the change stands still after the first.
        await using var holder = app.Database();
        await using var held = await holder.Database.BeginTransactionAsync(Cancel);
        await holder.Database.ExecuteSqlAsync(
            $"select 1 from links where workspace_id = {world.Workspace.Id} and slug = 'page-600' for update",
            Cancel
        );
        var change = await World.Read(
            await Post(world.Editor, "link-changes", new { links = new { filter = new { } }, change = new { archive = true } })
        );
        while ((int)change["done"]! < 500)
        {
            await Task.Delay(50, Cancel);
            change = await world.Get($"/api/v1/link-changes/{change["id"]}");
        }

        ((string)change["state"]!, (int)change["total"]!).ShouldBe(("running", 700));
        (await Post(world.Editor, $"link-changes/{change["id"]}/cancel", new { })).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        while ((string)change["state"]! == "running")
        {
            await Task.Delay(50, Cancel);
            change = await world.Get($"/api/v1/link-changes/{change["id"]}");
        }

        ((string)change["state"]!, (string)change["failure"]!).ShouldBe(("failed", "It was cancelled; no link was changed."));
        ((int)(await world.Get("/api/v1/links"))["total"]!).ShouldBe(700);
    }

    [Fact]
    public async Task A_link_that_somebody_has_changed_since_is_left_as_it_is_by_undo()
    {
        var world = await Shelf(3);
        var done = await world.ChangeMany(new { links = new { filter = new { } }, change = new { addTags = new[] { "sale" }, archive = true } });
        ((int)(await world.Get("/api/v1/links"))["total"]!).ShouldBe(0);
        var one = (await world.Get("/api/v1/links?state=archived&query=page-1"))["items"]![0]!;
        await world.Owner.PatchAsJsonAsync($"/api/v1/links/{one["id"]}", new { title = "Page 1, kept" }, Cancel);
        var undone = await World.Read(await Post(world.Editor, $"link-changes/{done["id"]}/undo", new { }));
        ((int)undone["links"]!, (int)undone["changedSince"]!).ShouldBe((2, 1));
        var kept = await world.Get($"/api/v1/links/{one["id"]}");
        ((string)kept["title"]!, (string)kept["tags"]![0]!, kept["archivedAt"] is null).ShouldBe(("Page 1, kept", "sale", false));
        ((int)(await world.Get("/api/v1/links"))["total"]!).ShouldBe(2);
        ((string)(await world.Get($"/api/v1/links/{one["id"]}/history"))["items"]![1]!["many"]!).ShouldBe("tagged sale, archived");
    }

    [Fact]
    public async Task After_ten_minutes_only_each_links_history_takes_a_change_back()
    {
        var world = await Shelf(2);
        var done = await world.ChangeMany(new { links = new { filter = new { } }, change = new { addTags = new[] { "late" } } });
        done["undoUntil"].ShouldNotBeNull();
        await using var db = app.Database();
        await db.Database.ExecuteSqlAsync(
            $"update link_changes set made_at = made_at - interval '10 minutes 1 second' where id = {Guid.Parse((string)done["id"]!)}",
            Cancel
        );
        ((string)(await World.Read(await Post(world.Editor, $"link-changes/{done["id"]}/undo", new { })))["code"]!).ShouldBe("too-late-to-undo");
        (await world.Get($"/api/v1/link-changes/{done["id"]}"))["undoUntil"].ShouldBeNull();
    }

    [Fact]
    public async Task Links_are_moved_counted_elsewhere_deleted_and_brought_back_together()
    {
        var world = await World.Make(app);
        await world.Owner.PostAsJsonAsync("/api/v1/folders", new { name = "Shop" }, Cancel);
        await world.Owner.PostAsJsonAsync("/api/v1/campaigns", new { name = "Spring sale" }, Cancel);
        var post = await world.Send();
        var ids = post["placements"]!.AsArray().Select(p => (string)p!["link"]!["id"]!).ToArray();
        await world.ChangeMany(new { links = new { ids }, change = new { folder = "Shop", campaign = "spring-sale" } });
        var moved = (await world.Get("/api/v1/links?folder=Shop&campaign=spring-sale"))["items"]!.AsArray();
        moved.Count.ShouldBe(2);
        moved.ShouldAllBe(l => ((string)l!["finalUrl"]!).Contains("utm_campaign=spring-sale", StringComparison.Ordinal));

        var deleted = await world.ChangeMany(new { links = new { ids, except = new[] { ids[1] } }, change = new { delete = true } });
        (await world.Visit(World.Slug(post, 0))).StatusCode.ShouldBe(HttpStatusCode.Gone);
        (await world.Visit(World.Slug(post, 1))).StatusCode.ShouldBe(HttpStatusCode.Found);
        (await Post(world.Editor, $"link-changes/{deleted["id"]}/undo", new { })).EnsureSuccessStatusCode();
        (await world.Visit(World.Slug(post, 0))).StatusCode.ShouldBe(HttpStatusCode.Found);
        await world.ChangeMany(new { links = new { ids }, change = new { folder = "" } });
        ((int)(await world.Get("/api/v1/links?folder="))["total"]!).ShouldBe(2);
    }

    [Fact]
    public async Task Options_are_set_one_by_one_and_the_others_stay_as_each_link_has_them()
    {
        var world = await World.Make(app);
        var post = await world.Send(p => p["placements"]![0]!["options"] = new JsonObject { ["nofollow"] = true });
        var ids = post["placements"]!.AsArray().Select(p => (string)p!["link"]!["id"]!).ToArray();
        var options = new { endedText = "Over until spring.", passQuery = "link-wins" };
        var done = await world.ChangeMany(new { links = new { ids }, change = new { redirect = 307, options } });
        ((string)done["what"]!).ShouldBe("redirect set to 307, Visitors’ parameters and Text after the end set");
        var links = await Task.WhenAll(ids.Select(id => world.Get($"/api/v1/links/{id}")));
        links.ShouldAllBe(l => (int)l["redirect"]! == 307 && (string)l["options"]!["endedText"]! == "Over until spring.");
        links.Select(l => (bool)l["options"]!["nofollow"]!).ShouldBe([true, false]);
        (await Post(world.Editor, $"link-changes/{done["id"]}/undo", new { })).EnsureSuccessStatusCode();
        (await world.Get($"/api/v1/links/{ids[1]}"))["options"]!["passQuery"]!.GetValue<string>().ShouldBe("off");
    }

    [Theory]
    [InlineData("""{"links":{"filter":{}},"change":{"options":{"handoffDeadline":9000}}}""", "options.handoffDeadline")]
    [InlineData("""{"links":{"filter":{}},"change":{"redirect":200}}""", "redirect")]
    [InlineData("""{"links":{"filter":{}},"change":{}}""", "change")]
    [InlineData("""{"links":{"ids":[]},"change":{"archive":true}}""", "links")]
    [InlineData("""{"links":{"filter":{"query":"nothing like it at all"}},"change":{"archive":true}}""", "links")]
    [InlineData("""{"links":{"filter":{},"expected":99},"change":{"archive":true}}""", "links")]
    [InlineData("""{"links":{"filter":{"state":"lost"}},"change":{"archive":true}}""", "state")]
    [InlineData("""{"links":{"filter":{}},"change":{"folder":"Nowhere"}}""", "folder")]
    [InlineData("""{"links":{"filter":{}},"change":{"campaign":"unheard-of"}}""", "campaign")]
    [InlineData("""{"links":{"filter":{}},"change":{"find":" ","replaceWith":"x"}}""", "find")]
    [InlineData("""{"links":{"filter":{}},"change":{"addPixels":["00000000-0000-0000-0000-000000000001"]}}""", "addPixels")]
    public async Task What_cannot_be_done_is_told_before_anything_is(string body, string field)
    {
        var world = await Shelf(2);
        foreach (var path in new[] { "link-changes", "link-changes/preview" })
        {
            var refused = await world.Editor.PostAsync($"/api/v1/{path}", new StringContent(body, null, "application/json"), Cancel);
            refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
        }

        (await Post(world.Viewer, "link-changes", new { links = new { filter = new { } }, change = new { archive = true } })).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        ((int)(await world.Get("/api/v1/links"))["total"]!).ShouldBe(2);
    }

    [Fact]
    public async Task Another_workspaces_links_are_not_changed_though_they_are_named()
    {
        var (mine, other) = (await Shelf(1), await Shelf(1));
        var foreign = (string)(await other.Get("/api/v1/links"))["items"]![0]!["id"]!;
        (
            await Post(mine.Editor, "link-changes", new { links = new { ids = new[] { foreign } }, change = new { archive = true } })
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ((int)(await other.Get("/api/v1/links"))["total"]!).ShouldBe(1);
    }

    [Theory]
    [InlineData("csv")]
    [InlineData("ndjson")]
    [InlineData("xlsx")]
    public async Task Found_links_are_taken_away_as_they_are(string format)
    {
        var world = await Shelf(4);
        var awkward = "Night, \"meteors\"\r\nand ü =1+1";
        var first = (await world.Get("/api/v1/links?query=page-0"))["items"]![0]!;
        await world.Editor.PatchAsJsonAsync($"/api/v1/links/{first["id"]}", new { note = awkward, tags = new[] { "a", "b" } }, Cancel);
        var answer = await Post(world.Viewer, "links/files", new { links = new { filter = new { query = "page" } }, format });
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        var content = await answer.Content.ReadAsByteArrayAsync(Cancel);
        var rows = Rows(format, content);
        rows.Select(r => r.ShortUrl.Split('/')[^1]).ShouldBe(["page-0", "page-1", "page-2", "page-3"]);

        // XML knows one line end only (XML 1.0, section 2.11), and a workbook is XML.
        (rows[0].Note, rows[0].Tags).ShouldBe((format == "xlsx" ? awkward.Replace("\r\n", "\n", StringComparison.Ordinal) : awkward, "a, b"));
    }

    /// <summary>CSV is read by CsvHelper's reader (RFC 4180), XLSX by MiniExcel.</summary>
    private static List<(string ShortUrl, string? Note, string Tags)> Rows(string format, byte[] content)
    {
        using var stream = new MemoryStream(content);
        using var text = new StreamReader(stream);
        switch (format)
        {
            case "csv":
                using (var csv = CsvReader.FromText(text.ReadToEnd(), new CsvReaderOptions { HasHeader = false }))
                {
                    csv.Read().ShouldBeTrue();
                    var columns = Enumerable.Range(0, csv.FieldCount).Select(csv.GetString).ToList();
                    var rows = new List<(string, string?, string)>();
                    while (csv.Read())
                    {
                        rows.Add(
                            (
                                csv.GetString(columns.IndexOf("short address")),
                                csv.GetString(columns.IndexOf("note")),
                                csv.GetString(columns.IndexOf("tags"))
                            )
                        );
                    }

                    return rows;
                }

            case "xlsx":
                return
                [
                    .. stream
                        .Query(useHeaderRow: true)
                        .Cast<IDictionary<string, object?>>()
                        .Select(r => ((string)r["short address"]!, (string?)r["note"], (string?)r["tags"] ?? "")),
                ];
            default:
                return
                [
                    .. text.ReadToEnd()
                        .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                        .Select(l => JsonNode.Parse(l)!)
                        .Select(l => ((string)l["shortUrl"]!, (string?)l["note"], string.Join(", ", l["tags"]!.AsArray()))),
                ];
        }
    }

    /// <summary>A workspace with so many links; every second leads to a host that has moved.</summary>
    private async Task<World> Shelf(int links)
    {
        var world = await World.Make(app);
        await using var db = app.Database();
        var domain = await db.Domains.SingleAsync(d => d.WorkspaceId == world.Workspace.Id, Cancel);
        var now = NodaTime.SystemClock.Instance.GetCurrentInstant();
        for (var i = 0; i < links; i++)
        {
            var page = $"https://{(i % 2 == 0 ? "old." : "")}northmoor.example/p/{i}";
            db.Add(
                new Link
                {
                    WorkspaceId = world.Workspace.Id,
                    DomainId = domain.Id,
                    Slug = $"page-{i}",
                    SlugKey = $"page-{i}",
                    Title = $"Page {i}",
                    Destination = page,
                    FinalUrl = page,
                    CreatedAt = now + NodaTime.Duration.FromMilliseconds(i),
                }
            );
        }

        await db.SaveChangesAsync(Cancel);
        await app.Feed.CatchUp();
        return world;
    }

    private static async Task<int> Destinations(World world, string host) =>
        (await world.Get("/api/v1/links?limit=500"))["items"]!
            .AsArray()
            .Count(l => ((string)l!["finalUrl"]!).Contains(host, StringComparison.Ordinal));

    private static Task<HttpResponseMessage> Post(HttpClient client, string path, object body) =>
        client.PostAsJsonAsync($"/api/v1/{path}", body, Cancel);
}
