using System.Net;

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

        ((int)(await world.Breakdown("by=channel"))["total"]!["clicks"]!).ShouldBe(300);
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
