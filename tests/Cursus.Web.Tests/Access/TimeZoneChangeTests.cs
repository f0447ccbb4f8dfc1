using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Sums;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Access;

/// <summary>A workspace may move to another time zone: its past is counted again by the new clock, and nothing of it is lost.</summary>
public class TimeZoneChangeTests
{
    private const string Firefox = "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0";

    private static readonly Instant Now = SystemClock.Instance.GetCurrentInstant();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Across the date line both ways, and by half hours.</summary>
    [Theory]
    [InlineData("Europe/London", "Pacific/Auckland")]
    [InlineData("Pacific/Auckland", "America/Los_Angeles")]
    [InlineData("America/New_York", "Asia/Kolkata")]
    public async Task Every_past_day_is_counted_by_the_new_clock(string before, string after)
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var (world, other) = (await World.Make(app, before), await World.Make(app, before));
        var (links, others) = (await LinksOf(world), await LinksOf(other));
        var clicks = Enumerable.Range(0, 400).Select(i => Click(links[i % links.Length], Now - Duration.FromMinutes(331 * i + 5), i)).ToList();
        await app.Ship([.. clicks, .. clicks.Select(c => Click(others[0], c.At, c.Visitor))]);
        await using var source = app.DataSource();
        var rollUps = new RollUps(source);
        await rollUps.SealDays(Now, Cancel);
        (await Days(other)).ShouldBe(Counted(clicks, before));

        await Change(world, after);

