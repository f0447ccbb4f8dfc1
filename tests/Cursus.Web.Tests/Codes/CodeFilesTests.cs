using System.Buffers.Binary;
using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using SkiaSharp;

namespace Cursus.Web.Tests.Codes;

/// <summary>Codes as they are taken away, read by others than those who made them.</summary>
public sealed class CodeFilesTests(CursusApp app) : IClassFixture<CursusApp>
{
    private static readonly object Plum = new
    {
        modules = "rounded",
        corners = "soft",
        centres = "soft",
        ink = "#4a1b3d",
        ground = "#fffdf9",
        frame = new { shape = "around", text = "Scan to join" },
    };

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_links_code_leads_to_it_as_SVG_PNG_and_PDF_in_its_own_style_and_is_the_same_each_time()
    {
        var world = await World.Make(app);
        var link = (await world.Send())["placements"]![0]!["link"]!;
        var style = (string)(await Saved(world, "Plum", Plum))["id"]!;
        (await world.Editor.PostAsJsonAsync("/api/v1/codes/style", new { style, links = new[] { link["id"] } }, Cancel)).EnsureSuccessStatusCode();
        var folder = Directory.CreateTempSubdirectory("cursus-files-").FullName;
        foreach (var format in new[] { "svg", "png", "pdf" })
        {
            var path = $"/api/v1/links/{link["id"]}/qr.{format}";
            var file = await world.Viewer.GetByteArrayAsync(path, Cancel);
            (await world.Viewer.GetByteArrayAsync(path, Cancel)).ShouldBe(file, format);
            await File.WriteAllBytesAsync(Path.Combine(folder, $"code.{format}"), file, Cancel);
        }

        await Command.Run("pdftoppm", ["-r", "200", "-png", "-singlefile", Path.Combine(folder, "code.pdf"), Path.Combine(folder, "page")], Cancel);
        var svg = await File.ReadAllTextAsync(Path.Combine(folder, "code.svg"), Cancel);
        svg.ShouldContain($"QR code of {link["shortUrl"]}/1", customMessage: "the picture has the address as text");
        svg.ShouldContain("#4a1b3d");
        svg.ShouldNotContain("<text");
        var read = await Decoders.Zxing([Path.Combine(folder, "code.png"), Path.Combine(folder, "page.png")], Cancel);
        read["code"].ShouldBe($"{link["shortUrl"]}/1".ToUpperInvariant());
        read["page"].ShouldBe(read["code"]);
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task A_picture_says_how_large_it_is_to_be_printed()
    {
        var world = await World.Make(app);
        var link = (await world.Send())["placements"]![0]!["link"]!;
        var png = await world.Viewer.GetByteArrayAsync($"/api/v1/links/{link["id"]}/qr.png?size=4096&place=shop-window", Cancel);
        using var picture = SKBitmap.Decode(png);
        picture.Width.ShouldBe(4096);
        Encoding.ASCII.GetString(png, 37, 4).ShouldBe("pHYs");
        BinaryPrimitives.ReadUInt32BigEndian(png.AsSpan(41)).ShouldBe((uint)Math.Round(4096 / 0.15), "dots to a metre at 150 mm");
        foreach (
            var wrong in new[]
            {
                "qr.png?size=4097",
                "qr.png?size=10",
                "qr.svg?place=moon",
                "qr.pdf?size=2000",
                "qr.svg?code=7",
                $"qr.svg?style={Guid.NewGuid()}",
            }
        )
        {
            (await world.Viewer.GetAsync($"/api/v1/links/{link["id"]}/{wrong}", Cancel)).StatusCode.ShouldBe(
                HttpStatusCode.UnprocessableEntity,
                wrong
            );
        }
    }

    [Fact]
    public async Task A_look_that_is_not_saved_is_handed_out_only_if_it_scans()
    {
        var world = await World.Make(app);
        var link = (string)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        (
            await world.Viewer.PostAsJsonAsync(
                "/api/v1/codes/file",
                new
                {
                    link,
                    style = new { ink = "#6e2a5b" },
                    format = "pdf",
                },
                Cancel
            )
        ).Content.Headers.ContentType!.MediaType.ShouldBe("application/pdf");
        var refused = await world.Viewer.PostAsJsonAsync(
            "/api/v1/codes/file",
            new
            {
                link,
                style = new { ink = "#ffe14d" },
                format = "svg",
            },
            Cancel
        );
        ((string)(await World.Read(refused))["code"]!).ShouldBe("contrast");
        (
            await world.Viewer.PostAsJsonAsync(
                "/api/v1/codes/file",
                new
                {
                    link,
                    style = new { },
                    format = "gif",
                },
                Cancel
            )
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task Many_codes_come_as_files_named_after_post_and_channel_and_as_labels_that_all_scan()
    {
        var world = await World.Make(app);
        await Saved(world, "Default", Plum, isDefault: true);
        var links = (await world.Send())["placements"]!
            .AsArray()
            .Concat((await world.Send(p => p["title"] = "Night walk: moor & sky"))["placements"]!.AsArray())
            .Select(p => p!["link"]!)
            .ToList();
        var ids = links.Select(l => (string)l["id"]!).ToArray();
        var answer = await world.Viewer.PostAsJsonAsync("/api/v1/codes/files", new { links = ids, format = "png" }, Cancel);
        using var zip = new ZipArchive(await answer.Content.ReadAsStreamAsync(Cancel));
        zip.Entries.Select(e => e.Name)
            .ShouldBe([
                "Geminids-night-Guildhall.png",
                "Geminids-night-Perch.png",
                "Night-walk-moor-sky-Guildhall.png",
                "Night-walk-moor-sky-Perch.png",
            ]);

        var folder = Directory.CreateTempSubdirectory("cursus-labels-").FullName;
        var labels = await (
            await world.Viewer.PostAsJsonAsync(
                "/api/v1/codes/labels",
                new
                {
                    links = ids,
                    columns = 1,
                    rows = 1,
                },
                Cancel
            )
        ).Content.ReadAsByteArrayAsync(Cancel);
        await File.WriteAllBytesAsync(Path.Combine(folder, "labels.pdf"), labels, Cancel);
        await Command.Run("pdftoppm", ["-r", "70", "-png", Path.Combine(folder, "labels.pdf"), Path.Combine(folder, "page")], Cancel);
        var read = await Decoders.Zxing([.. Directory.GetFiles(folder, "*.png").Order()], Cancel);
        read.OrderBy(r => r.Key).Select(r => r.Value).ShouldBe(links.Select(l => $"{l["shortUrl"]}/1".ToUpperInvariant()));
        Directory.Delete(folder, recursive: true);
        (await world.Viewer.PostAsJsonAsync("/api/v1/codes/labels", new { links = ids, columns = 9 }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await world.Viewer.PostAsJsonAsync("/api/v1/codes/files", new { links = Array.Empty<string>() }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    /// <summary>A long address makes a finer code, for which the default's logo is too much: nothing of it is handed out that would not scan, and
    /// nothing is left out.</summary>
    [Fact]
    public async Task A_style_gives_way_where_an_address_is_too_long_for_it()
    {
        var world = await World.Make(app);
        var logo = (string)(await Logo(world))["id"]!;
        await Saved(
            world,
            "With logo",
            new
            {
                modules = "rounded",
                corners = "soft",
                centres = "soft",
                logo = new
                {
                    id = logo,
                    percent = 16,
                    margin = 0,
                },
            },
            isDefault: true
        );
        var made = await world.Editor.PostAsJsonAsync(
            "/api/v1/links",
            new { destination = "northmoor.example", slug = string.Join('-', Enumerable.Repeat("observatory", 6)) },
            Cancel
        );
        var link = await World.Read(made);
        var answer = await world.Viewer.GetAsync($"/api/v1/links/{link["id"]}/qr.png?size=256", Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync(Cancel));
        var png = await answer.Content.ReadAsByteArrayAsync(Cancel);
        var (zxing, jsqr) = await Decoders.Read([("long", SKBitmap.Decode(png))], Cancel);
        zxing["long"].ShouldBe($"{link["shortUrl"]}/1".ToUpperInvariant());
        jsqr["long"].ShouldBe(zxing["long"]);
    }

    [Fact]
    public async Task A_sheet_for_the_notice_board_scans_and_says_the_address_in_words()
    {
        var world = await World.Make(app);
        var link = (await world.Send())["placements"]![0]!["link"]!;
        var folder = Directory.CreateTempSubdirectory("cursus-notice-").FullName;
        var sheet = await world.Viewer.GetByteArrayAsync(
            $"/api/v1/links/{link["id"]}/notice.pdf?headline=Geminids&text=Saturday%20from%20eight",
            Cancel
        );
        await File.WriteAllBytesAsync(Path.Combine(folder, "notice.pdf"), sheet, Cancel);
        await Command.Run(
            "pdftoppm",
            ["-r", "60", "-png", "-singlefile", Path.Combine(folder, "notice.pdf"), Path.Combine(folder, "notice")],
            Cancel
        );
        (await Decoders.Zxing([Path.Combine(folder, "notice.png")], Cancel))["notice"].ShouldBe($"{link["shortUrl"]}/1".ToUpperInvariant());
        Directory.Delete(folder, recursive: true);
        (await world.Viewer.GetAsync($"/api/v1/links/{link["id"]}/notice.pdf?headline={new string('x', 81)}", Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    [Fact]
    public async Task Codes_of_another_workspace_are_not_handed_out_in_any_way()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        var link = (string)(await other.Send())["placements"]![0]!["link"]!["id"]!;
        var logo = (string)(await Logo(other))["id"]!;
        var style = (string)(await Saved(other, "Theirs", Plum))["id"]!;
        var own = (string)(await mine.Send())["placements"]![0]!["link"]!["id"]!;
        foreach (
            var (path, body) in new (string, object)[]
            {
                ("codes/preview", new { link, style = new { } }),
                ("codes/check", new { link, style = new { } }),
                (
                    "codes/file",
                    new
                    {
                        link,
                        style = new { },
                        format = "svg",
                    }
                ),
                ("codes/files", new { links = new[] { own, link } }),
                ("codes/labels", new { links = new[] { own, link } }),
                ("codes/style", new { style = (string?)null, links = new[] { own, link } }),
                ("codes/style", new { style, links = new[] { own } }),
            }
        )
        {
            (await mine.Owner.PostAsJsonAsync($"/api/v1/{path}", body, Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound, path);
        }

        (
            await mine.Owner.PostAsJsonAsync("/api/v1/codes/preview", new { link = own, style = new { logo = new { id = logo } } }, Cancel)
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await mine.Owner.GetAsync($"/api/v1/links/{own}/qr.svg?style={style}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    internal const string Disc = "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 10 10'><circle cx='5' cy='5' r='5' fill='#6e2a5b'/></svg>";

    internal static async Task<JsonNode> Saved(World world, string name, object style, bool isDefault = false)
    {
        var answer = await world.Editor.PostAsJsonAsync(
            "/api/v1/code-styles",
            new
            {
                name,
                style,
                isDefault,
            },
            Cancel
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.Created, await answer.Content.ReadAsStringAsync(Cancel));
        return await World.Read(answer);
    }

    internal static async Task<JsonNode> Logo(World world) =>
        await World.Read(await world.Editor.PostAsync("/api/v1/code-logos?name=Dome", new StringContent(Disc, null, "image/svg+xml"), Cancel));
}
