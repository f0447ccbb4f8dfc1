using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Cursus.Data.Workspaces;
using Cursus.Web.Access;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Access;

/// <summary>What is kept for repeated requests: no secret, nothing large, nothing for long; and nothing that blocks a key for good.</summary>
public class IdempotencyTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_token_or_a_shared_address_stands_nowhere_but_in_its_first_answer()
    {
        var world = await World.Make(app);
        var made = await World.Read(await Post(world, "/api/v1/tokens", new { name = "Calendar robot" }, "token"));
        var repeated = await Post(world, "/api/v1/tokens", new { name = "Calendar robot" }, "token");
        repeated.StatusCode.ShouldBe(HttpStatusCode.Conflict);
        ((string)(await World.Read(repeated))["code"]!).ShouldBe("idempotency-done");

        var view = await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/views", new { name = "Channels", question = "by=channel" }, Cancel));
        var share = await Post(world, $"/api/v1/views/{view["id"]}/shares", new { name = "Trustees" }, "share");
        share.StatusCode.ShouldBe(HttpStatusCode.Created);
        await using var db = app.Database();
        var kept = await db.IdempotentAnswers.Where(a => a.Key == "token" || a.Key == "share").ToListAsync(Cancel);
        kept.Count.ShouldBe(2);
        kept.ShouldAllBe(a => a.Body == null && a.Status == 201);
        ((string?)made["token"]).ShouldNotBeNull();
    }

    [Fact]
    public async Task The_same_key_with_another_query_is_another_request()
    {
        var world = await World.Make(app);
        (await Post(world, "/api/v1/batches?name=one.csv", null, "query", "northmoor.example/winter")).StatusCode.ShouldBe(HttpStatusCode.Created);
        ((string)(await World.Read(await Post(world, "/api/v1/batches?name=two.csv", null, "query", "northmoor.example/winter")))["code"]!).ShouldBe(
            "idempotency-mismatch"
        );
    }

    [Fact]
    public async Task A_key_whose_process_died_over_it_is_free_again_and_one_that_still_runs_is_not()
    {
        var world = await World.Make(app);
        await using var db = app.Database();
        var member = await db.Members.SingleAsync(m => m.WorkspaceId == world.Workspace.Id && m.Role == Role.Editor, Cancel);
        var now = SystemClock.Instance.GetCurrentInstant();
        db.AddRange(
            new IdempotentAnswer
            {
                MemberId = member.Id,
                Key = "dead",
                Request = "?",
                CreatedAt = now,
                AliveUntil = now - Duration.FromSeconds(1),
            },
            new IdempotentAnswer
            {
                MemberId = member.Id,
                Key = "alive",
                Request = "?",
                CreatedAt = now,
                AliveUntil = now + Duration.FromMinutes(1),
            }
        );
        await db.SaveChangesAsync(Cancel);
        (await Post(world, "/api/v1/posts", World.Post(), "dead")).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await Post(world, "/api/v1/posts", World.Post(), "alive")).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task A_repeat_gets_status_headers_and_body_of_the_first_answer()
    {
        var world = await World.Make(app);
        var first = await Post(world, "/api/v1/folders", new { name = "Winter" }, "folder");
        first.StatusCode.ShouldBe(HttpStatusCode.Created);
        var again = await Post(world, "/api/v1/folders", new { name = "Winter" }, "folder");
        again.StatusCode.ShouldBe(HttpStatusCode.Created);
        again.Headers.Location.ShouldNotBeNull().ShouldBe(first.Headers.Location);
        HeadersOf(again).ShouldBe(HeadersOf(first), ignoreOrder: true);
        (await again.Content.ReadAsStringAsync(Cancel)).ShouldBe(await first.Content.ReadAsStringAsync(Cancel));
        (await world.Editor.GetAsync(again.Headers.Location, Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);

        var post = await world.Send();
        var link = post["placements"]![0]!["link"]!;
        (await world.Editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", new { title = "Geminids again" }, Cancel)).EnsureSuccessStatusCode();
        var restored = await Post(world, $"/api/v1/links/{link["id"]}/restore", new { version = 1 }, "restore");
        restored.StatusCode.ShouldBe(HttpStatusCode.OK, await restored.Content.ReadAsStringAsync(Cancel));
        restored.Headers.ETag.ShouldNotBeNull();
        (await Post(world, $"/api/v1/links/{link["id"]}/restore", new { version = 1 }, "restore")).Headers.ETag.ShouldBe(restored.Headers.ETag);
    }

    [Fact]
    public async Task Answers_are_kept_for_an_hour()
    {
        var world = await World.Make(app);
        var first = await World.Read(await Post(world, "/api/v1/posts", World.Post(), "hour"));
        await using var db = app.Database();
        var before = SystemClock.Instance.GetCurrentInstant() - IdempotentAnswer.Life - Duration.FromSeconds(1);
        await db.Database.ExecuteSqlAsync($"update idempotent_answers set created_at = {before} where key = 'hour'", Cancel);
        await new AccessCleaning(db, NodaTime.SystemClock.Instance).Run(Cancel);
        (await db.IdempotentAnswers.CountAsync(a => a.Key == "hour", Cancel)).ShouldBe(0);
        ((string)(await World.Read(await Post(world, "/api/v1/posts", World.Post(), "hour")))["id"]!).ShouldNotBe((string)first["id"]!);
    }

    /// <summary>All headers of an answer but those that tell of the moment: when it was, and how many requests are left.</summary>
    private static List<string> HeadersOf(HttpResponseMessage answer) =>
        [
            .. answer
                .Headers.Concat(answer.Content.Headers)
                .Where(h => h.Key is not ("Date" or "RateLimit"))
                .Select(h => $"{h.Key}: {string.Join(", ", h.Value)}"),
        ];

    private static async Task<HttpResponseMessage> Post(World world, string path, object? body, string key, string? text = null) =>
        await world.Editor.SendAsync(
            new HttpRequestMessage(HttpMethod.Post, path)
            {
                Content = text is null
                    ? JsonContent.Create(body is JsonNode node ? node : body)
                    : new StringContent(text, Encoding.UTF8, "text/plain"),
                Headers = { { "Idempotency-Key", key } },
            },
            Cancel
        );
}
