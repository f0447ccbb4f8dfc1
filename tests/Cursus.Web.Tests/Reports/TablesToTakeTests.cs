using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using MiniExcelLibs;
using NodaTime;

namespace Cursus.Web.Tests.Reports;

public class TablesToTakeTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("by=channel&across=country&period=last-7")]
    [InlineData("by=weekday&across=hour&period=last-7")]
    public async Task Two_dimensions_are_taken_away_as_the_screen_shows_them(string asked)
    {
        var world = await Clicked();
        var screen = await world.Get("/api/v1/reports/pivot?" + asked);
        var (columns, rows) = (screen["columns"]!.AsArray(), screen["rows"]!.AsArray());
        var expected = rows.Select(
                (row, r) =>
                    (string[])
                        [
                            (string)row!["key"]!,
                            (string)row["label"]!,
                            .. screen["cells"]![r]!.AsArray().Select(c => ((long)c!).ToString(CultureInfo.InvariantCulture)),
                            ((long)row["clicks"]!).ToString(CultureInfo.InvariantCulture),
                        ]
            )
            .ToList();
        expected.Count.ShouldBeGreaterThan(1);

        var csv = await Csv(world, $"pivot.csv?{asked}&bom=false");
        csv[0].ShouldBe([(string)screen["by"]!, "name", .. columns.Select(c => (string)c!["label"]!), "all"]);
        csv.Skip(1).ShouldBe(expected);

        using var workbook = new MemoryStream(await world.Viewer.GetByteArrayAsync("/api/v1/reports/pivot.xlsx?" + asked, Cancel));
        var figures = workbook.Query(useHeaderRow: true, sheetName: "Figures").Cast<IDictionary<string, object>>().ToList();
        figures.ConvertAll(row => (long)(double)row["all"]).ShouldBe(rows.Select(r => (long)r!["clicks"]!));
        Question(workbook)["set against"].ShouldBe((string)screen["across"]!);
    }

    [Fact]
    public async Task Columns_of_one_name_are_told_apart()
    {
        var world = await Clicked();
        await Click(await world.Send(), "GB", 4);
        var csv = await Csv(world, "pivot.csv?by=channel&across=post&period=last-7&bom=false");
        csv[0].Length.ShouldBe(5);
        csv[0].ShouldBeUnique();
        csv[0][2].ShouldStartWith("Geminids night (");
        (await world.Viewer.GetAsync("/api/v1/reports/pivot.xlsx?by=channel&across=post&period=last-7", Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.OK
        );
    }

    [Fact]
    public async Task How_long_posts_live_is_taken_away_as_the_screen_shows_it()
    {
        var world = await Clicked();
        var screen = await world.Get("/api/v1/reports/life?by=channel&period=last-7");
        var csv = await Csv(world, "life.csv?by=channel&period=last-7&bom=false");
        csv[0].ShouldBe(["channel", "name", "placements", "still running", "clicks", "hours to 50% of clicks", "hours to 90% of clicks"]);
        csv.Skip(1)
            .Select(l => (l[0], l[4]))
            .ShouldBe(screen["rows"]!.AsArray().Select(r => ((string)r!["key"]!, ((long)r["clicks"]!).ToString(CultureInfo.InvariantCulture))));
        using var workbook = new MemoryStream(await world.Viewer.GetByteArrayAsync("/api/v1/reports/life.xlsx?by=channel&period=last-7", Cancel));
        Question(workbook)["answer"].ShouldBe((string)screen["answer"]!);
    }

    [Theory]
    [InlineData("pivot.csv?by=channel&across=channel")]
    [InlineData("pivot.xlsx?by=channel")]
    [InlineData("life.csv?by=country")]
    [InlineData("life.xlsx?by=channel&country=GB")]
    public async Task What_cannot_be_asked_is_not_taken_away_either(string asked)
    {
        var world = await World.Make(app);
        (await world.Viewer.GetAsync("/api/v1/reports/" + asked, Cancel)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    /// <summary>Twelve people's clicks by the first channel and five by the second, of today and yesterday.</summary>
    private async Task<World> Clicked()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        await Click(post, "GB", 12);
        await Click(post, "DE", 5, placement: 1);
        return world;
    }

    private async Task Click(JsonNode post, string country, int times, int placement = 0)
    {
        var link = (Guid)post["placements"]![placement]!["link"]!["id"]!;
        var now = SystemClock.Instance.GetCurrentInstant();
        await app.Ship([
            .. Enumerable
                .Range(0, times)
                .Select(n => new Click(
                    now - Duration.FromHours(2 * n + 1),
                    link,
                    ClickKind.Person,
                    n,
                    CountryCode.Of(country),
                    default,
                    "",
                    "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                    "en"
                )),
        ]);
    }

    private static async Task<List<string[]>> Csv(World world, string asked) =>
        [
            .. (await world.Viewer.GetStringAsync("/api/v1/reports/" + asked, Cancel))
                .Split("\r\n", StringSplitOptions.RemoveEmptyEntries)
                .Select(line => line.Split(',')),
        ];

    private static Dictionary<string, object> Question(MemoryStream workbook) =>
        workbook
            .Query(useHeaderRow: true, sheetName: "Question")
            .Cast<IDictionary<string, object>>()
            .ToDictionary(r => (string)r["what"], r => r["value"]);
}
