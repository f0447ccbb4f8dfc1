using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Reports;

/// <summary>Questions that are kept, and shown to people without an account.</summary>
public class SavedViewTests(CursusApp app)
{
    private const string Question = "by=channel&period=last-28&compare=previous&campaign=winter-members&course=stacked&sort=-share";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_view_keeps_its_question_and_pinned_ones_come_first()
    {
        var world = await World.Make(app);
        await Keep(world, "Autumn");
        var winter = await Keep(world, "Winter");
        await world.Editor.PatchAsJsonAsync($"/api/v1/views/{winter["id"]}", new { isPinned = true }, Cancel);
        var views = (await world.Get("/api/v1/views"))["items"]!.AsArray();
        views
            .Select(v => ((string)v!["name"]!, (string)v["question"]!, (bool)v["isPinned"]!, (string)v["createdBy"]!))
            .ShouldBe([("Winter", Question, true, "Editor"), ("Autumn", Question, false, "Editor")]);
    }

    [Theory]
    [InlineData("", Question, 422, "name")]
    [InlineData("Winter", "by=mood", 422, "by")]
    [InlineData("Winter", "by=channel&chanel=perch", 422, "chanel")]
    [InlineData("Taken", Question, 409, null)]
    public async Task What_could_not_be_answered_later_is_not_kept(string name, string question, int status, string? field)
    {
        var world = await World.Make(app);
        await Keep(world, "Taken");
        var refused = await world.Editor.PostAsJsonAsync("/api/v1/views", new { name, question }, Cancel);
        ((int)refused.StatusCode).ShouldBe(status);
        if (field is not null)
        {
            (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
        }
    }

    [Fact]
    public async Task A_viewer_reads_views_and_changes_none()
    {
        var world = await World.Make(app);
        var view = await Keep(world, "Winter");
        (await world.Viewer.PostAsJsonAsync("/api/v1/views", new { name = "Mine", question = Question }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await world.Viewer.PostAsJsonAsync($"/api/v1/views/{view["id"]}/shares", new { name = "The trustees" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await world.Get("/api/v1/views"))["items"]!.AsArray().Count.ShouldBe(1);
    }

    [Fact]
    public async Task Somebody_without_an_account_reads_the_same_answer_until_it_is_taken_back()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        for (var i = 0; i < 12; i++)
        {
            await world.Visit(World.Slug(post, i % 4 == 0 ? 1 : 0));
        }

        var screen = await world.Breakdown(Question);
        var view = await Keep(world, "Winter");
        var share = await Share(world, view, new { name = "The trustees" });
        var stranger = app.CreateClient();

        var shared = await World.Read(await stranger.GetAsync($"/api/v1/shared/{share["secret"]}", Cancel));

        ((string)shared["name"]!).ShouldBe("Winter");
        ((string)shared["answer"]!["answer"]!).ShouldBe((string)screen["answer"]!);
        shared["answer"]!["rows"]!.ToJsonString().ShouldBe(screen["rows"]!.ToJsonString());
        shared["channels"]!.AsArray().Select(c => (string)c!["key"]!).ShouldBe(["guildhall", "perch"], ignoreOrder: true);
        shared["course"]!["points"]!.AsArray().Sum(p => (int?)p!["clicks"]!["guildhall"] ?? 0).ShouldBe(9);
        ((string?)(await world.Get("/api/v1/views"))["items"]![0]!["shares"]![0]!["lastSeenAt"]).ShouldNotBeNull();

        (await world.Editor.DeleteAsync($"/api/v1/views/{view["id"]}/shares/{share["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var gone = await stranger.GetAsync($"/api/v1/shared/{share["secret"]}", Cancel);
        gone.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var never = await World.Read(await stranger.GetAsync("/api/v1/shared/0123456789abcdef", Cancel));
        ((string)(await World.Read(gone))["detail"]!).ShouldBe((string)never["detail"]!, "nobody learns which addresses there were");
    }

    [Fact]
    public async Task A_share_ends_on_its_day_and_with_its_view()
    {
        var world = await World.Make(app);
        var view = await Keep(world, "Winter");
        var (week, forever) = (await Share(world, view, new { name = "A", days = 7 }), await Share(world, view, new { name = "B" }));
        var stranger = app.CreateClient();
        await using (var db = app.Database())
        {
            var id = (Guid)week["id"]!;
            await db
                .ViewShares.Where(s => s.Id == id)
                .ExecuteUpdateAsync(s => s.SetProperty(x => x.ExpiresAt, SystemClock.Instance.GetCurrentInstant()), Cancel);
        }

        (await stranger.GetAsync($"/api/v1/shared/{week["secret"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await stranger.GetAsync($"/api/v1/shared/{forever["secret"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        await world.Editor.DeleteAsync($"/api/v1/views/{view["id"]}", Cancel);
        (await stranger.GetAsync($"/api/v1/shared/{forever["secret"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_database_does_not_know_the_secret()
    {
        var world = await World.Make(app);
        var share = await Share(world, await Keep(world, "Winter"), new { name = "The trustees" });
        await using var db = app.Database();
        var id = (Guid)share["id"]!;
        var stored = await db.ViewShares.SingleAsync(s => s.Id == id, Cancel);
        System.Text.Encoding.UTF8.GetString(stored.Hash).ShouldNotContain((string)share["secret"]!);
        ((string)share["secret"]!).Length.ShouldBe(48);
        (await world.Get("/api/v1/views")).ToJsonString().ShouldNotContain((string)share["secret"]!);
    }

    [Theory]
    [InlineData("", null, "name")]
    [InlineData("Trustees", 0, "days")]
    [InlineData("Trustees", 400, "days")]
    public async Task A_share_needs_a_name_and_an_end_that_makes_sense(string name, int? days, string field)
    {
        var world = await World.Make(app);
        var view = await Keep(world, "Winter");
        var refused = await world.Editor.PostAsJsonAsync($"/api/v1/views/{view["id"]}/shares", new { name, days }, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
    }

    [Fact]
    public async Task Another_workspace_can_neither_share_a_view_nor_take_a_share_back()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var view = await Keep(world, "Winter");
        var share = await Share(world, view, new { name = "The trustees" });
        (await other.Editor.PostAsJsonAsync($"/api/v1/views/{view["id"]}/shares", new { name = "Me" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
        (await other.Editor.DeleteAsync($"/api/v1/views/{view["id"]}/shares/{share["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await app.CreateClient().GetAsync($"/api/v1/shared/{share["secret"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    private static async Task<JsonNode> Keep(World world, string name)
    {
        var made = await world.Editor.PostAsJsonAsync("/api/v1/views", new { name, question = Question }, Cancel);
        made.StatusCode.ShouldBe(HttpStatusCode.Created);
        return await World.Read(made);
    }

    private static async Task<JsonNode> Share(World world, JsonNode view, object request)
    {
        var made = await world.Editor.PostAsJsonAsync($"/api/v1/views/{view["id"]}/shares", request, Cancel);
        made.StatusCode.ShouldBe(HttpStatusCode.Created);
        return await World.Read(made);
    }
}
