using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Sums;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Clicks;

/// <summary>Single clicks go when their workspace doesn't want them any longer; what they were counted as stays.</summary>
public class ClickRetentionTests
{
    private const string Firefox = "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0";
    private const string Safari =
        "Mozilla/5.0 (iPhone; CPU iPhone OS 18_6 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.6 Mobile/15E148 Safari/604.1";

    private static readonly Instant Now = SystemClock.Instance.GetCurrentInstant();
    private static readonly LocalDate Today = Now.InZone(DateTimeZoneProviders.Tzdb["Europe/London"]).Date;
    private static readonly LocalDate KeptFrom = RetentionRule.KeptFrom(Today, 14);

    private static readonly string Period = $"from={Today.PlusYears(-2).With(DateAdjusters.StartOfMonth):uuuu-MM-dd}&to={Today:uuuu-MM-dd}";

    private static readonly string[] ByDay =
    [
        $"/api/v1/reports/breakdown?by=channel&{Period}",
        $"/api/v1/reports/breakdown?by=device&{Period}",
        $"/api/v1/reports/breakdown?by=country&channel=instagram&{Period}",
        $"/api/v1/reports/series?by=channel&step=month&{Period}",
        $"/api/v1/reports/breakdown?by=weekday&{Period}",
        $"/api/v1/reports/life?by=channel&{Period}",
    ];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Old_clicks_are_deleted_and_every_report_by_day_stays_as_it_was()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var (world, other) = (await World.Make(app), await World.Make(app));
        var (links, otherLink) = (await LinksOf(world), (await LinksOf(other))[0]);
        await app.Ship([
            .. Enumerable.Range(0, 60).Select(i => Click(links[i % links.Length], Now - Duration.FromDays(i * 12 + 1), i)),
            Click(otherLink, Now - Duration.FromDays(700), 1),
        ]);
        await using var source = app.DataSource();
        var (rollUps, retention) = (new RollUps(source), new ClickRetention(source));
        await rollUps.SealDays(Now, Cancel);
        var before = await Reports(world);

        await retention.Keep(Now, Cancel);
        (await ClicksOf(app, links)).ShouldBe(60, "nobody wants any deleted yet");
        await Choose(world, 14);
        await retention.Keep(Now, Cancel);

        var kept = await ClicksOf(app, links);
        kept.ShouldBeInRange(34, 40, "fourteen months and a part of one, a click every twelve days");
        (await ClicksOf(app, [otherLink])).ShouldBe(1, "the other workspace keeps its own");
        (await Reports(world)).ShouldBe(before);
        await ShouldAgree(rollUps);
        ((string)(await world.Get("/api/v1/workspace"))["clicksKeptFrom"]!).ShouldBe($"{KeptFrom:uuuu-MM-dd}");

        await rollUps.Rebuild(Now, Cancel);
        (await Reports(world)).ShouldBe(before, "there is nothing to count these days from, so that they are left as they are");
        await ShouldAgree(rollUps);

        // One that was on its way for a year and more finds its day closed.
        await app.Ship([Click(links[0], Now - Duration.FromDays(600), 99)]);
        (await Reports(world)).ShouldBe(before);

