using System.Net;
using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using Cursus.Core.Reports;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Tests.Reports;

/// <summary>What a report says about a lead, held against the same posts put together by hand.</summary>
public class VerdictReportTests(CursusApp app)
{
    private static readonly DateTimeZone Zone = DateTimeZoneProviders.Tzdb["Europe/London"];

    private static int visitors;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Instant Now => SystemClock.Instance.GetCurrentInstant();

    private static LocalDate Today => Now.InZone(Zone).Date;

    /// <summary>Six posts of the last days: what each brought to Guildhall and to Perch.</summary>
    private static readonly (int DaysAgo, int Guildhall, int Perch)[] Posts =
    [
        (20, 12, 7),
        (17, 30, 16),
        (13, 9, 5),
        (9, 22, 14),
        (5, 16, 8),
        (2, 25, 15),
    ];

    [Fact]
    public async Task A_lead_is_judged_by_the_posts_that_both_channels_share()
    {
        var world = await World.Make(app);
        await SendAll(world);
        var report = await world.Get("/api/v1/reports/breakdown?by=channel&period=last-28");
        var expected = Verdict.Between(Units(p => p.Guildhall), Units(p => p.Perch), Known());
        var verdict = report["verdict"]!;

        ((string)verdict["leader"]!, (string)verdict["unit"]!, (int)verdict["clusters"]!, (bool)verdict["paired"]!).ShouldBe(
            ("guildhall", "post", 6, true)
        );
        ((string)verdict["call"]!).ShouldBe("clear");
        ((double)verdict["ratio"]!).ShouldBe(114.0 / 65, 1e-12);
        ((double)verdict["low"]!).ShouldBe(expected.Low!.Value, 1e-9);
        ((double)verdict["high"]!).ShouldBe(expected.High!.Value, 1e-9);
        ((string)report["answer"]!).ShouldStartWith(
            "Guildhall brought the most: 114 clicks (63.7%). Its lead over Perch is clear: with posts like these it would come out ahead again, by a factor of 1.75 ("
        );
        var row = report["rows"]![0]!;
        ((int)row["posts"]!, (double)row["clicksPerPost"]!).ShouldBe((6, 19));
        var whisker = ClusteredEstimate.OfMean(Units(p => p.Guildhall), Known()).Interval();
        ((double)row["low"]!, (double)row["high"]!).ShouldBe((whisker.Low, whisker.High));
    }

    [Fact]
    public async Task One_post_alone_says_nothing_about_the_next()
    {
        var world = await World.Make(app);
        var post = await Send(world, 3, 400, 20);
        var report = await world.Get($"/api/v1/reports/breakdown?by=channel&post={post["id"]}");
        ((string)report["verdict"]!["call"]!, (int)report["verdict"]!["clusters"]!).ShouldBe(("too-few", 1));
        report["verdict"]!["low"].ShouldBeNull();
        report["rows"]![0]!["low"].ShouldBeNull();
        ((string)report["answer"]!).ShouldBe(
            "Guildhall brought the most: 400 clicks (95.2%). Too few posts to say whether this would happen again: 1 for Guildhall, 1 for Perch, and each needs at least 4."
        );
        (await world.Get($"/api/v1/reports/breakdown?by=placement&post={post["id"]}"))["verdict"]
            .ShouldBeNull("a single link has nothing to be judged by");
    }

    [Fact]
    public async Task A_channel_that_leads_only_by_posting_more_often_is_told_by_the_answer_itself()
    {
        var world = await World.Make(app);
        foreach (var (daysAgo, i) in Enumerable.Range(1, 24).Select((d, i) => (d, i)))
        {
            await Send(world, daysAgo, 8 + i % 3, 0, onPerch: false);
        }

        foreach (var daysAgo in new[] { 3, 8, 14, 19, 23 })
        {
            await Send(world, daysAgo, 0, 30 + daysAgo % 3, onGuildhall: false);
        }

        var report = await world.Get("/api/v1/reports/breakdown?by=channel&period=last-28");
        ((string)report["rows"]![0]!["key"]!).ShouldBe("guildhall");
        ((string)report["perPost"]!["leader"]!, (string)report["perPost"]!["runnerUp"]!, (string)report["perPost"]!["call"]!).ShouldBe(
            ("perch", "guildhall", "clear")
        );
        ((string)report["answer"]!).ShouldEndWith(" Per post, Perch brings more: 31.4 clicks against 9, which is clear.");

        var perPost = await world.Get("/api/v1/reports/breakdown?by=channel&period=last-28&per=post");
        ((string)perPost["per"]!).ShouldBe("post");
        perPost["rows"]!.AsArray().Select(r => ((string)r!["key"]!, (double)r["clicksPerPost"]!)).ShouldBe([("perch", 31.4), ("guildhall", 9)]);
        ((string)perPost["verdict"]!["leader"]!, (string)perPost["verdict"]!["call"]!).ShouldBe(("perch", "clear"));
    }

    [Fact]
    public async Task Posts_that_nobody_clicked_count_among_the_posts()
    {
        var world = await World.Make(app);
        await SendAll(world);
        await Send(world, 1, 0, 0);
        var rows = (await world.Get("/api/v1/reports/breakdown?by=channel&period=last-28"))["rows"]!.AsArray();
        rows.Select(r => (int)r!["posts"]!).ShouldBe([7, 7]);
    }

    [Fact]
    public async Task Countries_are_judged_by_post_also_where_the_clicks_themselves_are_read()
    {
        var world = await World.Make(app);
        await SendAll(world);
        var all = (await world.Get("/api/v1/reports/breakdown?by=country&period=last-28"))["verdict"]!;
        var narrowed = (await world.Get("/api/v1/reports/breakdown?by=country&period=last-28&language=en"))["verdict"]!;
        narrowed.ToJsonString().ShouldBe(all.ToJsonString());
        ((string)all["unit"]!, (int)all["clusters"]!, (bool)all["paired"]!).ShouldBe(("post", 6, true));
    }