        (await Days(world)).ShouldBe(Counted(clicks, after));
        (await Days(other)).ShouldBe(Counted(clicks, before), "the other workspace keeps its own clock");
        ((string)(await world.Get("/api/v1/workspace"))["timeZone"]!).ShouldBe(after);
        await ShouldAgree(rollUps);
    }

    [Fact]
    public async Task Visits_that_come_after_it_count_by_the_new_clock_too()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var world = await World.Make(app, "Pacific/Honolulu");
        var slug = (string)(await world.Send())["placements"]![0]!["link"]!["slug"]!;
        await world.Visit(slug);
        await app.Shipped();

        await Change(world, "Pacific/Kiritimati");
        await world.Visit(slug);

        // A day apart whatever the hour: who still counted by the old clock would put the visit on another day.
        var today = SystemClock.Instance.GetCurrentInstant().InZone(DateTimeZoneProviders.Tzdb["Pacific/Kiritimati"]).Date;
        ((long)(await world.Breakdown($"by=channel&from={today:uuuu-MM-dd}&to={today:uuuu-MM-dd}"))["total"]!["clicks"]!).ShouldBe(2);
        await using var source = app.DataSource();
        await ShouldAgree(new RollUps(source));
    }

    /// <summary>West, hours of the first kept day fall before it; east, some of it is only known as it was counted.</summary>
    [Theory]
    [InlineData("America/Los_Angeles")]
    [InlineData("Pacific/Auckland")]
    public async Task Where_single_clicks_are_deleted_the_days_before_stay_and_no_click_is_lost_or_counted_twice(string after)
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var world = await World.Make(app);
        var links = await LinksOf(world);
        var london = DateTimeZoneProviders.Tzdb["Europe/London"];
        var keptFrom = RetentionRule.KeptFrom(Now.InZone(london).Date, 14);
        var edge = london.AtStartOfDay(keptFrom).ToInstant();
        await app.Ship([
            .. Enumerable.Range(0, 120).Select(i => Click(links[i % links.Length], edge + Duration.FromHours(i - 60) + Duration.FromMinutes(1), i)),
        ]);
        await using var source = app.DataSource();
        var rollUps = new RollUps(source);
        await rollUps.SealDays(Now, Cancel);
        (await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { clicksKeptMonths = 14 }, Cancel)).EnsureSuccessStatusCode();
        await new ClickRetention(source).Keep(Now, Cancel);
        var before = await Days(world);

        await Change(world, after);

        var days = await Days(world);
        days.Values.Sum().ShouldBe(120);
        days.Where(d => string.CompareOrdinal(d.Key, $"{keptFrom:uuuu-MM-dd}") < 0)
            .ShouldBe(before.Where(d => string.CompareOrdinal(d.Key, $"{keptFrom:uuuu-MM-dd}") < 0));
        await ShouldAgree(rollUps);

        await Change(world, "Europe/London");
        (await Days(world)).ShouldBe(before, "back again, everything is as it was");
    }

    [Fact]
    public async Task Only_an_owner_changes_it_and_only_to_a_zone_that_there_is()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var world = await World.Make(app);
        (await world.Editor.PutAsJsonAsync("/api/v1/workspace/time-zone", new { timeZone = "Asia/Tokyo" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await world.Owner.PutAsJsonAsync("/api/v1/workspace/time-zone", new { timeZone = "Middle/Earth" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await world.Owner.PutAsJsonAsync("/api/v1/workspace/time-zone", new { timeZone = "Europe/London" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.OK,
            "it is there already"
        );
        (await world.Owner.DeleteAsync("/api/v1/workspace/time-zone/change", Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NoContent,
            "there is nothing to cancel"
        );
    }

    [Fact]
    public async Task Cancelled_in_the_middle_it_leaves_every_day_as_it_was()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var world = await World.Make(app);
        var links = await LinksOf(world);
        await app.Ship([.. Enumerable.Range(0, 50).Select(i => Click(links[0], Now - Duration.FromHours(7 * i), i))]);
        await using var source = app.DataSource();
        var rollUps = new RollUps(source);
        var before = await Days(world);
        using var cancelled = new CancellationTokenSource();

        await Should.ThrowAsync<OperationCanceledException>(() =>
            rollUps.ChangeZone(
                world.Workspace.Id,
                DateTimeZoneProviders.Tzdb["Asia/Tokyo"],
                note: null,
                new CancelsAtOnce(cancelled),
                cancelled.Token
            )
        );

        (await Days(world)).ShouldBe(before);
        ((string)(await world.Get("/api/v1/workspace"))["timeZone"]!).ShouldBe("Europe/London");
        await ShouldAgree(rollUps);
    }

    private sealed class CancelsAtOnce(CancellationTokenSource source) : IProgress<int>
    {
        public void Report(int value) => source.Cancel();
    }

    private static Click Click(Guid link, Instant at, long visitor) =>
        new(at, link, ClickKind.Person, visitor, CountryCode.Of("GB"), default, "", Firefox, "en");

    private static async Task<Guid[]> LinksOf(World world) =>
        [.. (await world.Send())["placements"]!.AsArray().Select(p => (Guid)p!["link"]!["id"]!)];

    private static async Task Change(World world, string zone)
    {
        (await world.Owner.PutAsJsonAsync("/api/v1/workspace/time-zone", new { timeZone = zone }, Cancel)).IsSuccessStatusCode.ShouldBeTrue();
        JsonNode state;
        while ((state = await world.Get("/api/v1/workspace/time-zone"))["next"] is not null)
        {
            await Task.Delay(50, Cancel);
        }

        ((string?)state["failure"]).ShouldBeNull();
        ((string)state["timeZone"]!).ShouldBe(zone);
    }

    /// <summary>Counted one by one, by the day on a zone's clock.</summary>
    private static SortedDictionary<string, long> Counted(IEnumerable<Click> clicks, string zone) =>
        new(
            clicks.CountBy(c => $"{c.At.InZone(DateTimeZoneProviders.Tzdb[zone]).Date:uuuu-MM-dd}").ToDictionary(c => c.Key, c => (long)c.Value),
            StringComparer.Ordinal
        );

    /// <summary>As the trend of two years shows them.</summary>
    private static async Task<SortedDictionary<string, long>> Days(World world)
    {
        var days = new SortedDictionary<string, long>(StringComparer.Ordinal);
        var first = Now.InUtc().Date.PlusYears(-2);
        for (var from = first; from < Now.InUtc().Date.PlusDays(2); from = from.PlusDays(100))
        {
            var series = await world.Get($"/api/v1/reports/series?by=channel&step=day&from={from:uuuu-MM-dd}&to={from.PlusDays(99):uuuu-MM-dd}");
            foreach (var point in series["points"]!.AsArray())
            {
                var clicks = point!["clicks"]!.AsObject().Sum(c => (long)c.Value!);
                if (clicks > 0)
                {
                    days[(string)point["at"]!] = clicks;
                }
            }
        }

        return days;
    }

    private static async Task ShouldAgree(RollUps rollUps)
    {
        var check = await rollUps.Check(Cancel);
        check.Differences.ShouldBeEmpty();
        check.Months.ShouldBeEmpty();
        (await rollUps.CheckTotals(Cancel)).ShouldBeEmpty();
    }
}
