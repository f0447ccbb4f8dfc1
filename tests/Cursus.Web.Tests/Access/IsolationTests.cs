using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Core.Checking;
using Cursus.Web.Access;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Cursus.Web.Tests.Access;

/// <summary>A workspace never sees another's data. The endpoints are taken from the application itself, so that a new one is tested without being named here.</summary>
public class IsolationTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_entry_of_another_workspace_does_not_exist()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        var foreign = await IdsOf(other);
        var withId = Endpoints().Where(e => e.Pattern.Contains("{id", StringComparison.Ordinal)).ToList();
        withId.Count.ShouldBeGreaterThan(15);
        foreach (var (method, pattern) in withId)
        {
            var feature = pattern.Split('/')[3];
            foreign.ShouldContainKey(feature, $"{method} {pattern} needs an entry of another workspace to be tested with");
            var path = pattern.Replace("{id:guid}", foreign[feature], StringComparison.Ordinal).Replace("{number:int}", "1", StringComparison.Ordinal);
            var answer = await mine.Owner.SendAsync(new HttpRequestMessage(new HttpMethod(method), path) { Content = method is "GET" or "DELETE" ? null : JsonContent.Create(new { name = "Taken over" }) }, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.NotFound, $"{method} {path}");
            (await other.Owner.SendAsync(new HttpRequestMessage(HttpMethod.Get, $"/api/v1/{feature}?limit=500"), Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        }

        (await IdsOf(other, make: false)).ShouldBe(foreign, ignoreOrder: true);
    }

    [Fact]
    public async Task No_list_and_no_report_shows_anything_of_another_workspace()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        var foreign = await IdsOf(other);
        var post = await World.Read(await other.Owner.GetAsync($"/api/v1/posts/{foreign["posts"]}", Cancel));
        await other.Visit(World.Slug(post, 0));
        await app.Shipped();

        var lists = Endpoints().Where(e => e.Method == "GET" && !e.Pattern.Contains('{', StringComparison.Ordinal) && !e.Pattern.EndsWith("introduction", StringComparison.Ordinal)
            && !e.Pattern.EndsWith("live", StringComparison.Ordinal)).ToList();
        lists.Count.ShouldBeGreaterThan(9);
        foreach (var (_, pattern) in lists)
        {
            var text = await (await mine.Owner.GetAsync(pattern + (pattern.Contains("/reports/", StringComparison.Ordinal) ? "?by=link&across=post" : "?query=a&limit=500"), Cancel)).Content.ReadAsStringAsync(Cancel);
            foreach (var secret in foreign.Values.Append(other.Domain).Append(other.Workspace.Name).Append(other.OwnerEmail))
            {
                text.ShouldNotContain(secret, customMessage: pattern);
            }
        }

        var asked = await mine.Breakdown($"by=link&link={post["placements"]![0]!["link"]!["id"]}");
        ((int)asked["total"]!["clicks"]!).ShouldBe(0);
    }

    [Fact]
    public async Task Another_workspaces_words_cannot_be_used()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        await other.Owner.PostAsJsonAsync("/api/v1/campaigns", new { name = "Perseid nights" }, Cancel);
        var refused = await mine.Editor.PostAsJsonAsync("/api/v1/posts", World.Post(p =>
        {
            p["campaign"] = "perseid-nights";
            p["domain"] = other.Domain;
        }), Cancel);
        var errors = (await World.Read(refused))["errors"]!;
        errors["campaign"].ShouldNotBeNull();
        errors["domain"].ShouldNotBeNull();
        (await mine.Owner.PostAsJsonAsync("/api/v1/domains", new { name = other.Domain }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    private List<(string Method, string Pattern)> Endpoints() => [.. app.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>()
        .Where(e => e.Metadata.GetMetadata<NeedsRole>() is not null)
        .SelectMany(e => e.Metadata.GetRequiredMetadata<IHttpMethodMetadata>().HttpMethods.Select(m => (m, "/" + e.RoutePattern.RawText!.TrimStart('/'))))];

    /// <summary>One entry of each feature that has entries.</summary>
    private static async Task<Dictionary<string, string>> IdsOf(World world, bool make = true)
    {
        if (make)
        {
            await world.Send(p => p["tags"] = new JsonArray("event"));
            await world.Owner.PostAsJsonAsync("/api/v1/tokens", new { name = "mine" }, Cancel);
            await world.Owner.PostAsJsonAsync("/api/v1/recipes", new { name = $"As on {world.Domain}", content = World.Post() }, Cancel);
            await world.Owner.PutAsJsonAsync($"/api/v1/drafts/{Guid.NewGuid()}", World.Post(), Cancel);
            await world.Owner.PostAsJsonAsync("/api/v1/agreed-values", new { field = "term", value = world.Domain }, Cancel);
            await world.Owner.PostAsJsonAsync("/api/v1/tag-merges", new { field = "source", from = world.Domain, into = "perch" }, Cancel);
            await world.Owner.PostAsync($"/api/v1/batches?name={world.Domain}", new StringContent("northmoor.example"), Cancel);
            await world.Owner.PostAsJsonAsync("/api/v1/referrer-rules", new { host = $"forum.{world.Domain}", channel = "perch" }, Cancel);
            await world.Owner.PostAsJsonAsync("/api/v1/views", new { name = $"Year of {world.Domain}", question = "by=channel&period=this-year" }, Cancel);
            await world.Owner.PostAsJsonAsync("/api/v1/pixels", new { name = $"Of {world.Domain}", network = "image-pixel", reference = $"https://{world.Domain}/p.gif" }, Cancel);
            await world.Owner.PostAsJsonAsync("/api/v1/code-styles", new { name = $"Plum of {world.Domain}" }, Cancel);
            await world.Owner.PostAsync($"/api/v1/code-logos?name={world.Domain}", new StringContent("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 8 8'><rect width='8' height='8'/></svg>", null, "image/svg+xml"), Cancel);
            await world.Owner.PostAsJsonAsync("/api/v1/saved-filters", new { name = $"Of {world.Domain}", filter = $"domain={world.Domain}" }, Cancel);
            await world.ChangeMany(new { links = new { filter = new { } }, change = new { addTags = new[] { $"from {world.Domain}" } } });
            await using var db = world.App.Database();
            await db.CheckedPages.Where(c => c.WorkspaceId == world.Workspace.Id)
                .ExecuteUpdateAsync(c => c.SetProperty(x => x.Verdict, PageVerdict.Gone).SetProperty(x => x.NeedsCare, true), Cancel);
            await world.Owner.PostAsJsonAsync("/api/v1/folders", new { name = $"Shop of {world.Domain}" }, Cancel);
        }

        var ids = new Dictionary<string, string>();
        foreach (var feature in new[] { "posts", "links", "channels", "campaigns", "domains", "tags", "tokens", "folders", "recipes", "drafts", "agreed-values", "tag-merges", "batches", "referrer-rules", "views", "pixels", "code-styles", "code-logos", "saved-filters", "link-changes", "link-checks" })
        {
            var list = await World.Read(await world.Owner.GetAsync($"/api/v1/{feature}", Cancel));
            ids[feature] = (string)list["items"]![0]!["id"]!;
        }

        return ids;
    }
}
