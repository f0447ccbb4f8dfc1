using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Tests.Reports;

/// <summary>Every figure of a breakdown can be opened, and recounted from the file of single clicks.</summary>
public class RecountTests(CursusApp app)
{
    private static readonly string[] ByLink =
    [
        "channel",
        "campaign",
        "source",
        "medium",
        "content",
        "term",
        "post",
        "link",
        "tag",
        "pixel",
        "domain",
    ];
    private static readonly string[] ByClick =
    [
        "referrer",
        "country",
        "device",
        "browser",
        "os",
        "language",
        "network",
        "site",
        "elsewhere",
        "scan",
        "code",
        "age",
    ];

    private static int visitors;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Each_row_of_each_dimension_asked_as_a_filter_has_its_clicks()
    {
        var world = await MakeWorld("Europe/London");
        foreach (var by in ByLink.Concat(ByClick))
        {
            var rows = (await world.Get($"/api/v1/reports/breakdown?by={by}&from=2026-03-20&to=2026-04-10"))["rows"]!.AsArray();
            rows.ShouldNotBeEmpty(by);
            foreach (var row in rows)
            {
                var narrowed = await world.Get(
                    $"/api/v1/reports/breakdown?by=channel&from=2026-03-20&to=2026-04-10&{by}={Uri.EscapeDataString((string)row!["key"]!)}"
                );
                ((long)narrowed["total"]!["clicks"]!).ShouldBe((long)row["clicks"]!, $"{by} = “{row["key"]}”");
            }
        }
    }

    [Fact]
    public async Task Every_breakdown_can_be_recounted_from_the_file_alone()
    {
        var world = await MakeWorld("Europe/London");
        var lines = (await world.Viewer.GetStringAsync("/api/v1/reports/clicks.ndjson?from=2026-03-20&to=2026-04-10", Cancel))
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Select(l => JsonNode.Parse(l)!)
            .ToList();
        lines.Select(l => (string)l["id"]!).Distinct().Count().ShouldBe(lines.Count);
        foreach (var by in (string[])[.. ByLink, .. ByClick, "hour", "weekday"])
        {
            var rows = (await world.Get($"/api/v1/reports/breakdown?by={by}&from=2026-03-20&to=2026-04-10&limit=2000"))["rows"]!.AsArray();
            rows.Where(r => (long)r!["clicks"]! > 0)
                .ToDictionary(r => (string)r!["key"]!, r => (int)r!["clicks"]!)
                .ShouldBe(lines.SelectMany(l => KeysOf(l, by)).CountBy(key => key).ToDictionary(), ignoreOrder: true, by);
        }
    }

    /// <summary>Ten zones over both clock changes of a year; in some the clocks change at midnight, in some the database's own table is of another
    /// year.</summary>
    [Theory]
    [InlineData("Europe/London", "2026-03-29", "2026-10-25")]
    [InlineData("America/New_York", "2026-03-08", "2026-11-01")]
    [InlineData("Australia/Lord_Howe", "2026-04-05", "2026-10-04")]
    [InlineData("Asia/Beirut", "2026-03-29", "2026-10-25")]
    [InlineData("America/Havana", "2026-03-08", "2026-11-01")]
    [InlineData("Africa/Cairo", "2026-04-24", "2026-10-30")]
    [InlineData("America/Santiago", "2026-04-05", "2026-09-06")]
    [InlineData("America/St_Johns", "2026-03-08", "2026-11-01")]
    [InlineData("Pacific/Chatham", "2026-04-05", "2026-09-27")]
    [InlineData("Africa/Casablanca", "2026-02-15", "2026-03-22")]
    public async Task Days_and_hours_are_those_of_the_same_clock_in_sums_and_single_clicks(string zoneId, params string[] changes)
    {
        var zone = DateTimeZoneProviders.Tzdb[zoneId];
        var world = await World.Make(app, zoneId);
        var link = (Guid)(await world.Send(p => p["publishedOn"] = "2026-01-15"))["placements"]![0]!["link"]!["id"]!;
        var random = new Random(3);
        var clicks = changes
            .Select(c => LocalDatePattern.Iso.Parse(c).Value)
            .SelectMany(day =>
                Enumerable
                    .Range(0, 150)
                    .Select(_ => Click(link, zone.AtStartOfDay(day.PlusDays(-1)).ToInstant() + Duration.FromMinutes(random.Next(0, 3 * 24 * 60))))
            )
            .ToList();
        await app.Ship(clicks);

        foreach (var change in changes.Select(c => LocalDatePattern.Iso.Parse(c).Value))
        {
            for (var day = change.PlusDays(-2); day <= change.PlusDays(2); day = day.PlusDays(1))
            {
                var expected = clicks.Where(c => c.At.InZone(zone).Date == day).ToList();
                var (from, to) = (LocalDatePattern.Iso.Format(day), LocalDatePattern.Iso.Format(day));

                // From the sums, from single clicks where two things are crossed that only these tell, and from the file.
                foreach (var filter in new[] { "", "&country=GB&language=en" })
                {
                    var report = await world.Get($"/api/v1/reports/breakdown?by=hour&from={from}&to={to}{filter}");
                    ((int)report["total"]!["clicks"]!).ShouldBe(expected.Count, $"{zoneId} {from} {filter}");
                    report["rows"]!
                        .AsArray()
                        .ToDictionary(r => (string)r!["key"]!, r => (int)r!["clicks"]!)
                        .ShouldBe(
                            expected.CountBy(c => c.At.InZone(zone).Hour.ToString("00", CultureInfo.InvariantCulture)).ToDictionary(),
                            ignoreOrder: true,
                            $"{zoneId} {from} {filter}"
                        );
                }

                (await world.Viewer.GetStringAsync($"/api/v1/reports/clicks.ndjson?from={from}&to={to}", Cancel))
                    .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                    .Length.ShouldBe(expected.Count, $"{zoneId} {from}, file");
            }
        }
    }

