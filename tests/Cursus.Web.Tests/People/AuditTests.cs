using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;
using Npgsql;

namespace Cursus.Web.Tests.People;

/// <summary>The audit log tells who did what, and can't be talked out of it.</summary>
public class AuditTests(CursusApp app)
{
    private const string Page = "https://www.northmoor.example/visit";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task It_tells_of_members_tokens_domains_destinations_deletes_exports_and_settings()
    {
        var world = await World.Make(app);
        var (owner, editor) = (world.Owner, world.Editor);
        var link = await Make(editor, "links", new { destination = Page, title = "Visit" });
        await Ok(editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", new { destination = Page + "?again" }, Cancel));
        await Ok(editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", new { title = "Visit us" }, Cancel));
        await Ok(editor.PostAsJsonAsync("/api/v1/links/files", new { links = new { ids = new[] { link["id"] } } }, Cancel));
        await Ok(editor.DeleteAsync($"/api/v1/links/{link["id"]}", Cancel));
        var folder = await Make(editor, "folders", new { name = "Museums" });
        await Ok(editor.DeleteAsync($"/api/v1/folders/{folder["id"]}", Cancel));
        var domain = await Make(owner, "domains", new { name = $"d{Guid.NewGuid():N}.localhost" });
        await Ok(owner.PatchAsJsonAsync($"/api/v1/domains/{domain["id"]}", new { barePage = Page }, Cancel));
        await Ok(owner.DeleteAsync($"/api/v1/domains/{domain["id"]}", Cancel));
        var token = await Make(owner, "tokens", new { name = "reports" });
        await Ok(owner.DeleteAsync($"/api/v1/tokens/{token["id"]}", Cancel));
        await Ok(owner.PatchAsJsonAsync("/api/v1/workspace", new { publicName = "The Observatory" }, Cancel));
        await Ok(owner.PatchAsJsonAsync("/api/v1/workspace", new { publicName = "The Observatory" }, Cancel));
        var invited = await Make(owner, "invitations", new { emails = new[] { "ines@harbour.example" }, role = "viewer" });
        await Ok(owner.DeleteAsync($"/api/v1/invitations/{invited["invitations"]![0]!["id"]}", Cancel));
        await Ok(owner.GetAsync("/api/v1/audit.csv", Cancel));

        var log = await Log(owner);
        log.Select(e => $"{e["who"]} {e["action"]} {e["kind"]} {e["name"]}".Trim())
            .Reverse()
            .ShouldBe([
                "Editor destination-changed links Visit",
                "Editor exported links",
                "Editor deleted links Visit us",
                "Editor deleted folders Museums",
                $"Owner domain-added domains {domain["name"]}",
                $"Owner domain-changed domains {domain["name"]}",
                $"Owner deleted domains {domain["name"]}",
                "Owner token-created tokens reports",
                "Owner token-revoked tokens reports",
                "Owner settings-changed workspace",
                "Owner invited invitations ines@harbour.example",
                "Owner invitation-withdrawn invitations ines@harbour.example",
                "Owner exported audit",
            ]);
        var destination = log.Single(e => (string)e["action"]! == "destination-changed");
        ((string)destination["detail"]!, (string)destination["thing"]!, (string)destination["token"]!).ShouldBe(
            ($"{Page} → {Page}?again", (string)link["id"]!, "test")
        );
        ((string)log.Single(e => (string)e["action"]! == "settings-changed")["detail"]!).ShouldBe("publicName: none → The Observatory");
    }

    [Fact]
    public async Task Settings_within_settings_are_told_one_by_one_also_where_they_come_and_go()
    {
        var world = await World.Make(app);
        await Ok(world.Owner.PatchAsJsonAsync("/api/v1/handoff", new { questions = new { en = "May we?", de = "Dürfen wir?" } }, Cancel));
        await Ok(world.Owner.PatchAsJsonAsync("/api/v1/handoff", new { questions = new { en = "May we count you?" } }, Cancel));
        await Ok(world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { options = new { newTab = true } }, Cancel));
        (await Log(world.Owner))
            .Select(e => (string)e["detail"]!)
            .Reverse()
            .ShouldBe([
                "questions.de: none → Dürfen wir?; questions.en: none → May we?",
                "questions.de: Dürfen wir? → none; questions.en: May we? → May we count you?",
                "options.newTab: false → true",
            ]);
    }

    [Fact]
    public async Task What_was_refused_is_not_in_it_and_what_it_tells_of_has_happened()
    {
        var world = await World.Make(app);
        await world.Viewer.PatchAsJsonAsync("/api/v1/workspace", new { name = "Mine" }, Cancel);
        await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { name = "" }, Cancel);
        await world.Owner.PostAsync("/api/v1/members/leave", null, Cancel);
        await world.Owner.DeleteAsync($"/api/v1/domains/{(await world.Get("/api/v1/domains"))["items"]![0]!["id"]}x", Cancel);
        (await Log(world.Owner)).ShouldBeEmpty();
    }

