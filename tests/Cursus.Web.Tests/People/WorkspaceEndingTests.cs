using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Web.Workspaces;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Tests.People;

/// <summary>Workspaces that are put away, for a time or for good, and owners who hand theirs over.</summary>
public class WorkspaceEndingTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task In_an_archived_workspace_links_work_and_reports_are_read_and_nothing_is_changed_until_it_is_restored()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        (await Post(world.Editor, "workspace/archive")).ShouldBe(HttpStatusCode.Forbidden, "only owners");
        (await Post(world.Owner, "workspace/archive")).ShouldBe(HttpStatusCode.OK);

        var refused = await world.Editor.PostAsJsonAsync("/api/v1/posts", World.Post(), Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        ((string)(await World.Read(refused))["code"]!).ShouldBe("workspace-archived");
        (await Post(world.Owner, "campaigns", new { name = "Late" })).ShouldBe(HttpStatusCode.Forbidden);
        (await Post(world.Editor, "codes/preview")).ShouldNotBe(HttpStatusCode.Forbidden, "it changes nothing");
        ((int)(await Read(world, "links"))["total"]!).ShouldBeGreaterThan(0);
        (await world.Visit(World.Slug(post, 0))).StatusCode.ShouldBe(HttpStatusCode.Found);

        (await Post(world.Owner, "workspace/restore")).ShouldBe(HttpStatusCode.OK);
        await world.Send();
    }

    [Fact]
    public async Task A_deletion_asks_for_name_and_password_and_can_be_called_off_for_thirty_days()
    {
        var world = await World.Make(app);
        (await Delete(world, "something else")).ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Delete(world, world.Workspace.Name, "not this one")).ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await Delete(world, world.Workspace.Name)).ShouldBe(HttpStatusCode.OK);
        var own = (await World.Read(await world.Owner.GetAsync("/api/v1/workspaces", Cancel)))["items"]![0]!;
        var left = Instant.FromDateTimeOffset((DateTimeOffset)own["deleteAt"]!) - SystemClock.Instance.GetCurrentInstant();
        left.ShouldBeInRange(Duration.FromDays(29.9), Duration.FromDays(30));
        await DeleteDue();
        (await Post(world.Owner, "workspace/restore")).ShouldBe(HttpStatusCode.OK);
        await Overdue(world, unless: true);
        await DeleteDue();
        await world.Send();
    }

    [Fact]
    public async Task Of_a_deleted_workspace_nothing_is_left_and_others_lose_nothing()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var (post, others) = (await world.Send(), await other.Send());
        await world.Visit(World.Slug(post, 0));
        await other.Visit(World.Slug(others, 0));
        await app.Shipped();
        var links = post["placements"]!.AsArray().Select(p => (Guid)p!["link"]!["id"]!).ToArray();
        var (before, othersBefore) = (await RowsOf(world), await RowsOf(other));
        before["links"].ShouldBe(links.Length);
        (await Count("select count(*) from clicks where link_id = any($1)", links)).ShouldBeGreaterThan(0);

        (await Delete(world, world.Workspace.Name)).ShouldBe(HttpStatusCode.OK);
        await Overdue(world);
        await DeleteDue();
        (await RowsOf(world)).Where(t => t.Value > 0).ShouldBeEmpty();
        (await Count("select count(*) from clicks where link_id = any($1)", links)).ShouldBe(0);
        (await RowsOf(other)).ShouldBe(othersBefore);
        (await other.Visit(World.Slug(others, 0))).StatusCode.ShouldBe(HttpStatusCode.Found);
        (await world.Visit(World.Slug(post, 0))).StatusCode.ShouldNotBe(HttpStatusCode.Found);
        (await world.Owner.GetAsync("/api/v1/session", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (await Post(other.Owner, "domains", new { name = world.Domain })).ShouldBe(HttpStatusCode.Created, "the domain is free");
    }

    [Fact]
    public async Task A_workspace_that_is_set_up_as_an_archived_one_is_at_work()
    {
        var world = await World.Make(app);
        (await Delete(world, world.Workspace.Name)).ShouldBe(HttpStatusCode.OK);
        (await Post(world.Owner, "workspaces", new { name = "Harbour Museum", copyFrom = world.Workspace.Key })).ShouldBe(HttpStatusCode.Created);
        var made = (await Read(world, "workspaces"))["items"]!.AsArray().Single(w => (string)w!["name"]! == "Harbour Museum")!;
        made["archivedAt"].ShouldBeNull();
        made["deleteAt"].ShouldBeNull();
    }

    [Fact]
    public async Task An_owner_hands_over_in_one_step_and_two_at_once_leave_an_owner()
    {
        var world = await World.Make(app);
        var members = (await World.Read(await world.Owner.GetAsync("/api/v1/members", Cancel)))["items"]!.AsArray();
        var (editor, viewer) = (IdOf("editor"), IdOf("viewer"));
        var answers = await Task.WhenAll(Post(world.Owner, $"members/{editor}/hand-over"), Post(world.Owner, $"members/{viewer}/hand-over"));
        answers.Count(a => a == HttpStatusCode.NoContent).ShouldBe(1);
        var roles = (await Read(world, "members"))["items"]!.AsArray().Select(m => (string)m!["role"]!).ToList();
        roles.Count(r => r == "owner").ShouldBe(1);
        ((string)(await World.Read(await world.Owner.GetAsync("/api/v1/session", Cancel)))["role"]!).ShouldBe("editor");

        string IdOf(string role) => (string)members.Single(m => (string)m!["role"]! == role)!["id"]!;
    }

    [Fact]
    public async Task The_overview_says_which_digest_has_not_been_read()
    {
        var world = await World.Make(app);
        (await Unread(world.Viewer)).ShouldNotBeNull();
        (await Post(world.Viewer, "reports/digest/read")).ShouldBe(HttpStatusCode.NoContent);
        (await Unread(world.Viewer)).ShouldBeNull();
        (await Unread(world.Editor)).ShouldNotBeNull();

        static async Task<string?> Unread(HttpClient who) =>
            (string?)(await World.Read(await who.GetAsync("/api/v1/workspaces", Cancel)))["items"]![0]!["unreadDigest"];
    }

    private static async Task<HttpStatusCode> Post(HttpClient who, string path, object? body = null) =>
        (await who.PostAsJsonAsync($"/api/v1/{path}", body ?? new { }, Cancel)).StatusCode;

    private static async Task<JsonNode> Read(World world, string path) => await World.Read(await world.Owner.GetAsync($"/api/v1/{path}", Cancel));

    private static Task<HttpStatusCode> Delete(World world, string name, string password = World.Password) =>
        Post(world.Owner, "workspace/delete", new { name, password });

    private async Task DeleteDue()
    {
        await using var scope = app.Services.CreateAsyncScope();
        await scope.ServiceProvider.GetRequiredService<WorkspaceDeletion>().Run(Cancel);
    }

    /// <summary>Lets the thirty days pass, where the workspace is to be deleted.</summary>
    /// <param name="unless">Whether it is expected not to be.</param>
    private async Task Overdue(World world, bool unless = false)
    {
        await using var db = app.Database();
        var past = SystemClock.Instance.GetCurrentInstant() - Duration.FromMinutes(1);
        var changed = await db
            .Workspaces.Where(w => w.Id == world.Workspace.Id && w.DeleteAt != null)
            .ExecuteUpdateAsync(w => w.SetProperty(x => x.DeleteAt, past), Cancel);
        changed.ShouldBe(unless ? 0 : 1);
    }

    /// <summary>How many rows each table has of a workspace.</summary>
    private async Task<Dictionary<string, long>> RowsOf(World world)
    {
        await using var db = app.Database();
        var tables = await db
            .Database.SqlQuery<string>(
                $"select c.table_name as \"Value\" from information_schema.columns c join information_schema.tables t using (table_schema, table_name) where c.column_name = 'workspace_id' and c.table_schema = 'public' and t.table_type = 'BASE TABLE'"
            )
            .ToListAsync(Cancel);
        var rows = new Dictionary<string, long>();
        foreach (var table in tables)
        {
            rows[table] = await Count($"select count(*) from {table} where workspace_id = any($1)", [world.Workspace.Id]);
        }

        return rows;
    }

    private async Task<long> Count(string sql, Guid[] ids)
    {
        await using var db = app.Database();
        await db.Database.OpenConnectionAsync(Cancel);
        await using var command = new NpgsqlCommand(sql, (NpgsqlConnection)db.Database.GetDbConnection()) { Parameters = { new() { Value = ids } } };
        return (long)(await command.ExecuteScalarAsync(Cancel))!;
    }
}
