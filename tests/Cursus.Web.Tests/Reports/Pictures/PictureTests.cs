using System.Net;
using System.Text;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using Cursus.Core.Clicks;
using Cursus.Web.Drawing;
using Cursus.Web.Reports.Pictures;
using NodaTime;
using SkiaSharp;

namespace Cursus.Web.Tests.Reports.Pictures;

/// <summary>Answers as pictures and as a page, for slides and letters.</summary>
public partial class PictureTests(CursusApp app)
{
    private const string Asked = "by=channel&from=2026-06-01&to=2026-06-30&compare=previous";

    private const string ByCountry = "by=country&from=2026-06-01&to=2026-06-30";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Bars_are_as_long_as_their_clicks_are_many()
    {
        var world = await WithClicks(guildhall: 300, perch: 120);
        using var picture = SKBitmap.Decode(await world.Viewer.GetByteArrayAsync($"/api/v1/reports/lanes.png?{Asked}&scale=2", Cancel));
        picture.Width.ShouldBe(2 * 940);
        var (guildhall, perch) = (Longest(picture, Pen.Channels[0]), Longest(picture, Pen.Channels[1]));
        ((double)perch / guildhall).ShouldBe(120.0 / 300, 0.01);
    }

    [Fact]
    public async Task A_map_is_coloured_where_people_clicked_and_names_what_is_too_small_for_it()
    {
        var world = await WithClicks([.. Enumerable.Repeat("GB", 40), .. Enumerable.Repeat("FR", 10), "MT"]);
        using var picture = SKBitmap.Decode(await world.Viewer.GetByteArrayAsync($"/api/v1/reports/map.png?{ByCountry}&scale=2", Cancel));
        ColorOf(picture, "GB").ShouldBe(Pen.Plum);
        ColorOf(picture, "FR").ShouldBe(Shade.OfCountry(10, 40));
        ColorOf(picture, "DE").ShouldBe(Pen.Hair);
        CountryShapes.World.Lands.Select(l => l.Code).ShouldNotContain("MT");

        var onlyLarge = await WithClicks(["GB"]);
        Drawn(await world.Viewer.GetStringAsync($"/api/v1/reports/map.svg?{ByCountry}", Cancel))
            .ShouldBeGreaterThan(Drawn(await onlyLarge.Viewer.GetStringAsync($"/api/v1/reports/map.svg?{ByCountry}", Cancel)));
    }

    [Fact]
    public async Task Cells_of_a_crossing_are_the_darker_the_more_clicks_they_have()
    {
        var world = await WithClicks(guildhall: 40, perch: 10);
        using var picture = SKBitmap.Decode(await world.Viewer.GetByteArrayAsync($"/api/v1/reports/pivot.png?{Asked}&across=domain&scale=2", Cancel));
        Longest(picture, Shade.OfCell(Pen.Leaf, 40, most: 40)).ShouldBeGreaterThan(60);
        Longest(picture, Shade.OfCell(Pen.Leaf, 10, most: 40)).ShouldBeGreaterThan(60);
    }

    [Fact]
    public async Task A_life_is_as_long_as_it_took_until_half_of_the_clicks_came()
    {
        var world = await WithClicks(guildhall: 300, perch: 20);
        var life = JsonNode.Parse(await world.Viewer.GetStringAsync($"/api/v1/reports/life?{Asked}", Cancel))!["rows"]!.AsArray();
        using var picture = SKBitmap.Decode(await world.Viewer.GetByteArrayAsync($"/api/v1/reports/life.png?{Asked}&scale=2", Cancel));
        double Hours(string channel) => (double)life.Single(r => (string)r!["key"]! == channel)!["halfHours"]!;
        Hours("guildhall").ShouldNotBe(Hours("perch"));
        ((double)Longest(picture, Pen.Channels[1]) / Longest(picture, Pen.Channels[0])).ShouldBe(
            Math.Log(1 + Hours("perch")) / Math.Log(1 + Hours("guildhall")),
            0.02
        );
    }

