using System.IO.Compression;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Cursus.Data.Archives;
using Cursus.Data.Batches;
using Cursus.Web.Tests.Checking;
using Cursus.Web.Tests.Retargeting;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Cursus.Web.Tests.Archives;

/// <summary>A whole workspace as one file: out, and back in another installation or another workspace, figure for figure; and files that nobody
/// should import.</summary>
[Collection(Checks.OneAtATime)]
public class ArchiveTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task An_empty_installation_gets_the_same_tables_reports_and_redirects()
    {
        var world = await Full();
        var archive = await Export(world);
        await using var elsewhere = new CursusApp();
        await elsewhere.InitializeAsync();
        var heir = await World.Make(elsewhere);
        var imported = await World.Read(await Import(heir, archive));
        imported["links"].ShouldNotBeNull(imported.ToJsonString());
        ((int)imported["links"]!, (int)imported["posts"]!, (long)imported["clicks"]!).ShouldBe((3, 1, 5));

        // Ids and all: there is nothing in this installation that they could be mixed up with. Only who did something, and what the check does of
        // itself, are the new installation's.
        var (mine, theirs) = (await Tables(app, world), await Tables(elsewhere, heir));
        foreach (var table in ArchiveTable.All.Where(t => t.Name is not ("workspaces" or "members" or "user_agents" or "domains" or "link_months")))
        {
            theirs[table.Name].ShouldBe(mine[table.Name], table.Name);
            mine[table.Name]
                .Length.ShouldBeGreaterThan(
                    table.Name is "pixel_days" or "referrers" or "batches" or "batch_lines" ? -1 : 2,
                    $"{table.Name} has no row to be compared"
                );
        }

        foreach (var report in Reports)
        {
            (await heir.Get(report)).ToJsonString().ShouldBe((await world.Get(report)).ToJsonString(), report);
        }

        var visit = await heir.Visit("geminids-1", host: world.Domain);
        (await visit.Content.ReadAsStringAsync(Cancel)).ShouldContain(
            "https://www.northmoor.example/events/geminids-night",
            customMessage: "its pixels fire on the way, as before"
        );
        (await heir.Visit("geminids-2", host: world.Domain)).StatusCode.ShouldBe(visit.StatusCode, "earlier addresses lead on too");
        (await heir.Visit("old-name", host: world.Domain)).StatusCode.ShouldBe(HttpStatusCode.Gone, "what had been deleted has ended here too");
    }

    [Fact]
    public async Task Another_workspace_of_the_same_installation_gets_the_same_figures_under_ids_of_its_own()
    {
        var world = await Full();
        var archive = await Export(world);
        var heir = await World.Make(app);
        (await Import(heir, archive)).StatusCode.ShouldBe(HttpStatusCode.OK);

        static string WithoutIds(string text) => Regex.Replace(text, "[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}", "id");
        foreach (var report in Reports)
        {
            WithoutIds((await heir.Get(report)).ToJsonString()).ShouldBe(WithoutIds((await world.Get(report)).ToJsonString()), report);
        }

        await using var db = app.Database();
        var (old, made) = (
            await db.Links.Where(l => l.WorkspaceId == world.Workspace.Id).Select(l => l.Id).ToListAsync(Cancel),
            await db.Links.Where(l => l.WorkspaceId == heir.Workspace.Id).Select(l => l.Id).ToListAsync(Cancel)
        );
        made.Count.ShouldBe(old.Count);
        made.ShouldNotContain(id => old.Contains(id));
        (await db.Domains.SingleAsync(d => d.WorkspaceId == heir.Workspace.Id, Cancel)).VerifiedAt.ShouldBeNull(
            "the name is in use in the workspace it came from"
        );

        // History and filters name things by id, and name the new ones.
        var link = (await heir.Get("/api/v1/links?query=geminids-1"))["items"]![0]!;
        (await heir.Get($"/api/v1/links/{link["id"]}/history")).ToJsonString().ShouldContain("night");
        (await db.LinkVersions.Where(v => made.Contains(v.LinkId)).Select(v => v.State).FirstAsync(Cancel)).ShouldContain(
            $"{(await db.Domains.SingleAsync(d => d.WorkspaceId == heir.Workspace.Id, Cancel)).Id}"
        );
    }

    [Fact]
    public async Task A_workspace_with_links_keeps_them_and_takes_no_archive()
    {
        var world = await Full();
        var refused = await Import(world, await Export(world));
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await refused.Content.ReadAsStringAsync(Cancel)).ShouldContain("already has links");
        ((int)(await world.Get("/api/v1/links"))["total"]!).ShouldBe(2);
    }

    [Fact]
    public async Task An_archive_from_before_links_had_times_and_could_change_channels_is_read()
    {
        var world = await Full();
        var heir = await World.Make(app);
        var older = await Harmed(await Export(world), "older", heir);
        using (var zip = new ZipArchive(new MemoryStream(older)))
        {
            foreach (var name in new[] { "links.ndjson", "link_versions.ndjson" })
            {
                using var reader = new StreamReader(zip.GetEntry(name)!.Open());
                (await reader.ReadToEndAsync(Cancel)).ShouldNotContain(name == "links.ndjson" ? "ends_at" : "channelId");
            }
        }

        (await Import(heir, older)).StatusCode.ShouldBe(HttpStatusCode.OK);
        var link = (await heir.Get("/api/v1/links?query=geminids-1"))["items"]![0]!;
        (link["endsAt"], (string)link["state"]!).ShouldBe((null, "live"));
        var told = (await heir.Get($"/api/v1/links/{link["id"]}/history"))["items"]!.AsArray();
        told.Count.ShouldBeGreaterThan(2);
        told.SelectMany(v => v!["differences"]!.AsArray()).ShouldAllBe(d => (string)d!["field"]! != "channel");
    }

    [Theory]
    [InlineData("../links.ndjson", "what a Cursus archive contains")]
    [InlineData("extra", "what a Cursus archive contains")]
    [InlineData("checksum", "has changed since")]
    [InlineData("truncated", "has changed since")]
    [InlineData("bomb", "unpack to far more")]
    [InlineData("longer than said", "has changed since")]
    [InlineData("later format", "reads layout 1")]
    [InlineData("script", "isn’t a complete http")]
    [InlineData("foreign domain", "refers to something")]
    [InlineData("line break", "isn’t a complete http")]
    [InlineData("time zone", "unknown time zone")]
    [InlineData("office", "office networks isn’t valid")]
    [InlineData("pixel", "isn’t a valid pixel address")]
    [InlineData("slug", "isn’t a valid slug")]
    [InlineData("network", "can’t be read")]
    [InlineData("column", "doesn’t know")]
    [InlineData("twice", "database rejected")]
    [InlineData("no zip", "isn’t a Cursus archive")]
    [InlineData("no manifest", "isn’t a Cursus archive")]
    public async Task A_file_that_should_not_be_imported_is_refused_whole(string harm, string told)
    {
        var world = await Full();
        var heir = await World.Make(app);
        var harmed = await Harmed(await Export(world), harm, heir);
        var refused = await Import(heir, harmed);
        var text = await refused.Content.ReadAsStringAsync(Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, text);
        text.ShouldContain(told);
        ((int)(await heir.Get("/api/v1/links"))["total"]!).ShouldBe(0);
        ((int)(await heir.Get("/api/v1/channels"))["total"]!).ShouldBe(4, "what was set up stays");
    }

    [Fact]
    public async Task Who_made_what_is_known_by_e_mail_address_and_somebody_else_is_nobody()
    {
        var world = await Full();
        var heir = await World.Make(app);
        await using var db = app.Database();
        var stranger = await db.Members.Where(m => m.WorkspaceId == heir.Workspace.Id).Select(m => m.Id).FirstAsync(Cancel);
        var archive = await Harmed(await Export(world), $"made by {stranger}", heir);
        (await Import(heir, archive)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await db.Links.Where(l => l.WorkspaceId == heir.Workspace.Id).Select(l => l.CreatedBy).ToListAsync(Cancel)).ShouldAllBe(by => by == null);
    }

    [Fact]
    public async Task Only_owners_export_and_import()
    {
        var world = await World.Make(app);
        (await world.Editor.GetAsync("/api/v1/archive", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Editor.PostAsync("/api/v1/archive", Body([1]), Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task An_archive_holds_nobody_s_password_token_or_secret()
    {
        var world = await Full();
        await using var db = app.Database();
        var secrets = await db.Members.Where(m => m.WorkspaceId == world.Workspace.Id).Select(m => m.Account!.PasswordHash!).ToListAsync(Cancel);
        await using var zip = new ZipArchive(new MemoryStream(await Export(world)));
        foreach (var entry in zip.Entries)
        {
            using var reader = new StreamReader(await entry.OpenAsync(Cancel));
            var text = await reader.ReadToEndAsync(Cancel);
            secrets.ShouldAllBe(s => !text.Contains(s));
        }

        zip.Entries.Select(e => e.Name)
            .ShouldNotContain(name => name.Contains("token") || name.Contains("salt") || name.Contains("account") || name.Contains("share"));
    }

    [Fact]
    public async Task The_published_layout_is_the_one_that_archives_have()
    {
        await using var source = app.DataSource();
        await using var connection = await source.OpenConnectionAsync(Cancel);
        var schema = await ArchiveSchema.Of(connection, Cancel);
        (await File.ReadAllTextAsync(Path.Combine(Repository.Root, "docs", "archive", "schema.json"), Cancel)).ShouldBe(
            schema,
            "where the layout has changed, write it anew: dotnet artifacts/web/Cursus.Web.dll archive-schema"
        );

        var files = JsonNode.Parse(schema)!["$defs"]!.AsObject();
        using var zip = new ZipArchive(new MemoryStream(await Export(await Full())));
        foreach (var entry in zip.Entries.Where(e => e.Name != "manifest.json"))
        {
            using var reader = new StreamReader(entry.Open());
            while (await reader.ReadLineAsync(Cancel) is { } line)
            {
                JsonNode
                    .Parse(line)!
                    .AsObject()
                    .Select(p => p.Key)
                    .ShouldBe(files[entry.Name]!["properties"]!.AsObject().Select(p => p.Key), ignoreOrder: true, entry.Name);
            }
        }
    }

    private static readonly string[] Reports =
    [
        "/api/v1/reports/breakdown?by=channel&period=last-28",
        "/api/v1/reports/breakdown?by=device&period=last-28",
        "/api/v1/reports/breakdown?by=campaign&period=last-28",
        "/api/v1/reports/series?by=channel&period=last-28",
        "/api/v1/reports/pivot?by=channel&across=campaign&period=last-28",
    ];

    /// <summary>A workspace with something in every table.</summary>
    private async Task<World> Full()
    {
        var world = await World.Make(app);
        async Task<JsonNode> Do(HttpMethod method, string path, object body)
        {
            var answer = await world.Owner.SendAsync(
                new HttpRequestMessage(method, "/api/v1/" + path) { Content = body as HttpContent ?? JsonContent.Create(body) },
                Cancel
            );
            var text = await answer.Content.ReadAsStringAsync(Cancel);
            answer.IsSuccessStatusCode.ShouldBeTrue($"{path}: {text}");
            return JsonNode.Parse(text.Length == 0 ? "{}" : text)!;
        }

        var pixel = await Do(
            HttpMethod.Post,
            "pixels",
            new
            {
                name = "Everybody",
                network = "image-pixel",
                reference = "https://ads.northmoor.example/p.gif",
            }
        );
        await Do(HttpMethod.Post, "ad-networks", JsonNode.Parse(Pixels.Picture)!);
        await Do(HttpMethod.Post, "folders", new { name = "Shop" });
        await Do(HttpMethod.Post, "recipes", new { name = "As usual", content = World.Post() });
        await Do(HttpMethod.Post, "agreed-values", new { field = "term", value = "dark-sky" });
        await Do(
            HttpMethod.Post,
            "tag-merges",
            new
            {
                field = "source",
                from = "Perch",
                into = "perch",
            }
        );
        await Do(HttpMethod.Post, "referrer-rules", new { host = "forum.northmoor.example", channel = "perch" });
        await Do(HttpMethod.Post, "saved-filters", new { name = "With pixels", filter = $"pixels={pixel["id"]}" });
        await using (var db = app.Database())
        {
            db.Add(
                new ListMapping
                {
                    WorkspaceId = world.Workspace.Id,
                    ColumnsKey = "01",
                    Choices = """{"columns":["destination"]}""",
                }
            );
            await db.SaveChangesAsync(Cancel);
        }

        await Do(HttpMethod.Post, "views", new { name = "This year", question = "by=channel&period=this-year" });
        await Do(
            HttpMethod.Post,
            "code-logos?name=Dome",
            new StringContent("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 8 8'><rect width='8' height='8'/></svg>", null, "image/svg+xml")
        );
        await Do(HttpMethod.Post, "code-styles", new { name = "Plum" });
        await Do(HttpMethod.Patch, "handoff", new { line = "One moment" });
        await Do(HttpMethod.Patch, "link-checks/settings", new { fallback = "https://www.northmoor.example/" });
        var post = await world.Send(p =>
        {
            p["placements"]![0]!["slug"] = "geminids-1";
            p["tags"] = new JsonArray("event");
            p["pixels"] = new JsonArray((string)pixel["id"]!);
        });
        var first = post["placements"]![0]!["link"]!;
        await Do(HttpMethod.Patch, $"links/{first["id"]}", new { slug = "geminids-2", pixels = new[] { (string)pixel["id"]! } });
        await Do(
            HttpMethod.Patch,
            $"links/{first["id"]}",
            new
            {
                slug = "geminids-1",
                note = "For the night",
                opensAt = "2026-01-01",
                endsAt = "2040-01-01",
            }
        );
        await Do(HttpMethod.Post, $"links/{first["id"]}/codes", new { name = "Library" });
        await Do(
            HttpMethod.Put,
            $"links/{first["id"]}/routes",
            JsonNode.Parse(
                """{"rules": [{"when": {"first": 5, "languages": ["de"]}, "to": [{"destination": "https://www.northmoor.example/gift"}]}]}"""
            )!
        );
        var route = await Do(HttpMethod.Post, "routes", new { name = "By country", routes = Shop("is") });
        await Do(HttpMethod.Patch, $"routes/{route["id"]}", new { routes = Shop("iceland") });
        await Do(HttpMethod.Put, $"links/{post["placements"]![1]!["link"]!["id"]}/routes", new { routeId = (Guid)route["id"]! });
        await using (var db = app.Database())
        {
            await db.Database.ExecuteSqlAsync($"insert into rule_people (link_id, rule, visitor) values ({(Guid)first["id"]!}, 1, 42)", Cancel);
        }

        await world.ChangeMany(new { links = new { filter = new { } }, change = new { folder = "Shop" } });
        var gone = await Do(
            HttpMethod.Post,
            "links",
            new
            {
                title = "Taken back",
                destination = "https://www.northmoor.example/gone",
                slug = "old-name",
            }
        );
        await Do(HttpMethod.Patch, $"links/{gone["id"]}", new { slug = "new-name" });
        await Do(
            HttpMethod.Put,
            $"pixels/{pixel["id"]}/attachments",
            new
            {
                campaigns = new[] { "winter-members" },
                channels = new[] { "guildhall" },
                domains = new[] { world.Domain },
            }
        );
        for (var i = 0; i < 4; i++)
        {
            await world.Visit("geminids-1", r => r.Headers.Referrer = new Uri("https://forum.northmoor.example/thread"));
        }

        await world.Visit("new-name");
        await app.Shipped();
        await world.Owner.DeleteAsync($"/api/v1/links/{gone["id"]}", Cancel);
        return world;
    }

    private static JsonNode Shop(string page) =>
        JsonNode.Parse($$"""{"rules": [{"when": {"countries": ["IS"]}, "to": [{"destination": "https://www.northmoor.example/{{page}}"}] } ] }""")!;

    private static async Task<byte[]> Export(World world)
    {
        var answer = await world.Owner.GetAsync("/api/v1/archive", Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        answer.Content.Headers.ContentDisposition!.FileName!.ShouldStartWith("cursus-");
        return await answer.Content.ReadAsByteArrayAsync(Cancel);
    }

    private static Task<HttpResponseMessage> Import(World world, byte[] archive) => world.Owner.PostAsync("/api/v1/archive", Body(archive), Cancel);

    private static ByteArrayContent Body(byte[] archive) => new(archive) { Headers = { ContentType = new MediaTypeHeaderValue("application/zip") } };

    /// <summary>Everything that an archive holds of a workspace, as the database has it.</summary>
    private static async Task<Dictionary<string, string>> Tables(CursusApp of, World world)
    {
        await using var source = of.DataSource();
        await using var connection = await source.OpenConnectionAsync(Cancel);
        var tables = new Dictionary<string, string>();
        foreach (var table in ArchiveTable.All)
        {
            // What belongs to the database alone: who did it, by which journal it came, and in which transaction.
            await using var command = new NpgsqlCommand(
                $"select coalesce(json_agg(to_jsonb(x) - '{{workspace_id,created_by,changed_by,made_by,merged_by,changed_in,user_agent_id}}'::text[] - case '{table.Name}' when 'clicks' then 'id' when 'rule_people' then 'number' else '' end order by to_jsonb(x)::text collate \"C\" ), '[]')::text from {table.View ?? table.Name} x where {table.Of}",
                connection
            )
            {
                Parameters = { new() { Value = world.Workspace.Id } },
            };
            tables[table.Name] = (string)(await command.ExecuteScalarAsync(Cancel))!;
        }

        return tables;
    }

    /// <summary>An archive to which somebody has done something, its checksums made right again where that is not the harm itself.</summary>
    private static async Task<byte[]> Harmed(byte[] archive, string harm, World heir)
    {
        var entries = new Dictionary<string, byte[]>();
        await using (var zip = new ZipArchive(new MemoryStream(archive)))
        {
            foreach (var entry in zip.Entries)
            {
                using var content = new MemoryStream();
                await using var stream = await entry.OpenAsync(Cancel);
                await stream.CopyToAsync(content, Cancel);
                entries[entry.FullName] = content.ToArray();
            }
        }

        var manifest = JsonNode.Parse(entries["manifest.json"])!;
        void Rewrite(string file, Func<string, string> change)
        {
            var bytes = Encoding.UTF8.GetBytes(change(Encoding.UTF8.GetString(entries[file])));
            entries[file] = bytes;
            var said = manifest["files"]!.AsArray().Single(f => (string)f!["name"]! == file)!;
            (said["bytes"], said["sha256"]) = (bytes.Length, Convert.ToHexStringLower(SHA256.HashData(bytes)));
            said["lines"] = bytes.Count(b => b == '\n');
        }

        var others = (await heir.Get("/api/v1/domains"))["items"]![0]!;
        switch (harm)
        {
            case "../links.ndjson" or "extra":
                entries[harm] = [.. "{}\n"u8];
                break;
            case "checksum":
                entries["links.ndjson"] = [.. entries["links.ndjson"].Select(b => b == (byte)'G' ? (byte)'g' : b)];
                break;
            case "truncated":
                entries["links.ndjson"] = entries["links.ndjson"][..^20];
                break;
            case "bomb":
                Rewrite("tags.ndjson", text => text + string.Concat(Enumerable.Repeat(new string(' ', 1_000_000) + "{}\n", 40)));
                break;
            case "longer than said":
                entries["tags.ndjson"] = [.. entries["tags.ndjson"], .. "{}\n"u8];
                break;
            case "older":
                Rewrite("links.ndjson", text => Regex.Replace(text, "\"(opens_at|ends_at)\":(null|\"[^\"]*\"),", ""));
                Rewrite("link_versions.ndjson", text => Regex.Replace(text, "\"channelId\": ?(null|\"[^\"]*\"), ?", ""));
                break;
            case "later format":
                manifest["format"] = 2;
                break;
            case "script":
                Rewrite("links.ndjson", text => text.Replace("\"final_url\":\"https:", "\"final_url\":\"javascript:", StringComparison.Ordinal));
                break;
            case "foreign domain":
                Rewrite("links.ndjson", text => Regex.Replace(text, "\"domain_id\":\"[^\"]*\"", $"\"domain_id\":\"{others["id"]}\""));
                break;
            case "line break":
                Rewrite("links.ndjson", text => text.Replace("\"final_url\":\"https://", "\"final_url\":\"https://\\r\\n", StringComparison.Ordinal));
                break;
            case "time zone":
                Rewrite("workspaces.ndjson", text => text.Replace("Europe/London", "Europe/Nowhere", StringComparison.Ordinal));
                break;
            case "office":
                Rewrite("workspaces.ndjson", text =>
                    text.Replace("\"office_networks\":[]", "\"office_networks\":[\"somewhere\"]", StringComparison.Ordinal)
                );
                break;
            case "pixel":
                Rewrite("pixels.ndjson", text =>
                    text.Replace("https://ads.northmoor.example/p.gif", "javascript:alert(1)", StringComparison.Ordinal)
                );
                break;
            case "slug":
                Rewrite("links.ndjson", text => text.Replace("\"slug\":\"geminids-1\"", "\"slug\":\"a/b\"", StringComparison.Ordinal));
                break;
            case "network":
                Rewrite("ad_networks.ndjson", text =>
                    $$"""{"id":"{{Guid.NewGuid()}}","workspace_id":"{{manifest["workspaceId"]}}","key":"odd","description":"no network"}""" + "\n"
                );
                break;
            case "column":
                Rewrite("tags.ndjson", text => text.Replace("{\"id\"", "{\"secret\":1,\"id\"", StringComparison.Ordinal));
                break;
            case "twice":
                Rewrite("tags.ndjson", text => text + text);
                break;
            case var _ when harm.StartsWith("made by ", StringComparison.Ordinal):
                Rewrite("links.ndjson", text => Regex.Replace(text, "\"created_by\":\"[^\"]*\"", $"\"created_by\":\"{harm[8..]}\""));
                break;
            case "no zip":
                return Encoding.UTF8.GetBytes("a list of links");
            case "no manifest":
                entries.Remove("manifest.json");
                break;
        }

        if (entries.ContainsKey("manifest.json"))
        {
            entries["manifest.json"] = Encoding.UTF8.GetBytes(manifest.ToJsonString());
        }

        using var made = new MemoryStream();
        using (var zip = new ZipArchive(made, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in entries)
            {
                using var stream = zip.CreateEntry(name).Open();
                stream.Write(content);
            }
        }

        return made.ToArray();
    }
}