        await retention.Keep(Now, Cancel);
        (await ClicksOf(app, links)).ShouldBe(kept);
        await retention.Keep(Now + Duration.FromDays(62), Cancel);
        (await ClicksOf(app, links)).ShouldBeInRange(kept - 6, kept - 4, "two months later two more months go");
        (await Reports(world)).ShouldBe(before);
    }

    [Fact]
    public async Task What_needs_single_clicks_says_how_far_back_it_goes()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var world = await World.Make(app);
        var links = await LinksOf(world);
        await app.Ship([.. Enumerable.Range(0, 60).Select(i => Click(links[0], Now - Duration.FromDays(i * 12 + 1), i))]);
        await Delete(app, world);
        var crossed = $"/api/v1/reports/pivot?by=device&across=country&link={links[0]}";

        var over = await world.Get($"{crossed}&{Period}");
        ((string)over["from"]!, (string)over["narrowedFrom"]!).ShouldBe(
            ($"{KeptFrom:uuuu-MM-dd}", $"{Today.PlusYears(-2).With(DateAdjusters.StartOfMonth):uuuu-MM-dd}")
        );
        ((int)over["total"]!).ShouldBe(await ClicksOf(app, [links[0]]));

        var refused = await world.Owner.GetAsync($"{crossed}&from={KeptFrom.PlusDays(-20):uuuu-MM-dd}&to={KeptFrom.PlusDays(-1):uuuu-MM-dd}", Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await refused.Content.ReadAsStringAsync(Cancel)).ShouldContain("clicks-deleted");

        // Devices of one country in fourteen days that are there, against fourteen that are not.
        var compared = await world.Get(
            $"/api/v1/reports/breakdown?by=device&country=GB&from={KeptFrom:uuuu-MM-dd}&to={KeptFrom.PlusDays(13):uuuu-MM-dd}&compare=previous"
        );
        (compared["before"], compared["total"]!["previousClicks"]).ShouldBe((null, null));

        await using var db = app.Database();
        await db.Links.Where(l => l.Id == links[0]).ExecuteUpdateAsync(l => l.SetProperty(x => x.CreatedAt, Now - Duration.FromDays(800)), Cancel);
        var history = await world.Get($"/api/v1/links/{links[0]}/history");
        history["items"]![0]!["clicks"].ShouldBeNull();
    }

    [Fact]
    public async Task An_archive_takes_along_what_is_known_of_deleted_clicks()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var world = await World.Make(app);
        var links = await LinksOf(world);
        await app.Ship([.. Enumerable.Range(0, 60).Select(i => Click(links[i % links.Length], Now - Duration.FromDays(i * 12 + 1), i))]);
        await Delete(app, world);
        var before = await Reports(world);
        var archive = await (await world.Owner.GetAsync("/api/v1/archive", Cancel)).Content.ReadAsByteArrayAsync(Cancel);

        await using var elsewhere = new CursusApp();
        await elsewhere.InitializeAsync();
        var heir = await World.Make(elsewhere);
        var imported = await heir.Owner.PostAsync(
            "/api/v1/archive",
            new ByteArrayContent(archive) { Headers = { ContentType = new MediaTypeHeaderValue("application/zip") } },
            Cancel
        );

        imported.StatusCode.ShouldBe(HttpStatusCode.OK);
        (await Reports(heir)).ShouldBe(before);
        await using var source = elsewhere.DataSource();
        await ShouldAgree(new RollUps(source));
        ((int)(await heir.Get("/api/v1/workspace"))["clicksKeptMonths"]!).ShouldBe(14);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(-14)]
    [InlineData(100_000)]
    public async Task Clicks_are_kept_for_one_of_the_offered_times(int months)
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var world = await World.Make(app);
        (await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { clicksKeptMonths = months }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await world.Editor.PatchAsJsonAsync("/api/v1/workspace", new { clicksKeptMonths = 14 }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden,
            "only owners delete what everybody's reports are made of"
        );
        ((int)(await world.Get("/api/v1/workspace"))["clicksKeptMonths"]!).ShouldBe(0);
    }

    private static Click Click(Guid link, Instant at, long visitor) =>
        new(
            at,
            link,
            ClickKind.Person,
            visitor,
            CountryCode.Of(visitor % 3 == 0 ? "DE" : "GB"),
            default,
            visitor % 4 == 0 ? "www.instagram.com" : "",
            visitor % 2 == 0 ? Firefox : Safari,
            "en"
        );

    private static async Task<Guid[]> LinksOf(World world)
    {
        var links = (await world.Send())["placements"]!.AsArray().Select(p => (Guid)p!["link"]!["id"]!).ToArray();
        await using var db = world.App.Database();
        await db
            .Posts.Where(p => p.WorkspaceId == world.Workspace.Id)
            .ExecuteUpdateAsync(p => p.SetProperty(x => x.PublishedOn, Today.PlusDays(-725)), Cancel);
        return links;
    }

    private static async Task Choose(World world, int months) =>
        (await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { clicksKeptMonths = months }, Cancel)).EnsureSuccessStatusCode();

    private static async Task Delete(CursusApp app, World world)
    {
        await using var source = app.DataSource();
        await new RollUps(source).SealDays(Now, Cancel);
        await Choose(world, 14);
        await new ClickRetention(source).Keep(Now, Cancel);
    }

    private static async Task<string[]> Reports(World world)
    {
        var reports = new List<string>();
        foreach (var path in ByDay)
        {
            var report = await world.Get(path);
            (report is JsonObject).ShouldBeTrue();
            reports.Add(report.ToJsonString());
        }

        var links = (await world.Get("/api/v1/links"))["items"]!.AsArray().Select(l => $"{l!["slug"]}: {l["clicks"]}, {l["lastClickAt"]}");
        return [.. reports, string.Join('\n', links)];
    }

    private static async Task ShouldAgree(RollUps rollUps)
    {
        var check = await rollUps.Check(Cancel);
        check.Differences.ShouldBeEmpty();
        check.Months.ShouldBeEmpty();
        (await rollUps.CheckTotals(Cancel)).ShouldBeEmpty();
    }

    private static async Task<int> ClicksOf(CursusApp app, Guid[] links)
    {
        await using var db = app.Database();
        return await db.Database.SqlQuery<int>($"select count(*)::int as \"Value\" from clicks where link_id = any({links})").SingleAsync(Cancel);
    }
}
