using System.Net;
using System.Text.Json.Nodes;
using System.Xml.Linq;
using Cursus.Core.Clicks;
using Cursus.Web.Drawing;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using SkiaSharp;

namespace Cursus.Web.Tests.Reports;

/// <summary>How long posts live, and how one keeps pace with those before it.</summary>
public class PostCourseTests(CursusApp app)
{
    private static readonly DateTimeZone Zone = DateTimeZoneProviders.Tzdb["Europe/London"];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Instant Now => SystemClock.Instance.GetCurrentInstant();

    [Fact]
    public async Task Half_and_nine_tenths_of_a_post_come_when_a_naive_reading_of_its_clicks_says()
    {
        var world = await World.Make(app);
        var post = await SendOn(world, daysAgo: 30);
        var random = new Random(5);

        // Times that are over: ages in hours, the first one at once.
        var ages = Enumerable
            .Range(0, 400)
            .Select(_ => (int)(-40 * Math.Log(1 - random.NextDouble())))
            .Where(h => h < 600)
            .Append(0)
            .Order()
            .ToList();
        var start = HourOf(Now - Duration.FromDays(29));
        await app.Ship([.. ages.Select(h => Click(Link(post, 0), start + Duration.FromHours(h)))]);

        var row = (await world.Get($"/api/v1/reports/life?by=channel&post={post["id"]}&period=last-90"))["rows"]!.AsArray().Single()!;

        ((string)row["key"]!).ShouldBe("guildhall");
        ((int)row["clicks"]!).ShouldBe(ages.Count);
        ((int)row["running"]!).ShouldBe(0);
        ((double)row["halfHours"]!).ShouldBe(ages[ages.Count / 2], 2);
        ((double)row["mostHours"]!).ShouldBe(ages[ages.Count * 9 / 10], 24);
        foreach (var arrival in row["arrived"]!.AsArray())
        {
            ((double)arrival!["share"]!).ShouldBe((double)ages.Count(h => h < (int)arrival["hours"]!) / ages.Count, 1e-9);
        }
    }

    [Fact]
    public async Task A_post_of_this_morning_is_held_against_the_channels_last_posts_at_its_age()
    {
        var world = await World.Make(app);
        var now = HourOf(Now);
        for (var day = 2; day <= 6; day++)
        {
            // The older, the more clicks in the first two hours: 2, 3, 4, 5, 6.
            var (old, clicks) = (await SendOn(world, day), day);
            await app.Ship([
                .. Enumerable.Range(0, clicks).Select(i => Click(Link(old, 0), now - Duration.FromDays(day) + Duration.FromHours(i % 2))),
                Click(Link(old, 0), now - Duration.FromHours(30)),
            ]);
        }

        var post = await SendOn(world, 0, hoursAgo: 2);
        await app.Ship([.. Enumerable.Range(0, 4).Select(_ => Click(Link(post, 0), now - Duration.FromHours(2))), Click(Link(post, 0), now)]);

        var pace = (await world.Get($"/api/v1/posts/{post["id"]}/pace"))["placements"]!.AsArray().Single()!;

        ((string)pace["channel"]!).ShouldBe("guildhall");
        ((int)pace["hours"]!).ShouldBe(2);
        ((int)pace["clicks"]!).ShouldBe(4, "the hour that isn’t over doesn’t count yet");
        ((int)pace["others"]!).ShouldBe(5);
        ((int)pace["ahead"]!).ShouldBe(2);
        ((double)pace["usual"]![1]!["middle"]!).ShouldBe(4);
        pace["course"]!.AsArray().Select(p => (int)p!["clicks"]!).ShouldBe([4, 4]);
    }

    [Fact]
    public async Task The_pace_of_a_post_is_taken_away_as_a_table_and_as_a_picture()
    {
        var world = await World.Make(app);
        var now = HourOf(Now);
        foreach (var day in new[] { 2, 3, 4 })
        {
            var old = await SendOn(world, day);
            await app.Ship([.. Enumerable.Range(0, 9).Select(i => Click(Link(old, 0), now - Duration.FromDays(day) + Duration.FromHours(i)))]);
        }

        var post = await SendOn(world, 0, hoursAgo: 5);
        await app.Ship([.. Enumerable.Range(0, 5).Select(i => Click(Link(post, 0), now - Duration.FromHours(5 - i)))]);

        var lines = (await world.Viewer.GetStringAsync($"/api/v1/posts/{post["id"]}/pace.csv?bom=false", Cancel)).Trim().Split("\r\n");
        lines.Length.ShouldBe(2);
        lines[0].ShouldBe("channel,placement,went out,hours since,clicks so far,ahead of,of the last");
        lines[1].ShouldEndWith(",5,5,0,3");
        lines[1].ShouldStartWith("guildhall,Guildhall,");
        XDocument.Parse(await world.Viewer.GetStringAsync($"/api/v1/posts/{post["id"]}/pace.svg", Cancel)).Root!.Name.LocalName.ShouldBe("svg");
        using var picture = SKBitmap.Decode(await world.Viewer.GetByteArrayAsync($"/api/v1/posts/{post["id"]}/pace.png?scale=1", Cancel));
        picture.Pixels.Count(p => p == Pen.Channels[0]).ShouldBeGreaterThan(200, "its own course");
        (await world.Viewer.GetAsync($"/api/v1/posts/{post["id"]}/pace.png?scale=5", Cancel)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await world.Viewer.GetAsync($"/api/v1/posts/{post["id"]}/pace.xlsx", Cancel)).Content.Headers.ContentType!.MediaType!.ShouldContain(
            "spreadsheet"
        );
    }

