using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks.Sums;
using MiniExcelLibs;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Tests.Reports;

public class BreakdownTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private sealed record Made(string Channel, string Source, string Medium, string Content, Click Click);

    /// <summary>Half of the clicks come before the months are summed up and half too late, so that every road a click can take into a report is
    /// walked.</summary>
    [Theory]
    [InlineData("Europe/London")]
    [InlineData("Pacific/Kiritimati")]
    [InlineData("America/New_York")]
    public async Task Every_report_equals_a_naive_recount(string timeZone)
    {
        var world = await World.Make(app, timeZone);
        var made = await MakeClicks(world, 1500);
        var zone = DateTimeZoneProviders.Tzdb[timeZone];
        var random = new Random(11);
        string[] dimensions = ["channel", "source", "medium", "content", "country", "language", "referrer", "hour", "weekday"];
        for (var question = 0; question < 60; question++)
        {
            // Both clock changes of the year lie within these days.
            var from = new LocalDate(2026, 3, 1).PlusDays(random.Next(0, 260));
            var to = from.PlusDays(random.Next(0, 150));
            var by = dimensions[random.Next(dimensions.Length)];
            var (filter, isLet) = random.Next(4) switch
            {
                0 => ("&channel=perch&channel=guildhall", (Func<Made, bool>)(m => m.Channel is "perch" or "guildhall")),
                1 => ("&country=GB", m => m.Click.Country.ToString() == "GB"),
                2 => ("&channel=perch&language=en", m => m.Channel == "perch" && m.Click.Language == "en"),
                _ => ("", _ => true),
            };
            bool IsIn(Made m, LocalDate first, LocalDate last) => m.Click.At.InZone(zone).Date is var d && d >= first && d <= last;

            var report = await world.Get(
                $"/api/v1/reports/breakdown?by={by}&from={LocalDatePattern.Iso.Format(from)}&to={LocalDatePattern.Iso.Format(to)}{filter}"
            );

            var crosses =
                filter.Contains("country") && by is "language" or "referrer" or "hour" or "weekday"
                || filter.Contains("language") && by is "country" or "referrer" or "hour" or "weekday";
            var first = LocalDatePattern.Iso.Parse((string)report["from"]!).Value;
            var last = LocalDatePattern.Iso.Parse((string)report["to"]!).Value;
            (first, last).ShouldBe(report["narrowedFrom"] is null ? (from, to) : (last.PlusDays(-30), last));
            if (report["narrowedFrom"] is not null)
            {
                crosses.ShouldBeTrue();
            }

            var asked = made.Where(m => isLet(m) && IsIn(m, first, last)).ToList();
            var people = asked.Where(m => m.Click.Kind == ClickKind.Person).ToList();
            ((int)report["total"]!["clicks"]!).ShouldBe(people.Count, $"{by} {filter} {from} {to}");
            report["rows"]!
                .AsArray()
                .Where(r => (int)r!["clicks"]! > 0)
                .ToDictionary(r => (string)r!["key"]!, r => (int)r!["clicks"]!)
                .ShouldBe(
                    people.GroupBy(m => Key(m, by, zone)).ToDictionary(g => g.Key, g => g.Count()),
                    ignoreOrder: true,
                    $"{by} {filter} {from} {to}"
                );
            if (!filter.Contains("country") && !filter.Contains("language"))
            {
                ((int)report["total"]!["visitors"]!).ShouldBe(Visitors(people, zone));
                ((int)report["excluded"]!["team"]!).ShouldBe(asked.Count(m => m.Click.Kind == ClickKind.Team));
                ((int)report["excluded"]!["machines"]!).ShouldBe(asked.Count(m => m.Click.Kind == ClickKind.Machine));
            }
        }
    }

    [Fact]
    public async Task Two_dimensions_at_once_equal_a_naive_recount()
    {
        var world = await World.Make(app);
        var zone = DateTimeZoneProviders.Tzdb["Europe/London"];
        var people = (await MakeClicks(world, 900)).Where(m => m.Click.Kind == ClickKind.Person).ToList();
        foreach (
            var (by, across) in new[]
            {
                ("channel", "content"),
                ("channel", "country"),
                ("weekday", "hour"),
                ("country", "language"),
                ("referrer", "channel"),
            }
        )
        {
            var pivot = await world.Get($"/api/v1/reports/pivot?by={by}&across={across}&from=2026-03-01&to=2026-09-15");
            var first = LocalDatePattern.Iso.Parse((string)pivot["from"]!).Value;
            first.ShouldBe((by, across) == ("country", "language") ? new LocalDate(2026, 8, 16) : new LocalDate(2026, 3, 1));
            var expected = people
                .Where(m => m.Click.At.InZone(zone).Date is var d && d >= first && d <= new LocalDate(2026, 9, 15))
                .GroupBy(m => (Key(m, by, zone), Key(m, across, zone)))
                .ToDictionary(g => g.Key, g => g.Count());
            var columns = pivot["columns"]!.AsArray().Select(c => (string)c!["key"]!).ToList();
            var cells = pivot["rows"]!
                .AsArray()
                .SelectMany((row, r) => columns.Select((column, c) => (Key: ((string)row!["key"]!, column), Clicks: (int)pivot["cells"]![r]![c]!)));
            cells.Where(c => c.Clicks > 0).ToDictionary(c => c.Key, c => c.Clicks).ShouldBe(expected, ignoreOrder: true, $"{by} × {across}");
            ((int)pivot["total"]!).ShouldBe(expected.Values.Sum());
        }
    }

    [Fact]
    public async Task Groups_beyond_the_limit_are_summed_up_and_not_cut()
    {
        var world = await World.Make(app);
        await MakeClicks(world, 300);
        var all = await world.Get("/api/v1/reports/breakdown?by=channel&from=2026-03-01&to=2026-11-30");
        var first = await world.Get("/api/v1/reports/breakdown?by=channel&from=2026-03-01&to=2026-11-30&limit=1");
        first["rows"]!.AsArray().Count.ShouldBe(1);
        ((int)first["others"]!["groups"]!).ShouldBe(all["rows"]!.AsArray().Count - 1);
        ((int)first["others"]!["clicks"]! + (int)first["rows"]![0]!["clicks"]!).ShouldBe((int)all["total"]!["clicks"]!);
        all["others"].ShouldBeNull();
    }

    [Fact]
    public async Task Five_thousand_groups_are_answered_like_five()
    {
        var world = await World.Make(app);
        var link = (Guid)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        var now = SystemClock.Instance.GetCurrentInstant();
        await app.Ship([
            .. Enumerable
                .Range(0, 5000)
                .SelectMany(site =>
                    Enumerable
                        .Range(0, 1 + (site == 17 ? 40 : site % 3))
                        .Select(i => new Click(
                            now - Duration.FromMinutes(i),
                            link,
                            ClickKind.Person,
                            site * 100 + i,
                            default,
                            default,
                            $"site-{site}.example",
                            "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                            "en"
                        ))
                ),
        ]);
        var report = await world.Breakdown("by=referrer&period=last-7&limit=2000");
        ((string)report["rows"]![0]!["key"]!, (int)report["rows"]![0]!["clicks"]!).ShouldBe(("site-17.example", 41));
        report["rows"]!.AsArray().Count.ShouldBe(2000);
        ((int)report["others"]!["groups"]!).ShouldBe(3000);
        (report["rows"]!.AsArray().Sum(r => (int)r!["clicks"]!) + (int)report["others"]!["clicks"]!).ShouldBe((int)report["total"]!["clicks"]!);
    }

    [Fact]
    public async Task The_files_say_what_the_screen_says()
    {
        var world = await World.Make(app);
        await MakeClicks(world, 300);
        const string asked = "by=channel&from=2026-05-01&to=2026-10-31&compare=previous";
        var screen = await world.Get("/api/v1/reports/breakdown?" + asked);
        var expected = screen["rows"]!.AsArray().Select(r => ((string)r!["key"]!, (long)r["clicks"]!, (long)r["previousClicks"]!)).ToList();

        var csv = await world.Viewer.GetByteArrayAsync("/api/v1/reports/breakdown.csv?" + asked, Cancel);
        csv[..3].ShouldBe([0xEF, 0xBB, 0xBF]);
        var lines = Encoding.UTF8.GetString(csv[3..]).Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Select(l => l.Split(',')).ToList();
        lines[0]
            .ShouldBe([
                "channel",
                "name",
                "clicks",
                "visitors",
                "share",
                "share at least",
                "share at most",
                "clicks at least",
                "clicks at most",
                "posts",
                "clicks per post",
                "clicks per post at least",
                "clicks per post at most",
                "placements",
                "clicks per placement",
                "clicks per placement and day",
                "clicks before",
                "clicks compared with previous period",
            ]);
        lines
            .Skip(1)
            .Select(l => (l[0], long.Parse(l[2], CultureInfo.InvariantCulture), long.Parse(l[16], CultureInfo.InvariantCulture)))
            .ShouldBe(expected);
        (await world.Viewer.GetByteArrayAsync($"/api/v1/reports/breakdown.csv?{asked}&bom=false", Cancel))[0].ShouldBe((byte)'c');

        using var workbook = new MemoryStream(await world.Viewer.GetByteArrayAsync("/api/v1/reports/breakdown.xlsx?" + asked, Cancel));
        var rows = workbook.Query(useHeaderRow: true, sheetName: "Figures").Cast<IDictionary<string, object>>().ToList();
        rows.Select(r => ((string)r["channel"], (long)(double)r["clicks"], (long)(double)r["clicks before"])).ShouldBe(expected);
        var about = workbook
            .Query(useHeaderRow: true, sheetName: "Question")
            .Cast<IDictionary<string, object>>()
            .ToDictionary(r => (string)r["what"], r => r["value"]);
        about["first day"].ShouldBe(new DateTime(2026, 5, 1));
        about["answer"].ShouldBe((string)screen["answer"]!);
        about["excluded: team"].ShouldBe((double)screen["excluded"]!["team"]!);
    }

    [Fact]
    public async Task A_name_that_a_spreadsheet_would_run_is_defused()
    {
        var world = await World.Make(app);
        await world.Send(p => p["title"] = "=HYPERLINK(\"https://www.northmoor.example\")");
        var csv = await world.Viewer.GetStringAsync("/api/v1/reports/breakdown.csv?by=post", Cancel);
        csv.ShouldContain("HYPERLINK");
        csv.ShouldNotContain(",=HYPERLINK");
        csv.ShouldNotContain(",\"=HYPERLINK");
    }

    [Fact]
    public async Task The_clicks_themselves_are_those_that_the_report_counts()
    {
        var world = await World.Make(app);
        var made = await MakeClicks(world, 600);
        const string asked = "from=2026-04-01&to=2026-09-30&channel=perch&channel=guildhall&country=GB";
        var zone = DateTimeZoneProviders.Tzdb["Europe/London"];
        var expected = made.Where(m =>
                m.Channel is "perch" or "guildhall" && m.Click.Country.ToString() == "GB" && m.Click.At.InZone(zone).Date is { Month: >= 4 and <= 9 }
            )
            .OrderBy(m => m.Click.At)
            .Select(m => (InstantPattern.ExtendedIso.Format(m.Click.At), m.Channel, m.Click.Language, m.Click.Kind))
            .ToList();
        var people = expected.Where(e => e.Kind == ClickKind.Person).ToList();
        ((int)(await world.Get("/api/v1/reports/breakdown?by=channel&" + asked))["total"]!["clicks"]!).ShouldBe(people.Count);

        var csv = (await world.Viewer.GetStringAsync($"/api/v1/reports/clicks.csv?{asked}&bom=false", Cancel))
            .Split("\r\n", StringSplitOptions.RemoveEmptyEntries)
            .Select(l => l.Split(','))
            .ToList();
        csv[0]
            .ShouldBe([
                "at",
                "kind",
                "link",
                "channel",
                "campaign",
                "source",
                "medium",
                "content",
                "post",
                "country",
                "device",
                "browser",
                "os",
                "language",
                "referrer",
                "code",
                "id",
                "local",
                "linkId",
                "postId",
                "domain",
                "term",
                "tags",
                "pixels",
                "network",
                "site",
                "elsewhere",
                "age",
                "destination",
            ]);
        csv.Skip(1).Select(l => (l[0], l[3], l[13], Enum.Parse<ClickKind>(l[1], ignoreCase: true))).ShouldBe(people);

        var lines = (await world.Viewer.GetStringAsync($"/api/v1/reports/clicks.ndjson?{asked}&kinds=all", Cancel))
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => JsonNode.Parse(l)!)
            .ToList();
        lines
            .Select(l =>
                ((string)l["at"]!, (string)l["channel"]!, (string)l["language"]!, Enum.Parse<ClickKind>((string)l["kind"]!, ignoreCase: true))
            )
            .ShouldBe(expected);
        ((string)lines[0]["link"]!).ShouldStartWith(world.Domain + "/");
        (await world.Viewer.GetAsync($"/api/v1/reports/clicks.csv?{asked}&kinds=some", Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    [Theory]
    [InlineData("country")]
    [InlineData("channel")]
    [InlineData("tag")]
    public async Task What_was_left_out_is_told_also_where_nobody_clicked(string by)
    {
        var world = await World.Make(app);
        var link = (Guid)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        await app.Ship([
            new Click(
                SystemClock.Instance.GetCurrentInstant() - Duration.FromDays(2),
                link,
                ClickKind.Machine,
                1,
                default,
                default,
                "",
                "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                "en"
            ),
        ]);
        ((int)(await world.Get($"/api/v1/reports/breakdown?by={by}"))["excluded"]!["machines"]!).ShouldBe(1);
    }

    [Fact]
    public async Task A_part_of_today_is_held_against_the_same_part_of_the_day_before()
    {
        var world = await World.Make(app);
        var link = (Guid)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        var now = SystemClock.Instance.GetCurrentInstant();
        int[] minutesAgo = [2, 60 * 24 + 10, 60 * 24 - 10, 60 * 24 * 2];
        await app.Ship([
            .. minutesAgo.Select(
                (minutes, i) =>
                    new Click(
                        now - Duration.FromMinutes(minutes),
                        link,
                        ClickKind.Person,
                        i,
                        default,
                        default,
                        "",
                        "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                        "en"
                    )
            ),
        ]);
        var zone = DateTimeZoneProviders.Tzdb["Europe/London"];
        var midnight = zone.AtStartOfDay(now.InZone(zone).Date).ToInstant();
        var yesterday = zone.AtStartOfDay(now.InZone(zone).Date.PlusDays(-1)).ToInstant();

        var report = await world.Get("/api/v1/reports/breakdown?by=channel&period=today&compare=previous");

        ((bool)report["isUnfinished"]!).ShouldBeTrue();
        ((int)report["total"]!["clicks"]!).ShouldBe(minutesAgo.Count(minutes => now - Duration.FromMinutes(minutes) >= midnight));
        ((int)report["total"]!["previousClicks"]!).ShouldBe(
            minutesAgo.Count(minutes =>
                now - Duration.FromMinutes(minutes) is var at && at >= yesterday && at < midnight && at < now - Duration.FromHours(24)
            )
        );
    }

    [Fact]
    public async Task The_period_before_is_counted_beside_this_one()
    {
        var world = await World.Make(app);
        var made = await MakeClicks(world, 400);
        var zone = DateTimeZoneProviders.Tzdb["Europe/London"];
        int Count(string channel, LocalDate from, LocalDate to) =>
            made.Count(m =>
                m.Channel == channel && m.Click.Kind == ClickKind.Person && m.Click.At.InZone(zone).Date is var d && d >= from && d <= to
            );

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

    [Theory]
    [InlineData("from=2026-03-29&to=2026-03-29", "hour", 24)]
    [InlineData("from=2026-03-28&to=2026-03-29", "hour", 48)]
    [InlineData("from=2026-03-27&to=2026-03-29", "day", 3)]
    [InlineData("from=2026-01-01&to=2026-04-30", "day", 120)]
    [InlineData("from=2026-01-01&to=2026-05-01", "week", 18)]
    public async Task The_usual_step_is_the_one_in_which_a_course_can_be_read(string period, string step, int points)
    {
        var world = await World.Make(app);
        var series = await world.Get($"/api/v1/reports/series?by=channel&{period}&step=usual");
        ((string)series["step"]!).ShouldBe(step);
        series["points"]!.AsArray().Count.ShouldBe(points);
    }

    [Fact]
    public async Task The_course_of_today_ends_with_this_hour()
    {
        var world = await World.Make(app);
        await world.Visit(World.Slug(await world.Send(), 0));
        await app.Shipped();
        var points = (await world.Get("/api/v1/reports/series?by=channel&period=today&step=usual"))["points"]!.AsArray();
        var now = SystemClock.Instance.GetCurrentInstant().InZone(DateTimeZoneProviders.Tzdb["Europe/London"]);
        points.Count.ShouldBeInRange(now.Hour, now.Hour + 1);
        points.TakeLast(2).Sum(p => (int?)p!["clicks"]!["guildhall"] ?? 0).ShouldBe(1);
    }

    [Theory]
    [InlineData("from=2026-01-05&to=2026-01-31", "guildhall 0 1, hearthside 0 1, night-letter 0 1, perch 0 1")]
    [InlineData("from=2026-02-01&to=2026-02-28", "guildhall 1 1, perch 1 1")]
    [InlineData("from=2026-02-01&to=2026-02-28&country=GB", "perch 1 1")]
    [InlineData("from=2026-02-11&to=2026-06-30", "perch 1 1")]
    [InlineData("from=2026-06-01&to=2026-08-31&country=GB", "guildhall 1 1, hearthside 1 1")]
    public async Task The_placements_at_work_are_those_that_went_out_in_the_period_and_those_that_were_still_clicked(string period, string rows)
    {
        var world = await World.Make(app);
        var post = await world.Send(p =>
        {
            p["publishedOn"] = "2026-01-10";
            p["placements"] = JsonNode.Parse("""[{"channel":"guildhall"},{"channel":"perch"},{"channel":"hearthside"},{"channel":"night-letter"}]""");
        });
        Click At(int placement, int month, int day, string country) =>
            new(
                Instant.FromUtc(2026, month, day, 12, 0),
                (Guid)post["placements"]![placement]!["link"]!["id"]!,
                ClickKind.Person,
                month,
                CountryCode.Of(country),
                default,
                "",
                "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                "en"
            );
        await app.Ship([At(0, 2, 10, "DE"), At(0, 8, 1, "GB"), At(1, 2, 12, "GB"), At(2, 7, 1, "GB")]);

        var report = await world.Get($"/api/v1/reports/breakdown?by=channel&{period}");

        string.Join(", ", report["rows"]!.AsArray().Select(r => $"{r!["key"]} {r["clicks"]} {r["placements"]}").Order()).ShouldBe(rows);
    }

    [Fact]
    public async Task A_placement_from_before_that_machines_alone_still_open_is_not_at_work()
    {
        var world = await World.Make(app);
        var now = SystemClock.Instance.GetCurrentInstant();
        var post = await world.Send(p => p["publishedOn"] = LocalDatePattern.Iso.Format(now.InUtc().Date.PlusDays(-20)));
        Click Now(int placement, ClickKind kind) =>
            new(
                now - Duration.FromMinutes(1),
                (Guid)post["placements"]![placement]!["link"]!["id"]!,
                kind,
                placement,
                default,
                default,
                "",
                "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                "en"
            );
        await app.Ship([Now(0, ClickKind.Person), Now(1, ClickKind.Machine)]);

        var report = await world.Get("/api/v1/reports/breakdown?by=channel&period=last-7");

        report["rows"]!.AsArray().Select(r => $"{r!["key"]} {r["clicks"]} {r["placements"]}").ShouldBe(["guildhall 1 1"]);
    }

    [Fact]
    public async Task A_channel_with_a_placement_but_no_click_is_shown_with_zero()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        await world.Visit(World.Slug(post, 0));
        var report = await world.Breakdown("by=channel");
        report["rows"]!.AsArray().Select(r => $"{r!["key"]} {r["clicks"]} {r["placements"]}").ShouldBe(["guildhall 1 1", "perch 0 1"]);
        ((string)report["answer"]!).ShouldBe("The only click came from Guildhall.");
    }

    [Theory]
    [InlineData("series?by=channel&step=minute", "step", "Step is hour, day, week or month, or “usual” to let Cursus choose.")]
    [InlineData(
        "series?by=channel&step=hour&from=2026-01-01&to=2026-02-01",
        "step",
        "Hours are shown for at most 31 days. Choose days, or a shorter period."
    )]
    [InlineData("series?by=mood", "by", "You can’t compare by “mood”.")]
    [InlineData("pivot?by=channel&across=channel", "across", "“channel” can’t be split by “channel”.")]
    [InlineData("pivot?by=channel", "across", "“channel” can’t be split by “”.")]
    public async Task What_other_reports_can_t_answer_is_told_at_its_field_with_what_can_be_asked(string asked, string field, string words)
    {
        var world = await World.Make(app);
        var refused = await world.Viewer.GetAsync("/api/v1/reports/" + asked, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ((string)(await World.Read(refused))["errors"]![field]![0]!).ShouldStartWith(words);
    }

    [Theory]
    [InlineData("by=mood", "by")]
    [InlineData("", "by")]
    [InlineData("by=channel&from=2026-11-02&to=2026-11-01", "from")]
    [InlineData("by=channel&from=yesterday", "from")]
    [InlineData("by=channel&to=2026-13-01", "to")]
    [InlineData("by=channel&from=0001-01-01&to=2026-11-01", "from")]
    [InlineData("by=channel&compare=mars", "compare")]
    [InlineData("by=channel&period=some-day", "period")]
    [InlineData("by=channel&from=2016-01-01&to=2026-11-01", "from")]
    [InlineData("by=channel&limit=0", "limit")]
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
        var post = await world.Send(p =>
            p["placements"] = JsonNode.Parse(
                """
                [{"channel":"guildhall"},{"channel":"perch"},{"channel":"hearthside"},{"channel":"night-letter","variant":"logo"},{"channel":"night-letter","variant":"button"}]
                """
            )
        );
        var links = post["placements"]!.AsArray().Select(p => p!["link"]!).ToList();
        var random = new Random(count);
        var begin = Instant.FromUtc(2026, 2, 27, 0, 0);
        var made = Enumerable
            .Range(0, count)
            .Select(_ =>
            {
                var link = links[random.Next(links.Count)];
                var kind = random.Next(10) switch
                {
                    0 => ClickKind.Team,
                    1 => ClickKind.Machine,
                    _ => ClickKind.Person,
                };
                var click = new Click(
                    begin + Duration.FromMinutes(random.Next(0, 290 * 24 * 60)),
                    (Guid)link["id"]!,
                    kind,
                    random.Next(count / 2),
                    CountryCode.Of(new[] { "GB", "DE", "" }[random.Next(3)]),
                    default,
                    new[] { "", "perch.localhost", "guildhall.localhost" }[random.Next(3)],
                    "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                    new[] { "en", "de" }[random.Next(2)]
                );
                return new Made((string)link["channel"]!, (string)link["source"]!, (string)link["medium"]!, (string?)link["content"] ?? "", click);
            })
            .ToList();
        await app.Ship([.. made.Take(count / 2).Select(m => m.Click)]);
        await using var source = app.DataSource();
        await new RollUps(source).SealDays(SystemClock.Instance.GetCurrentInstant(), Cancel);
        await app.Ship([.. made.Skip(count / 2).Select(m => m.Click)]);
        return made;
    }

    private static int Visitors(IEnumerable<Made> people, DateTimeZone zone) =>
        people.Select(m => (m.Click.LinkId, m.Click.At.InZone(zone).Date, m.Click.Visitor)).Distinct().Count();

    private static string Key(Made m, string by, DateTimeZone zone) =>
        by switch
        {
            "channel" => m.Channel,
            "source" => m.Source,
            "medium" => m.Medium,
            "content" => m.Content,
            "country" => m.Click.Country.ToString(),
            "language" => m.Click.Language,
            "referrer" => m.Click.ReferrerHost,
            "hour" => m.Click.At.InZone(zone).Hour.ToString("00", CultureInfo.InvariantCulture),
            _ => ((int)m.Click.At.InZone(zone).DayOfWeek).ToString(CultureInfo.InvariantCulture),
        };
}
