using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using System.Xml.Linq;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using Cursus.Web.Drawing;
using NodaTime;
using SkiaSharp;

namespace Cursus.Web.Tests.Comparing.Pictures;

/// <summary>Answers as pictures and as a page, for slides and letters.</summary>
public partial class PictureTests(CursusApp app)
{
    private const string Asked = "by=channel&from=2026-06-01&to=2026-06-30&compare=previous";

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
    public async Task A_vector_picture_needs_nothing_but_itself_and_is_the_same_each_time()
    {
        var world = await WithClicks(guildhall: 30, perch: 12);
        foreach (var picture in new[] { "lanes", "course" })
        {
            var svg = await world.Viewer.GetStringAsync($"/api/v1/reports/{picture}.svg?{Asked}", Cancel);
            var document = XDocument.Parse(svg);
            document.Root!.Name.LocalName.ShouldBe("svg");
            document.Descendants().Select(e => e.Name.LocalName).ShouldNotContain("text", "words are drawn, since the font is not everywhere");
            document.Descendants().Attributes().Select(a => a.Value).ShouldAllBe(v => !v.StartsWith("http://", StringComparison.Ordinal) || v.StartsWith("http://www.w3.org/", StringComparison.Ordinal));
            document.Descendants().Select(e => e.Name.LocalName).ShouldNotContain("script");
            (await world.Viewer.GetStringAsync($"/api/v1/reports/{picture}.svg?{Asked}", Cancel)).ShouldBe(svg);
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

    [Fact]
    public async Task A_question_without_clicks_is_drawn_too()
    {
        var world = await World.Make(app);
        foreach (var file in new[] { "lanes.svg", "lanes.png", "course.svg", "course.png", "page.pdf" })
        {
            (await world.Viewer.GetAsync($"/api/v1/reports/{file}?by=country&period=last-7", Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK, file);
        }
    }

    [Theory]
    [InlineData("lanes.png?by=channel&scale=9", "scale")]
    [InlineData("lanes.svg?by=mood", "by")]
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
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder!.FullName, "Cursus.slnx")))
        {
            folder = folder.Parent;
        }

        var light = File.ReadAllText(Path.Combine(folder.FullName, "web/src/theme/tokens.css")).Split('}')[0];
        ChannelColors().Matches(light).Select(m => SKColor.Parse(m.Groups[1].Value)).ShouldBe(Pen.Channels);
    }

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

    private async Task<World> WithClicks(int guildhall, int perch)
    {
        var world = await World.Make(app);
        var post = await world.Send();
        await using (var db = app.Database())
        {
            // Channels of tests have one colour each, by their place.
            foreach (var channel in db.Channels.Where(c => c.WorkspaceId == world.Workspace.Id))
            {
                channel.Color = (short)channel.Position;
            }

            await db.SaveChangesAsync(Cancel);
        }

        var clicks = new[] { guildhall, perch }.SelectMany((count, placement) => Enumerable.Range(0, count).Select(i => new Click(
            Instant.FromUtc(2026, 6, 1 + i % 30, 12, i % 60), (Guid)post["placements"]![placement]!["link"]!["id"]!, ClickKind.Person, 1000 * placement + i, CountryCode.Of("GB"), default, "", "Mozilla/5.0", "en"))).ToList();
        await using var source = app.DataSource();
        using var store = new ClickStore(source);
        var (id, _) = await store.Register(Guid.NewGuid(), Cancel);
        await store.Ship(id, new JournalBatch([.. clicks.Select((c, i) => (i * 64L, c))], [], clicks.Count * 64L), Cancel);
        return world;
    }

    [GeneratedRegex(@"/Type\s*/Page\b(?!s)")]
    private static partial Regex Pages();

    [GeneratedRegex(@"--channel-\d: (#[0-9a-f]{6});")]
    private static partial Regex ChannelColors();
}