    [Fact]
    public async Task Lanes_say_how_many_groups_they_leave_out()
    {
        string[] countries = ["GB", "IE", "DE", "FR", "ES", "IT", "NL", "BE", "PL", "SE", "NO", "DK", "FI"];
        var (whole, cut) = (await WithClicks(countries[..12]), await WithClicks(countries));
        async Task<int> Height(World world)
        {
            using var picture = SKBitmap.Decode(await world.Viewer.GetByteArrayAsync($"/api/v1/reports/lanes.png?{ByCountry}&scale=1", Cancel));
            return picture.Height;
        }

        (await Height(cut)).ShouldBeGreaterThan(await Height(whole), "a line below the lanes tells of the thirteenth");
    }

    [Fact]
    public async Task A_vector_picture_needs_nothing_but_itself_and_is_the_same_each_time()
    {
        var world = await WithClicks(guildhall: 30, perch: 12);
        foreach (
            var picture in new[]
            {
                $"lanes.svg?{Asked}",
                $"course.svg?{Asked}",
                $"life.svg?{Asked}",
                $"pivot.svg?{Asked}&across=hour",
                "map.svg?by=country&from=2026-06-01&to=2026-06-30",
            }
        )
        {
            var svg = await world.Viewer.GetStringAsync($"/api/v1/reports/{picture}", Cancel);
            var document = XDocument.Parse(svg);
            document.Root!.Name.LocalName.ShouldBe("svg");
            document.Descendants().Select(e => e.Name.LocalName).ShouldNotContain("text", "words are drawn, since the font is not everywhere");
            document
                .Descendants()
                .Attributes()
                .Select(a => a.Value)
                .ShouldAllBe(v => !v.StartsWith("http://", StringComparison.Ordinal) || v.StartsWith("http://www.w3.org/", StringComparison.Ordinal));
            document.Descendants().Select(e => e.Name.LocalName).ShouldNotContain("script");
            (await world.Viewer.GetStringAsync($"/api/v1/reports/{picture}", Cancel)).ShouldBe(svg);
        }
    }

    [Fact]
    public async Task The_page_is_one_page_with_the_fonts_in_it()
    {
        var world = await WithClicks(guildhall: 30, perch: 12);
        var file = await world.Viewer.GetAsync($"/api/v1/reports/page.pdf?{Asked}&title=For%20the%20trustees", Cancel);
        file.Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        var pdf = Encoding.Latin1.GetString(await file.Content.ReadAsByteArrayAsync(Cancel));
        pdf.ShouldStartWith("%PDF-");
        Pages().Count(pdf).ShouldBe(1);
        pdf.ShouldContain("HankenGrotesk");
        pdf.ShouldContain("For the trustees");
    }

    /// <summary>Twelve lanes, a course and a table ask for more than a page has: the table gives way, and says how many it leaves out.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(4)]
    public async Task What_stands_on_the_page_leaves_its_foot_free(int lines)
    {
        var world = await WithClicks(["GB", "IE", "DE", "FR", "ES", "IT", "NL", "BE", "PL", "SE", "NO", "DK", "FI"]);
        var title = Uri.EscapeDataString(string.Join(' ', Enumerable.Repeat("Where our visitors live", lines)));
        var words = await PdfWords.Of(await world.Viewer.GetByteArrayAsync($"/api/v1/reports/page.pdf?{ByCountry}&title={title}", Cancel), Cancel);
        var foot = words.Single(w => w.Text == "Created").Top;
        words.Where(w => w.Top < foot - 1).Max(w => w.Bottom).ShouldBeLessThan(foot);
        words.Count(w => w.Text == "more" && w.Top < foot && w.Top > foot - 40).ShouldBe(1, "below the table");
    }

