using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Cursus.Web.Tests.Batches;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.Links;

/// <summary>Whatever a link was made of: once it was taken it can be read, edited, copied, changed with others, taken away and brought in
/// again.</summary>
public class EverythingAcceptedTests(CursusApp app)
{
    private const int Tries = 160;

    /// <summary>What people paste, and what programs make of it: markup, quotes, escapes that are none, letters of many scripts, and all that
    /// addresses are cut up by.</summary>
    private static readonly string[] Parts =
    [
        "<script>",
        "\"",
        "'",
        "%",
        "%zz",
        "%2F",
        "#",
        "?",
        "&",
        "=",
        "==",
        ";",
        "/",
        "//",
        "\\",
        "\u00a0",
        "\u200b",
        " ",
        "日本",
        "ü",
        "🧭",
        "\r\n",
        "\t",
        "|",
        "^",
        "`",
        "{",
        "}",
        "[",
        "]",
        "@",
        ":",
        ",",
        "+",
        "~",
        "*",
        "(",
        ")",
        "!",
        "$",
        "utm_source=perch",
        "utm_campaign=%20",
        "UTM_Source=Perch",
        "utm_source=<b>",
        "page",
        "x=1",
        "a%C3%A4b",
        "é",
        "\u202e",
        "..",
        "/../",
        "-",
        ".",
    ];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_stored_link_can_be_read_edited_copied_changed_exported_and_imported()
    {
        var (random, world) = (new Random(20261130), await World.Make(app));
        var taken = new List<JsonNode>();
        for (var i = 0; i < Tries; i++)
        {
            var request = new JsonObject
            {
                ["destination"] = "https://www.northmoor.example" + (random.Next(12) == 0 ? "" : "/") + Text(random, 6),
                ["title"] = Maybe(random, 4),
                ["note"] = Maybe(random, 4),
                ["folder"] = Maybe(random, 3),
                ["source"] = Maybe(random, 2),
                ["medium"] = Maybe(random, 2),
                ["campaign"] = Maybe(random, 2),
                ["term"] = Maybe(random, 2),
                ["content"] = Maybe(random, 2),
                ["tags"] = random.Next(6) > 0 ? null : new JsonArray(Text(random, 2), Text(random, 2)),
                ["options"] = new JsonObject { ["anchorText"] = Maybe(random, 2) },
            };
            var made = await world.Editor.PostAsJsonAsync("/api/v1/links", request, Cancel);
            made.StatusCode.ShouldBeOneOf(HttpStatusCode.Created, HttpStatusCode.UnprocessableEntity);
            if (made.StatusCode == HttpStatusCode.Created)
            {
                taken.Add(await World.Read(made));
            }
        }

        taken.Count.ShouldBeGreaterThan(Tries / 10, "else nothing is tried");
        foreach (var link in taken)
        {
            await ShouldStayItself(world, link);
            var copy = await world.Editor.PostAsJsonAsync($"/api/v1/links/{link["id"]}/copy", new { }, Cancel);
            copy.StatusCode.ShouldBe(HttpStatusCode.Created, await copy.Content.ReadAsStringAsync(Cancel));
            ((string)(await World.Read(copy))["finalUrl"]!).ShouldBe((string)link["finalUrl"]!);
            var led = await world.Visit((string)link["slug"]!);
            led.Headers.NonValidated["Location"].ToString().ShouldBe((string)link["finalUrl"]!);
        }

        await ShouldChangeTogether(world, taken);
        await ShouldComeBackFromAnArchive(world, taken);
        await ShouldComeBackFromAList(world, taken);
    }

    /// <summary>A link that is sent back as it was read is what it was, however often.</summary>
    private static async Task ShouldStayItself(World world, JsonNode link)
    {
        string[] edited = ["title", "destination", "source", "medium", "campaign", "term", "content", "redirect", "tags", "note", "folder"];
        for (var times = 0; times < 2; times++)
        {
            var read = await world.Get($"/api/v1/links/{link["id"]}");
            var same = new JsonObject(edited.Where(f => read[f] is not null).Select(f => KeyValuePair.Create(f, (JsonNode?)read[f]!.DeepClone())));
            var answer = await world.Editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", same, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.OK, $"{same.ToJsonString()} {await answer.Content.ReadAsStringAsync(Cancel)}");
            var after = await World.Read(answer);
            foreach (var field in edited.Append("finalUrl"))
            {
                (after[field]?.ToJsonString()).ShouldBe(link[field]?.ToJsonString(), field);
            }
        }
    }

    private static async Task ShouldChangeTogether(World world, List<JsonNode> links)
    {
        var ids = links.Select(l => (string)l["id"]!).ToArray();
        var change = await world.ChangeMany(new { links = new { ids }, change = new { addTags = new[] { "together" } } });
        ((string)change["state"]!, (string?)change["failure"], (int)change["links"]!).ShouldBe(("done", null, links.Count));
    }

    private async Task ShouldComeBackFromAnArchive(World world, List<JsonNode> links)
    {
        var archive = await world.Owner.GetByteArrayAsync("/api/v1/archive", Cancel);
        var heir = await World.Make(app);
        var imported = await heir.Owner.PostAsync(
            "/api/v1/archive",
            new ByteArrayContent(archive) { Headers = { ContentType = new MediaTypeHeaderValue("application/zip") } },
            Cancel
        );
        imported.StatusCode.ShouldBe(HttpStatusCode.OK, await imported.Content.ReadAsStringAsync(Cancel));
        await using var db = app.Database();
        var there = await db.Links.Where(l => l.WorkspaceId == heir.Workspace.Id).Select(l => new { l.Destination, l.FinalUrl }).ToListAsync(Cancel);
        links.Select(l => (string)l["finalUrl"]!).ShouldBeSubsetOf(there.Select(l => l.FinalUrl));
        links.Select(l => (string)l["destination"]!).ShouldBeSubsetOf(there.Select(l => l.Destination));
    }

    /// <summary>The list that links are taken away as is a list that they can be made of.</summary>
    private async Task ShouldComeBackFromAList(World world, List<JsonNode> links)
    {
        var answer = await world.Editor.PostAsJsonAsync(
            "/api/v1/links/files",
            new { links = new { ids = links.Select(l => (string)l["id"]!) }, format = "csv" },
            Cancel
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        var list = Encoding.UTF8.GetString(await answer.Content.ReadAsByteArrayAsync(Cancel));
        var heir = await World.Make(app);
        var batch = await BatchSteps.Upload(heir, list.Replace(world.Domain, heir.Domain, StringComparison.Ordinal));
        ((int)batch["lines"]!).ShouldBe(links.Count);
        await BatchSteps.Made(heir, batch, new { });
        await using var db = app.Database();
        var there = await db.Links.Where(l => l.WorkspaceId == heir.Workspace.Id).Select(l => l.FinalUrl).ToListAsync(Cancel);
        links.Select(l => (string)l["finalUrl"]!).ShouldBeSubsetOf(there);
    }

    private static string? Maybe(Random random, int most) => random.Next(8) > 0 ? null : Text(random, most);

    private static string Text(Random random, int most) =>
        string.Concat(Enumerable.Range(0, random.Next(1, most + 1)).Select(_ => Parts[random.Next(Parts.Length)]));
}
