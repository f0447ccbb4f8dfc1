using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks.Sums;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Reports;

/// <summary>Clicks by how old the post was, recounted from the clicks themselves.</summary>
public class PostAgeTests(CursusApp app)
{
    private const string Days = "from=2026-02-20&to=2026-11-30";

    private static readonly DateTimeZone Zone = DateTimeZoneProviders.Tzdb["Europe/London"];
    private static int visitors;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Clicks before the day, from it on, and of a link that opened later than its first click; over the change to summer time, and with the
    /// older half in sealed months.</summary>
    [Fact]
    public async Task Each_click_counts_for_the_age_that_a_naive_reading_gives_it()
    {
        var world = await World.Make(app);
        var posts = new List<(Guid Link, LocalDate Day, LocalDateTime? Opens)>
        {
            (await Send(world, "2026-03-10"), new(2026, 3, 10), null),
            (await Send(world, "2026-03-28"), new(2026, 3, 28), null),
            (await Send(world, "2026-04-02"), new(2026, 4, 2), new(2026, 4, 2, 9, 30)),
        };
        await Open(posts[2].Link, new LocalDateTime(2026, 4, 2, 9, 30));
        var random = new Random(8);
        var clicks = posts
            .SelectMany(p =>
                Enumerable
                    .Range(0, 120)
                    .Select(_ => p.Day.At(new LocalTime(7, 20)).PlusMinutes((long)(-40_000 * Math.Log(1 - random.NextDouble())) - 900))
                    .Select(at => Click(p.Link, at, random.Next(2) == 0 ? "GB" : "DE"))
            )
            .ToList();
        await app.Ship([.. clicks.Take(180)]);
        await using var source = app.DataSource();
        await new RollUps(source).SealDays(SystemClock.Instance.GetCurrentInstant(), Cancel);
        await app.Ship([.. clicks.Skip(180)]);

        var starts = posts.ToDictionary(
            p => p.Link,
            p => Hour(p.Opens ?? clicks.Where(c => c.LinkId == p.Link && Day(c) >= p.Day).Min(c => c.At.InZone(Zone).LocalDateTime))
        );
        var expected = clicks.Select(c => (Click: c, Age: Naive(c, starts[c.LinkId]))).ToList();
        expected.Select(e => e.Age).Distinct().Count().ShouldBe(6, "the clicks are of every age");

        Counts(await world.Breakdown($"by=age&{Days}")).ShouldBe(expected.CountBy(e => e.Age).ToDictionary(), ignoreOrder: true);

        // With another click detail, the clicks themselves are counted.
        Counts(await world.Breakdown("by=age&from=2026-03-25&to=2026-04-20&country=GB"))
            .ShouldBe(
                expected
                    .Where(e =>
                        $"{e.Click.Country}" == "GB" && Day(e.Click) >= new LocalDate(2026, 3, 25) && Day(e.Click) <= new LocalDate(2026, 4, 20)
                    )
                    .CountBy(e => e.Age)
                    .ToDictionary(),
                ignoreOrder: true
            );
        foreach (var age in expected.Select(e => e.Age).Distinct())
        {
            ((int)(await world.Breakdown($"by=channel&{Days}&age={age}"))["total"]!["clicks"]!).ShouldBe(expected.Count(e => e.Age == age), age);
        }

        var across = await world.Get($"/api/v1/reports/pivot?by=channel&across=age&{Days}");
        across["columns"]!.AsArray().Select(c => (string)c!["key"]!).ShouldBe(["before", "hour", "day", "week", "month", "later"]);
    }

    [Fact]
    public async Task A_post_whose_day_is_corrected_is_as_old_as_it_says_from_then_on()
    {
        var world = await World.Make(app);
        var link = await Send(world, "2026-03-10");
        await app.Ship([Click(link, new(2026, 3, 10, 8, 0)), Click(link, new(2026, 3, 12, 8, 0)), Click(link, new(2026, 3, 12, 8, 40))]);
        Counts(await world.Breakdown($"by=age&{Days}")).ShouldBe(new Dictionary<string, int> { ["hour"] = 1, ["week"] = 2 }, ignoreOrder: true);

        await using var db = app.Database();
        await db
            .Posts.Where(p => p.WorkspaceId == world.Workspace.Id)
            .ExecuteUpdateAsync(p => p.SetProperty(x => x.PublishedOn, new LocalDate(2026, 3, 12)), Cancel);

        Counts(await world.Breakdown($"by=age&{Days}")).ShouldBe(new Dictionary<string, int> { ["before"] = 1, ["hour"] = 2 }, ignoreOrder: true);
    }

    [Fact]
    public async Task An_answer_says_what_ages_it_is_narrowed_to()
    {
        var world = await World.Make(app);
        var answer = await world.Breakdown($"by=channel&{Days}&age=hour");
        answer["narrowed"]!.AsArray().Select(n => (string)n!["label"]!).ShouldBe(["first hour"]);
    }

    private static Dictionary<string, int> Counts(JsonNode answer) =>
        answer["rows"]!.AsArray().Where(r => (int)r!["clicks"]! > 0).ToDictionary(r => (string)r!["key"]!, r => (int)r!["clicks"]!);

    private static LocalDate Day(Click click) => click.At.InZone(Zone).Date;

    /// <summary>What people call it, by the hours between two clocks on the wall.</summary>
    private static string Naive(Click click, LocalDateTime start)
    {
        var hours = Period.Between(start, Hour(click.At.InZone(Zone).LocalDateTime), PeriodUnits.Hours).Hours;
        return hours < 0 ? "before"
            : hours == 0 ? "hour"
            : hours < 24 ? "day"
            : hours < 24 * 7 ? "week"
            : hours < 24 * 30 ? "month"
            : "later";
    }

    private static LocalDateTime Hour(LocalDateTime at) => at.Date.At(new LocalTime(at.Hour, 0));

    private static async Task<Guid> Send(World world, string day) =>
        (Guid)(await world.Send(p => p["publishedOn"] = day))["placements"]![0]!["link"]!["id"]!;

    private async Task Open(Guid link, LocalDateTime at)
    {
        await using var db = app.Database();
        var opens = at.InZoneStrictly(Zone).ToInstant();
        await db.Links.Where(l => l.Id == link).ExecuteUpdateAsync(l => l.SetProperty(x => x.OpensAt, opens), Cancel);
    }

    private static Click Click(Guid link, LocalDateTime at, string country = "GB") =>
        new(
            at.InZoneLeniently(Zone).ToInstant(),
            link,
            ClickKind.Person,
            Interlocked.Increment(ref visitors),
            CountryCode.Of(country),
            default,
            "",
            "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0",
            "en"
        );
}
