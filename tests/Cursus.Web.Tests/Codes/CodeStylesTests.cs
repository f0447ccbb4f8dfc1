using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;
using Cursus.Core.Codes;
using Cursus.Web.Codes;
using Cursus.Web.Drawing;
using SkiaSharp;

namespace Cursus.Web.Tests.Codes;

public sealed class CodeStylesTests(CursusApp app) : IClassFixture<CursusApp>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Theory]
    [InlineData("""{ "ink": "#ffffff", "ground": "#000000" }""", "inverted")]
    [InlineData("""{ "ink": "#e8a0b0" }""", "contrast")]
    [InlineData("""{ "cornerInk": "#e8e8e8" }""", "contrast")]
    [InlineData("""{ "quietZone": 1 }""", "quiet-zone")]
    [InlineData("""{ "corners": "round", "centres": "square" }""", "corner-mix")]
    [InlineData("""{ "logo": { "id": "LOGO", "percent": 50 } }""", "logo-cover")]
    [InlineData("""{ "ink": "purple" }""", "color-format")]
    [InlineData("""{ "frame": { "shape": "under", "text": " " } }""", "frame-text")]
    public async Task A_style_that_would_not_scan_is_not_saved_and_the_rule_is_named(string style, string rule)
    {
        var world = await World.Make(app);
        var logo = style.Contains("LOGO", StringComparison.Ordinal) ? (string)(await CodeFilesTests.Logo(world))["id"]! : "";
        var body = new JsonObject { ["name"] = "Bad", ["style"] = JsonNode.Parse(style.Replace("LOGO", logo, StringComparison.Ordinal)) };
        var answer = await world.Editor.PostAsJsonAsync("/api/v1/code-styles", body, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ((string)(await World.Read(answer))["code"]!).ShouldBe(rule);
        (await world.Get("/api/v1/code-styles"))["items"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task The_workspace_has_one_default_and_a_links_own_style_goes_before_it()
    {
        var world = await World.Make(app);
        var link = (string)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        async Task<string> Svg() => await world.Viewer.GetStringAsync($"/api/v1/links/{link}/qr.svg", Cancel);
        (await Svg()).ShouldContain("#000000");
        await CodeFilesTests.Saved(world, "Moss", new { ink = "#2f4a1b" }, isDefault: true);
        (await Svg()).ShouldContain("#2f4a1b");
        var plum = (string)(await CodeFilesTests.Saved(world, "Plum", new { ink = "#6e2a5b" }, isDefault: true))["id"]!;
        (await Svg()).ShouldContain("#6e2a5b");
        var styles = (await world.Get("/api/v1/code-styles"))["items"]!.AsArray();
        styles.Select(s => ((string)s!["name"]!, (bool)s["isDefault"]!)).ShouldBe([("Plum", true), ("Moss", false)]);
        var moss = (string)styles[1]!["id"]!;
        (
            (int)
                (await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/codes/style", new { style = moss, links = new[] { link } }, Cancel)))[
                    "links"
                ]!
        ).ShouldBe(1);
        (await Svg()).ShouldContain("#2f4a1b");
        ((int)(await world.Get($"/api/v1/code-styles/{moss}"))["links"]!).ShouldBe(1);

        (
            await world.Editor.PatchAsJsonAsync($"/api/v1/code-styles/{moss}", new { style = new { ink = "#11331f" } }, Cancel)
        ).EnsureSuccessStatusCode();
        (await Svg()).ShouldContain("#11331f", customMessage: "a changed style changes what is made from now on");
        (await world.Editor.PatchAsJsonAsync($"/api/v1/code-styles/{moss}", new { name = "Plum" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Conflict
        );
        (await world.Viewer.PatchAsJsonAsync($"/api/v1/code-styles/{plum}", new { name = "Mine" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await world.Editor.DeleteAsync($"/api/v1/code-styles/{moss}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await Svg()).ShouldContain("#6e2a5b", customMessage: "its links use the default");
    }

    [Fact]
    public async Task A_style_is_given_to_links_whose_address_is_short_enough_for_it_and_to_no_others()
    {
        var world = await World.Make(app);
        var logo = (string)(await CodeFilesTests.Logo(world))["id"]!;
        var look = new CodeStyle { Logo = new CodeLogo(Guid.Parse(logo), 16, 0) };
        var art = LogoFile.Read(Encoding.UTF8.GetBytes(CodeFilesTests.Disc)).Art;
        var style = (string)
            (
                await CodeFilesTests.Saved(
                    world,
                    "Logo",
                    new
                    {
                        logo = new
                        {
                            id = logo,
                            percent = 16,
                            margin = 0,
                        },
                    }
                )
            )["id"]!;
        var refusals = 0;
        foreach (
            var words in Enumerable
                .Range(1, 20)
                .Select(n => n % 6 == 1 ? $"orion-{n}" : $"{string.Join('-', Enumerable.Repeat("observatory", n % 6 + 1))}-{n}")
        )
        {
            var link = await World.Read(
                await world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = "northmoor.example", slug = words }, Cancel)
            );
            var scans = CodeJudgement.Of(FinishedCode.Of((string)link["shortUrl"]!, 1, look, art)).IsLetThrough;
            var answer = await world.Editor.PostAsJsonAsync("/api/v1/codes/style", new { style, links = new[] { link["id"] } }, Cancel);
            answer.StatusCode.ShouldBe(scans ? HttpStatusCode.OK : HttpStatusCode.UnprocessableEntity, words);
            if (!scans)
            {
                refusals++;
                (await World.Read(answer))["errors"]!["style"]![0]!.ToString().ShouldContain(words);
            }
        }

        refusals.ShouldBeInRange(1, 17, "short addresses bear it, long ones don’t");
        (await world.Editor.DeleteAsync($"/api/v1/code-logos/{logo}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict, "a style has it");
    }

    [Fact]
    public async Task While_a_look_is_chosen_the_picture_the_rules_and_the_read_back_are_told()
    {
        var world = await World.Make(app);
        var link = (string)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        var preview = await World.Read(
            await world.Viewer.PostAsJsonAsync(
                "/api/v1/codes/preview",
                new
                {
                    link,
                    place = "business-card",
                    style = new { ink = "#f0f0f0", modules = "dots" },
                },
                Cancel
            )
        );
        ((string)preview["svg"]!).ShouldStartWith("<svg");
        preview["findings"]![0]!["rule"]!.ToString().ShouldBe("contrast");
        preview["findings"]![0]!["fix"]!["modules"]!.ToString().ShouldBe("dots");
        var check = await World.Read(
            await world.Viewer.PostAsJsonAsync("/api/v1/codes/check", new { link, style = preview["findings"]![0]!["fix"] }, Cancel)
        );
        ((bool)check["isLetThrough"]!).ShouldBeTrue();
        ((int)check["score"]!).ShouldBeGreaterThan(50);
        check["readings"]!.AsArray().Select(r => (string)r!["disturbance"]!).ShouldBe(["small", "blur", "turned", "jpeg", "grey-print"]);
        (await world.Get("/api/v1/codes/places")).AsArray().Count.ShouldBe(6);
    }

    [Fact]
    public async Task A_fix_repeats_the_words_of_who_asked_and_never_anothers()
    {
        foreach (var words in new[] { "Members only", "Free soup" })
        {
            var world = await World.Make(app);
            var link = (string)(await world.Send())["placements"]![0]!["link"]!["id"]!;
            var style = new { quietZone = 2, frame = new { shape = "under", text = words } };
            var check = await World.Read(await world.Viewer.PostAsJsonAsync("/api/v1/codes/check", new { link, style }, Cancel));
            check["findings"]![0]!["fix"]!["frame"]!["text"]!.ToString().ShouldBe(words);
        }
    }

    [Theory]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><script>alert(1)</script></svg>", "logo-shapes")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><foreignObject/></svg>", "logo-shapes")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><image href='http://x.example/a.png'/></svg>", "logo-shapes")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><rect width='9' height='9' fill='url(#g)'/></svg>", "logo-shapes")]
    [InlineData(
        "<!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;&a;&a;&a;'>]><svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><title>&b;</title></svg>",
        "logo-broken"
    )]
    [InlineData("<!DOCTYPE svg SYSTEM 'file:///etc/passwd'><svg/>", "logo-broken")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'><rect width='9' height='9'/></svg>", "logo-size")]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><rect width='9' height='9' fill='none'/></svg>", "logo-empty")]
    [InlineData("<html/>", "logo-format")]
    [InlineData("GIF89a", "logo-format")]
    public void A_logo_with_anything_but_plain_shapes_is_refused(string file, string code) =>
        LogoFile.Read(Encoding.UTF8.GetBytes(file)).Error!.Code.ShouldBe(code);

    [Fact]
    public void Of_an_SVG_only_shapes_and_colours_are_kept()
    {
        const string svg = """
            <svg xmlns="http://www.w3.org/2000/svg" viewBox="10 10 20 10" onload="alert(1)"><title>x</title>
              <g transform="translate(10 10)" fill="#FF0000"><rect width="4" height="4" onclick="alert(2)"/><circle cx="8" cy="5" r="2" style="fill: teal; stroke: none"/></g>
              <path d="M12 12h2" fill="none" stroke="#123456" stroke-width="1"/>
            </svg>
            """;
        var (art, error) = LogoFile.Read(Encoding.UTF8.GetBytes(svg));
        error.ShouldBeNull();
        (art!.Width, art.Height, art.Shapes.Count).ShouldBe((20, 10, 3));
        art.Shapes.Select(s => s.Color).ShouldBe(["#ff0000", "#008080", "#123456"]);
        art.Shapes[0].Path.ShouldBe("M0 4L0 0L4 0L4 4L0 4Z", "moved by group and view box");
        string.Concat(art.Shapes.Select(s => s.Path)).ShouldNotContain("alert");
    }

    [Fact]
    public async Task A_picture_of_twenty_thousand_dots_deep_groups_and_large_files_are_refused_before_they_are_unpacked()
    {
        // The head of a PNG of 20,000 by 20,000 dots; the checksum of the head is right, the rest is a few bytes.
        using var small = new SKBitmap(1, 1);
        var png = small.Encode(SKEncodedImageFormat.Png, 100).ToArray();
        System.Buffers.Binary.BinaryPrimitives.WriteInt32BigEndian(png.AsSpan(16), 20_000);
        System.Buffers.Binary.BinaryPrimitives.WriteInt32BigEndian(png.AsSpan(20), 20_000);
        System.Buffers.Binary.BinaryPrimitives.WriteUInt32BigEndian(png.AsSpan(29), System.IO.Hashing.Crc32.HashToUInt32(png.AsSpan(12, 17)));
        LogoFile.Read(png).Error!.Code.ShouldBe("logo-large");
        var deep = string.Concat(Enumerable.Repeat("<g>", 60)) + "<rect width='9' height='9'/>" + string.Concat(Enumerable.Repeat("</g>", 60));
        LogoFile
            .Read(Encoding.UTF8.GetBytes($"<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'>{deep}</svg>"))
            .Error!.Code.ShouldBe("logo-shapes");
        var world = await World.Make(app);
        var answer = await world.Editor.PostAsync(
            "/api/v1/code-logos",
            new ByteArrayContent(new byte[LogoUpload.MaxBytes + 1]) { Headers = { ContentType = new("application/octet-stream") } },
            Cancel
        );
        ((string)(await World.Read(answer))["code"]!).ShouldBe("logo-file-large");
    }
}