    [Fact]
    public async Task It_is_filtered_by_person_action_name_and_day()
    {
        var world = await World.Make(app);
        foreach (var name in new[] { "Museums", "Churches" })
        {
            await Ok(world.Editor.DeleteAsync($"/api/v1/folders/{(await Make(world.Editor, "folders", new { name }))["id"]}", Cancel));
        }

        await Ok(world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { publicName = "The Observatory" }, Cancel));
        var people = (await World.Read(await world.Owner.GetAsync("/api/v1/audit/people", Cancel)))["items"]!.AsArray();
        people.Select(p => (string)p!["name"]!).ShouldBe(["Editor", "Owner"]);
        (await Log(world.Owner, $"person={people[0]!["id"]}")).Count.ShouldBe(2);
        (await Log(world.Owner, "action=settings-changed")).Count.ShouldBe(1);
        (await Log(world.Owner, "query=church")).Single()["name"]!.ToString().ShouldBe("Churches");
        (await Log(world.Owner, "kind=folders&limit=1")).Count.ShouldBe(1);
        (await Log(world.Owner, "to=2026-01-01")).ShouldBeEmpty();
        (await Log(world.Owner, "from=2026-01-01")).Count.ShouldBe(3);
        (await world.Owner.GetAsync("/api/v1/audit?action=danced", Cancel)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await world.Editor.GetAsync("/api/v1/audit", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await Log((await World.Make(app)).Owner)).ShouldBeEmpty("another workspace’s");
    }

    [Fact]
    public async Task The_database_refuses_to_change_it_and_lets_it_go_with_age_or_with_its_workspace()
    {
        var world = await World.Make(app);
        await Ok(world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { publicName = "The Observatory" }, Cancel));
        await using var db = app.Database();
        var mine = db.AuditEntries.Where(e => e.WorkspaceId == world.Workspace.Id);
        await Should.ThrowAsync<PostgresException>(() => mine.ExecuteUpdateAsync(e => e.SetProperty(x => x.Who, "Nobody"), Cancel));
        await Should.ThrowAsync<PostgresException>(() => mine.ExecuteDeleteAsync(Cancel));
        db.Add(
            new AuditEntry
            {
                WorkspaceId = world.Workspace.Id,
                At = NodaTime.SystemClock.Instance.GetCurrentInstant() - AuditEntry.Life - NodaTime.Duration.FromDays(1),
                Action = AuditAction.Left,
                Who = "Somebody",
                Kind = "members",
            }
        );
        await db.SaveChangesAsync(Cancel);
        await new Web.Access.AccessCleaning(db, NodaTime.SystemClock.Instance).Run(Cancel);
        (await mine.Select(e => e.Action).ToListAsync(Cancel)).ShouldBe([AuditAction.SettingsChanged]);
    }

    private static async Task<List<JsonNode>> Log(HttpClient owner, string filter = "limit=100") =>
        [.. (await World.Read(await owner.GetAsync($"/api/v1/audit?{filter}", Cancel)))["items"]!.AsArray().Select(e => e!)];

    private static async Task<JsonNode> Make(HttpClient by, string path, object body)
    {
        var answer = await by.PostAsJsonAsync($"/api/v1/{path}", body, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Created, await answer.Content.ReadAsStringAsync(Cancel));
        return await World.Read(answer);
    }

    private static async Task Ok(Task<HttpResponseMessage> request)
    {
        var answer = await request;
        answer.IsSuccessStatusCode.ShouldBeTrue(await answer.Content.ReadAsStringAsync(Cancel));
    }
}