    private static IEnumerable<string> KeysOf(JsonNode click, string by) =>
        by switch
        {
            "post" => [(string)click["postId"]!],
            "link" => [(string)click["linkId"]!],
            "tag" => Several(click["tags"]!),
            "pixel" => Several(click["pixels"]!),
            "scan" => [(string)click["code"]! == "" ? "clicked" : "scanned"],
            "code" => [(string)click["code"]! == "" ? "" : $"{click["linkId"]}/{click["code"]}"],
            "hour" => [((string)click["local"]!)[11..13]],
            "weekday" => [$"{(int)LocalDatePattern.Iso.Parse(((string)click["local"]!)[..10]).Value.DayOfWeek}"],
            _ => [(string)click[by]!],
        };

    private static IEnumerable<string> Several(JsonNode names) => names.AsArray() is { Count: > 0 } some ? some.Select(n => (string)n!) : [""];

    /// <summary>Posts and single links, with tags, pixels and none, clicked by many kinds of people.</summary>
    private async Task<World> MakeWorld(string zone)
    {
        var world = await World.Make(app, zone);
        (
            await world.Owner.PostAsJsonAsync(
                "/api/v1/pixels",
                new
                {
                    name = "Members",
                    network = "image-pixel",
                    reference = "https://pixels.example/p.gif",
                },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        var pixel = (string)(await world.Get("/api/v1/pixels"))["items"]![0]!["id"]!;
        var links = new List<Guid>();
        foreach (var (tags, pixels) in new[] { (new[] { "meteors", "night" }, Array.Empty<string>()), ([], [pixel]), (["night"], [pixel]) })
        {
            var post = await world.Send(p =>
            {
                p["publishedOn"] = "2026-03-21";
                p["title"] = $"Post with {tags.Length} tags";
                p["tags"] = new JsonArray([.. tags.Select(t => (JsonNode)t)]);
                p["pixels"] = new JsonArray([.. pixels.Select(x => (JsonNode)x)]);
            });
            links.AddRange(post["placements"]!.AsArray().Select(p => (Guid)p!["link"]!["id"]!));
        }

        var single = await world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = "https://www.northmoor.example/shop" }, Cancel);
        links.Add((Guid)(await World.Read(single))["id"]!);
        var random = new Random(11);
        await app.Ship([
            .. Enumerable
                .Range(0, 400)
                .Select(_ =>
                    Click(
                        links[random.Next(links.Count)],
                        Instant.FromUtc(2026, 3, 18, 0, 0) + Duration.FromMinutes(random.Next(0, 25 * 24 * 60)),
                        new[] { "GB", "DE", "" }[random.Next(3)],
                        new[] { "", "perch.localhost", "guildhall.localhost", "elsewhere.example", world.Domain }[random.Next(5)],
                        new[] { "en", "de", "" }[random.Next(3)],
                        (byte)random.Next(3)
                    )
                ),
        ]);
        return world;
    }

    private static Click Click(Guid link, Instant at, string country = "GB", string referrer = "", string language = "en", byte code = 0) =>
        new(
            at,
            link,
            ClickKind.Person,
            Interlocked.Increment(ref visitors),
            CountryCode.Of(country),
            default,
            referrer,
            "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0",
            language
        )
        {
            Code = code,
        };
}