    [Fact]
    public async Task A_question_without_clicks_is_drawn_too()
    {
        var world = await World.Make(app);
        foreach (
            var file in new[] { "lanes.svg", "lanes.png", "course.svg", "course.png", "map.svg", "map.png", "pivot.svg", "pivot.png", "page.pdf" }
        )
        {
            (await world.Viewer.GetAsync($"/api/v1/reports/{file}?by=country&across=hour&period=last-7", Cancel)).StatusCode.ShouldBe(
                HttpStatusCode.OK,
                file
            );
        }

        (await world.Viewer.GetAsync("/api/v1/reports/life.png?by=channel&period=last-7", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Theory]
    [InlineData("lanes.png?by=channel&scale=9", "scale")]
    [InlineData("pivot.png?by=channel&across=hour&scale=0", "scale")]
    [InlineData("lanes.svg?by=mood", "by")]
    [InlineData("map.svg?by=channel", "by")]
    [InlineData("pivot.svg?by=channel&across=mood", "across")]
    [InlineData("life.svg?by=channel&country=GB", "country")]
    [InlineData("page.pdf?by=channel&from=2026-11-02&to=2026-11-01", "from")]
    public async Task What_cannot_be_drawn_is_told_why(string path, string field)
    {
        var world = await World.Make(app);
        var refused = await world.Viewer.GetAsync("/api/v1/reports/" + path, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]![field].ShouldNotBeNull();
    }

    [Fact]
    public void Channels_have_the_colours_of_the_screen()
    {
        var light = File.ReadAllText(Repository.Of("web", "src", "theme", "tokens.css")).Split('}')[0];
        ChannelColors().Matches(light).Select(m => SKColor.Parse(m.Groups[1].Value)).ShouldBe(Pen.Channels);
    }

    /// <summary>The colour inside of a country.</summary>
    private static SKColor ColorOf(SKBitmap picture, string country)
    {
        var path = CountryShapes.World.Lands.Single(l => l.Code == country).Path;
        var inside = (
            from x in Enumerable.Range(0, (int)CountryShapes.World.Width)
            from y in Enumerable.Range(0, (int)CountryShapes.World.Height)
            where new[] { (-1, -1), (1, -1), (-1, 1), (1, 1) }.All(d => path.Contains(x + d.Item1, y + d.Item2))
            select (x, y)
        ).First();
        var scale = Picture.UsualWidth / CountryShapes.World.Width;
        return picture.GetPixel((int)(2 * (20 + scale * inside.x)), (int)(2 * (42 + scale * inside.y)));
    }

    /// <summary>How much is drawn in a vector picture: words are drawn too.</summary>
    private static int Drawn(string svg) => XDocument.Parse(svg).Descendants().Attributes().Where(a => a.Name == "d").Sum(a => a.Value.Length);

    /// <summary>The longest run of a colour in any line of pixels.</summary>
    private static int Longest(SKBitmap picture, SKColor color)
    {
        var longest = 0;
        for (var y = 0; y < picture.Height; y++)
        {
            var (from, to) = (-1, -1);
            for (var x = 0; x < picture.Width; x++)
            {
                if (picture.GetPixel(x, y) == color)
                {
                    (from, to) = (from < 0 ? x : from, x);
                }
            }

            longest = Math.Max(longest, from < 0 ? 0 : to - from + 1);
        }

        return longest;
    }

    private Task<World> WithClicks(int guildhall, int perch) =>
        WithClicks(new[] { guildhall, perch }.SelectMany((count, placement) => Enumerable.Range(0, count).Select(i => (placement, i, "GB"))));

    /// <summary>A click on the first placement from each country.</summary>
    private Task<World> WithClicks(IReadOnlyList<string> countries) => WithClicks(countries.Select((country, i) => (0, i, country)));

    private async Task<World> WithClicks(IEnumerable<(int Placement, int Number, string Country)> clicked)
    {
        var world = await World.Make(app);
        var post = await world.Send(p => p["publishedOn"] = "2026-06-01");
        await using (var db = app.Database())
        {
            // Channels of tests have one colour each, by their place.
            foreach (var channel in db.Channels.Where(c => c.WorkspaceId == world.Workspace.Id))
            {
                channel.Color = (short)channel.Position;
            }

            await db.SaveChangesAsync(Cancel);
        }

        var clicks = clicked
            .Select(c => new Click(
                Instant.FromUtc(2026, 6, 1 + c.Number % 30, 12, c.Number % 60),
                (Guid)post["placements"]![c.Placement]!["link"]!["id"]!,
                ClickKind.Person,
                1000 * c.Placement + c.Number,
                CountryCode.Of(c.Country),
                default,
                "",
                "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                "en"
            ))
            .ToList();
        await app.Ship(clicks);
        return world;
    }

    [GeneratedRegex(@"/Type\s*/Page\b(?!s)")]
    private static partial Regex Pages();

    [GeneratedRegex(@"--channel-\d: (#[0-9a-f]{6});")]
    private static partial Regex ChannelColors();
}