    [Fact]
    public async Task A_stray_click_before_the_day_of_publishing_begins_nothing()
    {
        var world = await World.Make(app);
        var post = await SendOn(world, 12);
        var start = Zone.AtStartOfDay(Now.InZone(Zone).Date.PlusDays(-12)).ToInstant() + Duration.FromHours(9);
        await app.Ship([
            Click(Link(post, 0), start - Duration.FromDays(6)),
            .. Enumerable.Range(0, 40).Select(i => Click(Link(post, 0), start + Duration.FromHours(i % 4))),
        ]);
        var row = (await world.Get($"/api/v1/reports/life?by=channel&post={post["id"]}&period=last-90"))["rows"]!.AsArray().Single()!;
        ((int)row["clicks"]!, Math.Round((double)row["halfHours"]!, 9)).ShouldBe((40, 2));
    }

    [Fact]
    public async Task A_link_that_opened_at_a_set_time_goes_out_then_however_late_the_first_click()
    {
        var world = await World.Make(app);
        var opened = Zone.AtStartOfDay(Now.InZone(Zone).Date.PlusDays(-5)).ToInstant() + Duration.FromHours(8);
        var post = await SendOn(world, 5);
        await using (var db = app.Database())
        {
            await db.Links.Where(l => l.Id == Link(post, 0)).ExecuteUpdateAsync(l => l.SetProperty(x => x.OpensAt, opened), Cancel);
        }

        await app.Ship([.. Enumerable.Range(0, 20).Select(i => Click(Link(post, 0), opened + Duration.FromHours(6) + Duration.FromMinutes(i)))]);
        var row = (await world.Get($"/api/v1/reports/life?by=channel&post={post["id"]}&period=last-90"))["rows"]!.AsArray().Single()!;
        ((double)row["halfHours"]!).ShouldBe(6.5, 1e-9);
    }

    [Fact]
    public async Task The_pace_of_a_post_that_nobody_has_clicked_is_drawn_too()
    {
        var world = await World.Make(app);
        var post = await SendOn(world, 0);
        (await world.Viewer.GetAsync($"/api/v1/posts/{post["id"]}/pace.png", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("by=country", "by")]
    [InlineData("by=channel&country=GB", "country")]
    [InlineData("by=mood", "by")]
    public async Task Life_cannot_be_asked_by_what_each_click_tells_anew(string query, string field)
    {
        var world = await World.Make(app);
        var refused = await world.Viewer.GetAsync("/api/v1/reports/life?" + query, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
    }

    [Fact]
    public async Task Posts_without_clicks_have_no_life_and_no_pace_yet()
    {
        var world = await World.Make(app);
        var post = await SendOn(world, 0);
        var life = await world.Get("/api/v1/reports/life?by=channel");
        life["rows"]!.AsArray().ShouldBeEmpty();
        ((string)life["answer"]!).ShouldStartWith("Too few clicks");
        (await world.Get($"/api/v1/posts/{post["id"]}/pace"))["placements"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task Another_workspace_neither_sees_a_post_nor_counts_among_its_like()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var (mine, theirs) = (await SendOn(world, 1), await SendOn(other, 1));
        await app.Ship([.. new[] { mine, theirs }.Select(p => Click(Link(p, 0), Now - Duration.FromHours(20)))]);
        (await other.Viewer.GetAsync($"/api/v1/posts/{mine["id"]}/pace", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        ((int)(await world.Get($"/api/v1/posts/{mine["id"]}/pace"))["placements"]![0]!["others"]!).ShouldBe(0);
        ((int)(await other.Get("/api/v1/reports/life?by=channel"))["rows"]![0]!["clicks"]!).ShouldBe(1);
    }

    private static Task<JsonNode> SendOn(World world, int daysAgo, int hoursAgo = 0) =>
        world.Send(p =>
        {
            p["publishedOn"] = NodaTime.Text.LocalDatePattern.Iso.Format((Now - Duration.FromHours(hoursAgo)).InZone(Zone).Date.PlusDays(-daysAgo));
            p["title"] = $"Post of {daysAgo} days ago";
        });

    private static Guid Link(JsonNode post, int placement) => (Guid)post["placements"]![placement]!["link"]!["id"]!;

    private static Instant HourOf(Instant at) => Instant.FromUnixTimeSeconds(at.ToUnixTimeSeconds() / 3600 * 3600);

    private static int visitors;

    private static Click Click(Guid link, Instant at) =>
        new(
            at,
            link,
            ClickKind.Person,
            Interlocked.Increment(ref visitors),
            CountryCode.Of("GB"),
            default,
            "",
            "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
            "en"
        );
}