    /// <summary>Country and language together are read from the clicks themselves.</summary>
    [Fact]
    public async Task Channels_have_the_same_posts_and_verdict_where_the_clicks_themselves_are_read()
    {
        var world = await World.Make(app);
        await SendAll(world);
        await Send(world, 1, 0, 0);
        var all = await world.Get("/api/v1/reports/breakdown?by=channel&period=last-28");
        var narrowed = await world.Get("/api/v1/reports/breakdown?by=channel&period=last-28&language=en&country=GB&country=IE");
        narrowed["verdict"]!.ToJsonString().ShouldBe(all["verdict"]!.ToJsonString());
        Rows(narrowed).ShouldBe(Rows(all));

        static IEnumerable<(string, long, int, int, double)> Rows(JsonNode report) =>
            report["rows"]!
                .AsArray()
                .Select(r => ((string)r!["key"]!, (long)r["clicks"]!, (int)r["posts"]!, (int)r["placements"]!, (double)r["low"]!));
    }

    [Fact]
    public async Task Weekdays_are_judged_by_weeks_that_end_with_the_period()
    {
        var world = await World.Make(app);
        var post = await world.Send(p => p["publishedOn"] = "2026-06-01");
        var link = (Guid)post["placements"]![0]!["link"]!["id"]!;

        // Four times seven days from a Thursday on: every Monday forty clicks, every Tuesday twenty.
        var first = new LocalDate(2026, 6, 4);
        await app.Ship([
            .. Enumerable
                .Range(0, 28)
                .Select(d => first.PlusDays(d))
                .SelectMany(day =>
                    Enumerable
                        .Range(
                            0,
                            day.DayOfWeek switch
                            {
                                IsoDayOfWeek.Monday => 40,
                                IsoDayOfWeek.Tuesday => 20,
                                _ => 1,
                            }
                        )
                        .Select(i => Click(link, day.At(new LocalTime(10, i)).InZoneLeniently(Zone).ToInstant()))
                ),
        ]);
        foreach (var filter in new[] { "", "&country=GB&language=en" })
        {
            var report = await world.Get($"/api/v1/reports/breakdown?by=weekday&from=2026-06-04&to=2026-07-01{filter}");
            ((string)report["verdict"]!["unit"]!, (int)report["verdict"]!["clusters"]!, (string)report["verdict"]!["call"]!).ShouldBe(
                ("week", 4, "clear"),
                filter
            );
        }
    }

    [Fact]
    public async Task Posts_are_judged_on_the_channels_that_they_share()
    {
        var world = await World.Make(app);
        await Send(world, 3, 40, 20);
        await Send(world, 6, 10, 5);
        var verdict = (await world.Get("/api/v1/reports/breakdown?by=post"))["verdict"]!;
        ((string)verdict["unit"]!, (int)verdict["clusters"]!, (bool)verdict["paired"]!, (string)verdict["call"]!).ShouldBe(
            ("link", 2, true, "too-few")
        );
    }

    [Theory]
    [InlineData("by=channel&per=click", "per")]
    [InlineData("by=country&per=post", "per")]
    [InlineData("by=post&per=post", "per")]
    public async Task Only_groups_with_posts_of_their_own_can_be_asked_per_post(string query, string field)
    {
        var world = await World.Make(app);
        var refused = await world.Viewer.GetAsync("/api/v1/reports/breakdown?" + query, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
    }

    private static UnitCount[] Units(Func<(int DaysAgo, int Guildhall, int Perch), int> clicks) =>
        [.. Posts.Select((p, i) => new UnitCount(i, clicks(p), true))];

    private static ClickUnits Known() =>
        new(
            UnitKind.Post,
            [.. Posts.Select(p => -p.DaysAgo)],
            false,
            new Dictionary<string, UnitCount[]> { ["guildhall"] = Units(p => p.Guildhall), ["perch"] = Units(p => p.Perch) }
        );

    private async Task SendAll(World world)
    {
        foreach (var (daysAgo, guildhall, perch) in Posts)
        {
            await Send(world, daysAgo, guildhall, perch);
        }
    }

    private async Task<JsonNode> Send(
        World world,
        int daysAgo,
        int onGuildhallClicks,
        int onPerchClicks,
        bool onGuildhall = true,
        bool onPerch = true
    )
    {
        var post = await world.Send(p =>
        {
            p["publishedOn"] = LocalDatePattern.Iso.Format(Today.PlusDays(-daysAgo));
            p["title"] = $"Post of {daysAgo} days ago";
            var placements = p["placements"]!.AsArray();
            foreach (var (channel, isOn) in new[] { ("guildhall", onGuildhall), ("perch", onPerch) })
            {
                if (!isOn)
                {
                    placements.Remove(placements.Single(x => (string)x!["channel"]! == channel));
                }
            }
        });
        await app.Ship([
            .. post["placements"]!
                .AsArray()
                .SelectMany(p =>
                    Enumerable
                        .Range(0, (string)p!["channel"]! == "guildhall" ? onGuildhallClicks : onPerchClicks)
                        .Select(i => Click((Guid)p["link"]!["id"]!, Now - Duration.FromHours(24 * (daysAgo - 1) + 2), i % 3 == 0 ? "IE" : "GB"))
                ),
        ]);
        return post;
    }

    private static Click Click(Guid link, Instant at, string country = "GB") =>
        new(
            at,
            link,
            ClickKind.Person,
            Interlocked.Increment(ref visitors),
            CountryCode.Of(country),
            default,
            "",
            "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
            "en"
        );
}
