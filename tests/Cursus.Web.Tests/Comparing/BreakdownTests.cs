using System.Net;
using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Tests.Comparing;

public class BreakdownTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private sealed record Made(string Channel, string Source, string Medium, string Content, Click Click);

    [Theory]
    [InlineData("Europe/London")]
    [InlineData("Pacific/Kiritimati")]
    public async Task Every_report_equals_a_naive_recount(string timeZone)
    {
        var world = await World.Make(app, timeZone);
        var made = await MakeClicks(world, 1500);
        var zone = DateTimeZoneProviders.Tzdb[timeZone];
        var random = new Random(11);
        for (var question = 0; question < 20; question++)
        {
            // Both clock changes of London's year lie within these days.
            var from = new LocalDate(2026, 3, 1).PlusDays(random.Next(0, 260));
            var to = from.PlusDays(random.Next(0, 60));
            var by = new[] { "channel", "source", "medium", "content" }[random.Next(4)];
            var filter = random.Next(2) == 0 ? "" : "&channel=perch&channel=guildhall";
            string Key(Made m) => by switch { "channel" => m.Channel, "source" => m.Source, "medium" => m.Medium, _ => m.Content };
            bool IsAsked(Made m) => (filter.Length == 0 || m.Channel is "perch" or "guildhall") && m.Click.At.InZone(zone).Date is var d && d >= from && d <= to;

            var report = await world.Get($"/api/v1/reports/breakdown?by={by}&from={LocalDatePattern.Iso.Format(from)}&to={LocalDatePattern.Iso.Format(to)}{filter}");

            var people = made.Where(m => IsAsked(m) && m.Click.Kind == ClickKind.Person).ToList();
            ((int)report["total"]!["clicks"]!).ShouldBe(people.Count);
            ((int)report["total"]!["visitors"]!).ShouldBe(people.Select(m => m.Click.Visitor).Distinct().Count());
            ((int)report["excluded"]!["team"]!).ShouldBe(made.Count(m => IsAsked(m) && m.Click.Kind == ClickKind.Team));
            ((int)report["excluded"]!["machines"]!).ShouldBe(made.Count(m => IsAsked(m) && m.Click.Kind == ClickKind.Machine));
            report["rows"]!.AsArray().Where(r => (int)r!["clicks"]! > 0).ToDictionary(r => (string)r!["key"]!, r => ((int)r!["clicks"]!, (int)r["visitors"]!))
                .ShouldBe(people.GroupBy(Key).ToDictionary(g => g.Key, g => (g.Count(), g.Select(m => m.Click.Visitor).Distinct().Count())), ignoreOrder: true);
        }
    }

    [Fact]
    public async Task The_period_before_is_counted_beside_this_one()
    {
        var world = await World.Make(app);
        var made = await MakeClicks(world, 400);
        var zone = DateTimeZoneProviders.Tzdb["Europe/London"];
        int Count(string channel, LocalDate from, LocalDate to) => made.Count(m =>
            m.Channel == channel && m.Click.Kind == ClickKind.Person && m.Click.At.InZone(zone).Date is var d && d >= from && d <= to);

        var report = await world.Get("/api/v1/reports/breakdown?by=channel&from=2026-06-01&to=2026-07-15&compare=previous");

        ((string)report["before"]!["from"]!).ShouldBe("2026-04-17");
        foreach (var row in report["rows"]!.AsArray())
        {
            var channel = (string)row!["key"]!;
            ((int)row["clicks"]!).ShouldBe(Count(channel, new(2026, 6, 1), new(2026, 7, 15)));
            ((int)row["previousClicks"]!).ShouldBe(Count(channel, new(2026, 4, 17), new(2026, 5, 31)));
        }
    }

    [Fact]
    public async Task The_series_adds_up_to_the_breakdown()
    {
        var world = await World.Make(app);
        await MakeClicks(world, 400);
        const string Asked = "by=channel&from=2026-03-01&to=2026-05-31";
        var breakdown = await world.Get("/api/v1/reports/breakdown?" + Asked);
        foreach (var (step, points) in new[] { ("day", 92), ("week", 14), ("month", 3) })
        {
            var series = await world.Get($"/api/v1/reports/series?{Asked}&step={step}");
            series["points"]!.AsArray().Count.ShouldBe(points);
            foreach (var row in breakdown["rows"]!.AsArray())
            {
                series["points"]!.AsArray().Sum(p => (int?)p!["clicks"]![(string)row!["key"]!] ?? 0).ShouldBe((int)row!["clicks"]!);
            }
        }
    }

    [Fact]
    public async Task A_channel_with_a_placement_but_no_click_is_shown_with_zero()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        await world.Visit(World.Slug(post, 0));
        var report = await world.Breakdown("by=channel");
        report["rows"]!.AsArray().Select(r => $"{r!["key"]} {r["clicks"]} {r["placements"]}").ShouldBe(["guildhall 1 1", "perch 0 1"]);
        ((string)report["answer"]!).ShouldBe("All 1 click came by Guildhall.");
    }

    [Theory]
    [InlineData("by=mood", "by")]
    [InlineData("", "by")]
    [InlineData("by=channel&from=2026-11-02&to=2026-11-01", "from")]
    [InlineData("by=channel&from=yesterday", "from")]
    [InlineData("by=channel&to=2026-13-01", "to")]
    [InlineData("by=channel&from=0001-01-01&to=2026-11-01", "from")]
    [InlineData("by=channel&compare=mars", "compare")]
    [InlineData("by=channel&chanel=perch", "chanel")]
    public async Task A_question_that_cannot_be_answered_is_told_why(string query, string field)
    {
        var world = await World.Make(app);
        var refused = await world.Viewer.GetAsync("/api/v1/reports/breakdown?" + query, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
    }

    /// <summary>Random clicks between March and December 2026 on links of four channels and two variants.</summary>
    private async Task<List<Made>> MakeClicks(World world, int count)
    {
        var post = await world.Send(p => p["placements"] = JsonNode.Parse("""
            [{"channel":"guildhall"},{"channel":"perch"},{"channel":"hearthside"},{"channel":"night-letter","variant":"logo"},{"channel":"night-letter","variant":"button"}]
            """));
        var links = post["placements"]!.AsArray().Select(p => p!["link"]!).ToList();
        var random = new Random(count);
        var begin = Instant.FromUtc(2026, 2, 27, 0, 0);
        var made = Enumerable.Range(0, count).Select(_ =>
        {
            var link = links[random.Next(links.Count)];
            var kind = random.Next(10) switch { 0 => ClickKind.Team, 1 => ClickKind.Machine, _ => ClickKind.Person };
            var click = new Click(begin + Duration.FromMinutes(random.Next(0, 290 * 24 * 60)), (Guid)link["id"]!, kind, random.Next(count / 2), default, default, "", "Mozilla/5.0", "en");
            return new Made((string)link["channel"]!, (string)link["source"]!, (string)link["medium"]!, (string?)link["content"] ?? "", click);
        }).ToList();
        await using var source = app.DataSource();
        var store = new ClickStore(source);
        var (id, _) = await store.Register(Guid.NewGuid(), Cancel);
        await store.Ship(id, [.. made.Select((m, i) => (i * 64L, m.Click))], count * 64L, Cancel);
        return made;
    }
}
