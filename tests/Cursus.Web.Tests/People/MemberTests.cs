using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Workspaces;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.People;

/// <summary>Who belongs to a workspace: roles change, people leave, and somebody always owns it.</summary>
public class MemberTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_changed_role_holds_from_the_next_request_on()
    {
        var world = await World.Make(app);
        var viewer = await MemberIn(world, Role.Viewer);
        (await Make(world.Viewer)).ShouldBe(HttpStatusCode.Forbidden);
        (await Change(world.Owner, viewer, "editor")).ShouldBe(HttpStatusCode.NoContent);
        (await Make(world.Viewer)).ShouldBe(HttpStatusCode.Created);
        (await Change(world.Editor, viewer, "owner")).ShouldBe(HttpStatusCode.Forbidden);
        (await Change((await World.Make(app)).Owner, viewer, "viewer")).ShouldBe(HttpStatusCode.NotFound, "another workspace’s");
    }

    [Fact]
    public async Task Whoever_is_removed_gets_in_no_more_and_what_they_made_keeps_their_name()
    {
        var world = await World.Make(app);
        var link = await World.Read(
            await world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = "https://www.northmoor.example/visit" }, Cancel)
        );
        var editor = await MemberIn(world, Role.Editor);
        (await world.Owner.DeleteAsync($"/api/v1/members/{editor}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await world.Editor.GetAsync("/api/v1/links", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        ((string)(await world.Get($"/api/v1/links/{link["id"]}"))["createdBy"]!).ShouldBe("Editor");
        (await world.Get("/api/v1/members"))["items"]!.AsArray().Select(m => (string)m!["name"]!).ShouldBe(["Owner", "Viewer"]);
        await using var db = app.Database();
        (await db.ApiTokens.CountAsync(t => t.MemberId == editor, Cancel)).ShouldBe(0);
    }

    [Fact]
    public async Task The_last_owner_stays_owner_and_stays()
    {
        var world = await World.Make(app);
        var owner = await MemberIn(world, Role.Owner);
        (await Change(world.Owner, owner, "editor")).ShouldBe(HttpStatusCode.Conflict);
        (await world.Owner.DeleteAsync($"/api/v1/members/{owner}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await world.Owner.PostAsync("/api/v1/members/leave", null, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);

        (await Change(world.Owner, await MemberIn(world, Role.Editor), "owner")).ShouldBe(HttpStatusCode.NoContent);
        (await world.Owner.PostAsync("/api/v1/members/leave", null, Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await world.Owner.GetAsync("/api/v1/session", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Two_owners_who_leave_at_once_do_not_leave_a_workspace_without_one()
    {
        for (var round = 0; round < 5; round++)
        {
            var world = await World.Make(app);
            (await Change(world.Owner, await MemberIn(world, Role.Editor), "owner")).ShouldBe(HttpStatusCode.NoContent);
            var answers = await Task.WhenAll(
                world.Owner.PostAsync("/api/v1/members/leave", null, Cancel),
                world.Editor.PostAsync("/api/v1/members/leave", null, Cancel)
            );
            answers.Select(a => a.StatusCode).Order().ShouldBe([HttpStatusCode.NoContent, HttpStatusCode.Conflict]);
        }
    }

    private async Task<Guid> MemberIn(World world, Role role)
    {
        await using var db = app.Database();
        return await db.Members.Where(m => m.WorkspaceId == world.Workspace.Id && m.Role == role).Select(m => m.Id).FirstAsync(Cancel);
    }

    private static async Task<HttpStatusCode> Change(HttpClient by, Guid member, string role) =>
        (await by.PatchAsJsonAsync($"/api/v1/members/{member}", new JsonObject { ["role"] = role }, Cancel)).StatusCode;

    private static async Task<HttpStatusCode> Make(HttpClient by) =>
        (await by.PostAsJsonAsync("/api/v1/links", new { destination = "https://www.northmoor.example/visit" }, Cancel)).StatusCode;
}
