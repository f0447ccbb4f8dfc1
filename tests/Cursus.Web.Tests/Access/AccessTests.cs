using System.Net;
using System.Net.Http.Json;
using Microsoft.AspNetCore.Mvc.Testing;

namespace Cursus.Web.Tests.Access;

public class AccessTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Signing_in_opens_a_session_in_which_changes_need_the_csrf_token()
    {
        var world = await World.Make(app);
        using var browser = await SignIn(world.OwnerEmail, World.Password);
        var session = await World.Read(await browser.GetAsync("/api/v1/session", Cancel));
        ((string)session["role"]!, (string)session["workspace"]!).ShouldBe(("owner", world.Workspace.Name));

        var without = await browser.PostAsJsonAsync("/api/v1/posts", World.Post(), Cancel);
        without.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        ((string)(await World.Read(without))["code"]!).ShouldBe("csrf");

        browser.DefaultRequestHeaders.Add("X-CSRF-Token", (string)session["csrfToken"]!);
        (await browser.PostAsJsonAsync("/api/v1/posts", World.Post(), Cancel)).StatusCode.ShouldBe(HttpStatusCode.Created);
        (await browser.DeleteAsync("/api/v1/session", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await browser.GetAsync("/api/v1/session", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task A_sign_in_that_comes_from_another_site_is_refused()
    {
        var world = await World.Make(app);
        var client = World.FromAnyNetwork(app.CreateClient());
        client.DefaultRequestHeaders.Add("Origin", "https://elsewhere.example");
        var response = await client.PostAsJsonAsync("/api/v1/session", new { email = world.OwnerEmail, password = World.Password }, Cancel);
        response.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Theory]
    [InlineData(null)]
    [InlineData("Bearer nonsense")]
    [InlineData("Bearer ")]
    [InlineData("Basic bWFyZW46eA==")]
    public async Task Nobody_gets_in_without_a_valid_token(string? authorization)
    {
        var client = app.CreateClient();
        client.DefaultRequestHeaders.TryAddWithoutValidation("Authorization", authorization);
        var response = await client.GetAsync("/api/v1/links", Cancel);
        response.StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        ((string)(await World.Read(response))["code"]!).ShouldBe("not-signed-in");
    }

    [Fact]
    public async Task A_token_made_in_Set_up_works_until_it_is_revoked_and_is_not_stored_as_text()
    {
        var world = await World.Make(app);
        var made = await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/tokens", new { name = "Calendar robot" }, Cancel));
        var client = app.CreateClient();
        client.DefaultRequestHeaders.Authorization = new("Bearer", (string)made["token"]!);
        (await client.GetAsync("/api/v1/links", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        await using (var db = app.Database())
        {
            var stored = db.ApiTokens.Single(t => t.Id == (Guid)made["id"]!);
            Convert.ToHexString(stored.Hash).ShouldNotContain(((string)made["token"]!)[7..], Case.Insensitive);
        }

        (await client.DeleteAsync($"/api/v1/tokens/{made["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await client.GetAsync("/api/v1/links", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
    }

    [Fact]
    public async Task Roles_may_what_they_may_and_no_more()
    {
        var world = await World.Make(app);
        (await world.Viewer.GetAsync("/api/v1/links", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        var post = await world.Viewer.PostAsJsonAsync("/api/v1/posts", World.Post(), Cancel);
        post.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        ((string)(await World.Read(post))["code"]!).ShouldBe("role");
        (await world.Editor.PostAsJsonAsync("/api/v1/campaigns", new { name = "Perseid nights" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Created
        );
        (await world.Editor.PostAsJsonAsync("/api/v1/domains", new { name = "go.localhost" }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Owner.PostAsJsonAsync("/api/v1/domains", new { name = $"go-{Guid.NewGuid():N}.localhost" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Created
        );
    }

    [Fact]
    public async Task An_installation_with_an_owner_takes_no_second_first_owner()
    {
        await World.Make(app);
        var again = new
        {
            name = "A",
            email = "a@northmoor.example",
            password = "long enough",
            workspace = "B",
            timeZone = "Europe/London",
        };
        (await World.FromAnyNetwork(app.CreateClient()).PostAsJsonAsync("/api/v1/installation", again, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Conflict
        );
        ((bool)(await World.Read(await app.CreateClient().GetAsync("/api/v1/installation", Cancel)))["needsOwner"]!).ShouldBeFalse();
    }

    private async Task<HttpClient> SignIn(string email, string password)
    {
        var browser = World.FromAnyNetwork(app.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = true }));
        var response = await browser.PostAsJsonAsync("/api/v1/session", new { email, password }, Cancel);
        response.StatusCode.ShouldBe(HttpStatusCode.NoContent);
        return browser;
    }
}
