using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Access;

/// <summary>API tokens do what they were made for, and no more.</summary>
public class TokenTests(CursusApp app)
{
    private const string Page = "https://www.northmoor.example/visit";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_token_has_at_most_the_role_it_was_made_with_and_at_most_its_members()
    {
        var world = await World.Make(app);
        var viewing = await Token(world.Owner, new { name = "reports", role = "viewer" });
        (await viewing.GetAsync("/api/v1/links", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Link(viewing)).ShouldBe((HttpStatusCode.Forbidden, "role"));
        (await world.Editor.PostAsJsonAsync("/api/v1/tokens", new { name = "more", role = "owner" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        var child = await viewing.PostAsJsonAsync("/api/v1/tokens", new { name = "child", role = "editor" }, Cancel);
        child.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, "a token makes none that may more than itself");

        var owning = await Token(world.Owner, new { name = "all" });
        await using var db = app.Database();
        await db
            .Members.Where(m => m.WorkspaceId == world.Workspace.Id && m.Role == Role.Owner)
            .ExecuteUpdateAsync(m => m.SetProperty(x => x.Role, Role.Viewer), Cancel);
        (await Link(owning)).ShouldBe((HttpStatusCode.Forbidden, "role"), "its member’s role has become less");
    }

    [Fact]
    public async Task Scopes_let_read_or_make_links_and_nothing_else()
    {
        var world = await World.Make(app);
        var (reading, making) = (
            await Token(world.Owner, new { name = "reads", scope = "read" }),
            await Token(world.Owner, new { name = "makes", scope = "make-links" })
        );
        (await Link(reading)).ShouldBe((HttpStatusCode.Forbidden, "scope"));
        (await Link(making)).Status.ShouldBe(HttpStatusCode.Created);
        (await making.PostAsJsonAsync("/api/v1/posts", World.Post(), Cancel)).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await reading.PostAsJsonAsync("/api/v1/links/files", new { links = new { filter = new { } } }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.OK
        );

        // Of all operations that aren't plain reading, those that aren't refused.
        var let = new List<string>();
        foreach (var operation in ApiOperation.Of(app).Where(o => o.Method is not "GET" && !RolePoliciesTests.Open.Contains($"{o}")))
        {
            foreach (var (name, client) in new[] { ("read", reading), ("make-links", making) })
            {
                if (await Code(client, operation) != "scope")
                {
                    let.Add($"{name}: {operation}");
                }
            }
        }

        let.ShouldBe(
            [
                "make-links: POST /api/v1/posts",
                "make-links: POST /api/v1/posts/preview",
                "make-links: POST /api/v1/links",
                "make-links: POST /api/v1/batches",
                "make-links: POST /api/v1/batches/{id}/preview",
                "make-links: POST /api/v1/batches/{id}/run",
                "make-links: POST /api/v1/destinations/clean",
                .. new[]
                {
                    "links/files",
                    "links/{id}/routes/try",
                    "codes/files",
                    "codes/labels",
                    "codes/preview",
                    "codes/check",
                    "pixels/reading",
                }.SelectMany(p => new[] { $"read: POST /api/v1/{p}", $"make-links: POST /api/v1/{p}" }),
            ],
            ignoreOrder: true
        );
    }

    [Fact]
    public async Task An_expired_token_is_nobodys()
    {
        var world = await World.Make(app);
        var now = SystemClock.Instance.GetCurrentInstant();
        var token = await Token(world.Owner, new { name = "week", expiresAt = (now + Duration.FromDays(7)).ToString() });
        (await token.GetAsync("/api/v1/session", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        await using var db = app.Database();
        await db
            .ApiTokens.Where(t => t.Name == "week" && t.Member!.WorkspaceId == world.Workspace.Id)
            .ExecuteUpdateAsync(t => t.SetProperty(x => x.ExpiresAt, now), Cancel);
        (await token.GetAsync("/api/v1/session", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (
            await world.Owner.PostAsJsonAsync("/api/v1/tokens", new { name = "late", expiresAt = (now - Duration.FromDays(1)).ToString() }, Cancel)
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    /// <summary>IETF draft-ietf-httpapi-ratelimit-headers-10: a policy with its quota and window; what is left, and when it is full again.</summary>
    [Fact]
    public async Task Each_token_is_told_what_is_left_of_its_own_requests()
    {
        var world = await World.Make(app);
        await using var strict = app.WithWebHostBuilder(builder =>
            builder
                .UseSetting("Cursus:Limits:RequestsAtOnce", "3")
                .UseSetting("Cursus:Limits:RequestsEachSecond", "1")
                .UseSetting("Cursus:JournalFolder", app.Folder("journal-tokens"))
                .UseSetting("Cursus:SnapshotFile", app.Folder("tokens.snapshot"))
        );
        using var one = As(strict, await Token(world.Owner, new { name = "one" }));
        using var other = As(strict, await Token(world.Owner, new { name = "other" }));
        var first = await one.GetAsync("/api/v1/session", Cancel);
        first.Headers.GetValues("RateLimit-Policy").Single().ShouldBe("\"requests\";q=3;w=3");
        Left(first).ShouldBe(2);
        var more = await Task.WhenAll(Enumerable.Range(0, 30).Select(_ => one.GetAsync("/api/v1/session", Cancel)));
        Left(more.First(a => a.StatusCode == HttpStatusCode.TooManyRequests)).ShouldBeLessThan(2);
        Left(await other.GetAsync("/api/v1/session", Cancel)).ShouldBe(2, "another token of the same member");
    }

    private static HttpClient As(WebApplicationFactory<Program> host, HttpClient somebody)
    {
        var client = host.CreateClient();
        client.DefaultRequestHeaders.Authorization = somebody.DefaultRequestHeaders.Authorization;
        return client;
    }

    private static int Left(HttpResponseMessage answer)
    {
        var told = answer.Headers.GetValues("RateLimit").Single();
        return int.Parse(told.Split("r=")[1].Split(';')[0], System.Globalization.CultureInfo.InvariantCulture);
    }

    private static async Task<string?> Code(HttpClient client, ApiOperation operation)
    {
        var answer = await client.SendAsync(operation.Request(), Cancel);
        var isProblem = answer.Content.Headers.ContentType?.MediaType == "application/problem+json";
        return isProblem ? (string?)(await World.Read(answer))["code"] : null;
    }

    private static async Task<(HttpStatusCode Status, string? Code)> Link(HttpClient client)
    {
        var answer = await client.PostAsJsonAsync("/api/v1/links", new { destination = Page }, Cancel);
        return (answer.StatusCode, (string?)(await World.Read(answer)).AsObject()["code"]);
    }

    private async Task<HttpClient> Token(HttpClient by, object token)
    {
        var answer = await by.PostAsJsonAsync("/api/v1/tokens", token, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Created, await answer.Content.ReadAsStringAsync(Cancel));
        var client = app.CreateClient();
        client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", (string)(await World.Read(answer))["token"]!);
        return client;
    }
}
