using System.Net;
using System.Net.Http.Json;
using Cursus.Edge;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Cursus.Web.Tests.Hosting;

public class DatabaseAwayTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task While_the_database_is_away_links_redirect_and_clicks_wait_and_afterwards_each_is_counted_once()
    {
        await using var app = new CursusApp(throughLine: true);
        await app.InitializeAsync();
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        await Visits(world, slug, 20);

        app.Line!.Cut();
        await Visits(world, slug, 30);
        (await Ready(app)).ShouldBe(HttpStatusCode.ServiceUnavailable);
        await Task.Delay(300, Cancel);
        await Visits(world, slug, 10);

        app.Line.Mend();
        await app.Shipped();
        (await Ready(app)).ShouldBe(HttpStatusCode.OK);
        ((int)(await world.Breakdown("by=channel"))["total"]!["clicks"]!).ShouldBe(60);
    }

    [Fact]
    public async Task Cuts_at_any_moment_neither_lose_nor_repeat_a_click()
    {
        await using var app = new CursusApp(throughLine: true);
        await app.InitializeAsync();
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        var random = new Random(5);
        for (var round = 0; round < 12; round++)
        {
            await Visits(world, slug, 25);
            await Task.Delay(random.Next(0, 90), Cancel);
            app.Line!.Cut();
            await Task.Delay(random.Next(0, 30), Cancel);
            app.Line.Mend();
        }

        // Who asks first after a cut may get a connection that was cut, and is told to come again.
        await app.Shipped();
        while ((await world.Viewer.GetAsync("/api/v1/reports/breakdown?by=channel", Cancel)).StatusCode == HttpStatusCode.ServiceUnavailable)
        {
            await Task.Delay(50, Cancel);
        }

        ((int)(await world.Breakdown("by=channel"))["total"]!["clicks"]!).ShouldBe(300);
    }

    [Fact]
    public async Task Members_are_told_to_come_again_and_nothing_fails_without_a_word()
    {
        await using var app = new CursusApp(throughLine: true);
        await app.InitializeAsync();
        var world = await World.Make(app);
        app.Line!.Cut();
        string[] asked =
        [
            "/api/v1/session",
            "/api/v1/links",
            "/api/v1/reports/breakdown?by=channel",
            "/api/v1/installation",
            "/api/v1/reports/clicks.csv",
            "/api/v1/shared/nothing",
        ];
        foreach (var path in asked)
        {
            await ShouldAskToComeAgain(await world.Owner.GetAsync(path, Cancel), path);
        }

        await ShouldAskToComeAgain(await world.Editor.PostAsJsonAsync("/api/v1/posts", World.Post(), Cancel), "post");
        var keyed = new HttpRequestMessage(HttpMethod.Post, "/api/v1/posts")
        {
            Content = JsonContent.Create(World.Post()),
            Headers = { { "Idempotency-Key", "away" } },
        };
        await ShouldAskToComeAgain(await world.Editor.SendAsync(keyed, Cancel), "post with a key");
        app.Line.Mend();
        await Until(async () => await Ready(app) == HttpStatusCode.OK);
        (await world.Get("/api/v1/posts"))["items"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task A_start_without_a_database_leads_on_by_the_snapshot_and_learns_the_rest_when_it_is_back()
    {
        await using var app = new CursusApp(throughLine: true);
        await app.InitializeAsync();
        var world = await World.Make(app);
        var post = await world.Send();
        await world.Send(p => p["title"] = "An evening for beginners");
        var (kept, removed) = (World.Slug(post, 0), World.Slug(post, 1));
        app.Services.GetRequiredService<SnapshotWriting>().Write().ShouldBeTrue();
        app.Services.GetRequiredService<SnapshotWriting>().Write().ShouldBeFalse("nothing has changed since");
        await using (var db = app.Database())
        {
            // As if it had been gone for so long that nobody remembers its removal.
            await db.Placements.Where(p => p.Link!.Slug == removed).ExecuteDeleteAsync(Cancel);
            await db.Links.Where(l => l.Slug == removed).ExecuteDeleteAsync(Cancel);
            await db.Database.ExecuteSqlAsync($"delete from removed_links", Cancel);
        }

        app.Line!.Cut();
        await using var restarted = app.WithWebHostBuilder(builder => builder.UseSetting("Cursus:JournalFolder", app.Folder("restarted")));
        (await Follow(restarted, world, kept)).StatusCode.ShouldBe(HttpStatusCode.Found);
        (await Follow(restarted, world, kept)).Headers.Location!.AbsoluteUri.ShouldContain("geminids-night");
        (await Follow(restarted, world, removed)).StatusCode.ShouldBe(HttpStatusCode.Found);
        (await Follow(restarted, world, "unheard-of")).StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable, "it may have been made since");
        using var members = restarted.CreateClient();
        await ShouldAskToComeAgain(await members.GetAsync("/api/v1/installation", Cancel), "while starting");

        app.Line.Mend();
        await Until(async () => await Ready(app) == HttpStatusCode.OK);
        var fresh = World.Slug(await world.Send(), 0);
        await Until(async () => (await members.GetAsync("/readyz", Cancel)).StatusCode == HttpStatusCode.OK);
        (await Follow(restarted, world, removed)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await Until(async () => (await Follow(restarted, world, fresh)).StatusCode == HttpStatusCode.Found);
        (await Follow(restarted, world, "unheard-of")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        await Until(async () => (int)(await world.Breakdown("by=channel"))["total"]!["clicks"]! >= 3);
    }

    private static async Task ShouldAskToComeAgain(HttpResponseMessage response, string what)
    {
        response.StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable, what);
        response.Headers.RetryAfter.ShouldNotBeNull(what);
        ((string?)(await World.Read(response))["code"]).ShouldBe("database-away", what);
    }

    private static async Task<HttpResponseMessage> Follow(WebApplicationFactory<Program> at, World world, string slug)
    {
        using var visitor = at.CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false, HandleCookies = false });
        var request = new HttpRequestMessage(HttpMethod.Get, $"http://{world.Domain}/{slug}");
        World.As(request, Random.Shared.Next());
        return await visitor.SendAsync(request, Cancel);
    }

    private static async Task Until(Func<Task<bool>> isTrue)
    {
        for (var tries = 0; !await isTrue(); tries++)
        {
            tries.ShouldBeLessThan(600);
            await Task.Delay(50, Cancel);
        }
    }

    private static async Task Visits(World world, string slug, int count)
    {
        for (var i = 0; i < count; i++)
        {
            (await world.Visit(slug)).StatusCode.ShouldBe(HttpStatusCode.Found);
        }
    }

    private static async Task<HttpStatusCode> Ready(CursusApp app) => (await app.CreateClient().GetAsync("/readyz", Cancel)).StatusCode;
}
