using System.Xml.Linq;
using CsCheck;
using Cursus.Core.Codes;
using Cursus.Core.Retargeting;

namespace Cursus.Core.Tests.Codes;

public class CodeTests
{
    private static readonly Gen<string> Slugs = Gen.String[Gen.Char["abcxyzKQ079-_."], 1, 40]
        .Where(s => Cursus.Core.Addresses.Slugs.Slug.TryParse(s, out _, out _));

    [Fact]
    public void The_address_in_a_code_is_the_links_own_in_other_spelling_with_the_number_behind() =>
        Slugs
            .Select(Gen.Int[1, ScannedPath.MostCodes])
            .Sample(
                (slug, number) =>
                {
                    var payload = CodePayload.Of($"https://nmoor.example/{slug}", number);
                    var read = new Uri(payload.Text);
                    var parts = ScannedPath.Read(Uri.UnescapeDataString(read.AbsolutePath).Trim('/'));
                    return read.Host == "nmoor.example"
                        && parts.Code == number
                        && parts.Slug.Equals(slug, StringComparison.OrdinalIgnoreCase)
                        && payload.BitsIn(3) <= 4 + 8 + 8 * payload.Plain.Length;
                }
            );

    [Theory]
    [InlineData("winter", "winter", 0)]
    [InlineData("winter/1", "winter", 1)]
    [InlineData("WINTER/250", "WINTER", 250)]
    [InlineData("winter/251", "winter/251", 0)]
    [InlineData("winter/0", "winter/0", 0)]
    [InlineData("winter/01", "winter/01", 0)]
    [InlineData("winter/1/2", "winter/1", 2)]
    [InlineData("winter/", "winter/", 0)]
    [InlineData("/1", "/1", 0)]
    [InlineData("winter/+1", "winter/+1", 0)]
    [InlineData(".well-known/x", ".well-known/x", 0)]
    public void Only_a_number_of_a_code_is_taken_off_a_path(string path, string slug, int code)
    {
        var parts = ScannedPath.Read(path);
        parts.Slug.ToString().ShouldBe(slug);
        ((int)parts.Code).ShouldBe(code);
    }

    [Fact]
    public void Capitals_save_modules_and_correction_is_raised_for_free()
    {
        var payload = CodePayload.Of("https://nmoor.example/winter-members", 1);
        payload.Text.ShouldBe("HTTPS://NMOOR.EXAMPLE/WINTER-MEMBERS/1");
        payload
            .ModulesSaved(CorrectionLevel.M)
            .ShouldBe(29 * 29 - 25 * 25, "38 characters fill version 2 as capitals (table 7) and need version 3 otherwise");
        CodeSymbol.Of(CodePayload.Of("https://nmoor.example/orion", 1)).Size.ShouldBe(new SymbolSize(2, CorrectionLevel.Q));
    }

    [Theory]
    [InlineData(10, CorrectionLevel.Q)]
    [InlineData(29, CorrectionLevel.H)]
    public void A_logo_asks_for_stronger_correction(int percent, CorrectionLevel least) =>
        (
            CodeSymbol.Of(CodePayload.Of("https://nmoor.example/orion-and-more", 1), new CodeLogo(Guid.Empty, percent)).Size.Level >= least
        ).ShouldBeTrue();

    /// <summary>WCAG 2.2: black on white is 21 to 1, a colour on itself 1 to 1; #777777 on white is 4.48 to 1 and #767676 4.54 (published in its
    /// supporting documents; from memory).</summary>
    [Theory]
    [InlineData("#000000", "#ffffff", 21)]
    [InlineData("#6e2a5b", "#6e2a5b", 1)]
    [InlineData("#777777", "#ffffff", 4.48)]
    [InlineData("#767676", "#ffffff", 4.54)]
    public void Contrast_is_WCAGs(string one, string other, double ratio)
    {
        ColorContrast.TryParse(one, out var a).ShouldBeTrue();
        ColorContrast.TryParse(other, out var b).ShouldBeTrue();
        ColorContrast.Ratio(a!.Value, b!.Value).ShouldBe(ratio, 0.005);
    }

    [Theory]
    [InlineData("#ffe14d", "#ffffff", "contrast")]
    [InlineData("#ffffff", "#231b22", "inverted")]
    public void Colours_that_readers_fail_at_are_refused_by_name_and_mended_keeping_the_rest(string ink, string ground, string rule)
    {
        var style = new CodeStyle
        {
            Ink = ink,
            Ground = ground,
            Modules = ModuleShape.Dots,
        };
        var symbol = CodeSymbol.Of(CodePayload.Of("https://nmoor.example/orion", 1));
        var finding = CodeCheck.Of(style, symbol)[0];
        (finding.Rule, finding.IsRefused).ShouldBe((rule, true));
        finding.Fix!.Modules.ShouldBe(ModuleShape.Dots);
        CodeCheck.Of(finding.Fix!, symbol).ShouldBeEmpty();
    }

    [Fact]
    public void Whatever_colours_are_chosen_their_fixes_end_in_a_pair_that_is_dark_on_light() =>
        Gen.Select(Color, Color)
            .Sample(
                (ink, ground) =>
                {
                    var symbol = CodeSymbol.Of(CodePayload.Of("https://nmoor.example/orion", 1));
                    var style = new CodeStyle { Ink = ink, Ground = ground };
                    for (var i = 0; i < 4 && CodeCheck.Of(style, symbol).FirstOrDefault(f => f.IsRefused)?.Fix is { } mended; i++)
                    {
                        style = mended;
                    }

                    return CodeCheck.Contrast(style.Ink, style.Ground!) >= CodeCheck.LeastContrast
                        && CodeCheck.Of(style, symbol).All(f => !f.IsRefused);
                }
            );

    [Fact]
    public void Wrong_modules_count_by_the_block_that_is_worst_off()
    {
        var symbol = CodeSymbol.Of(CodePayload.Of("https://nmoor.example/orion", 1));
        ReadMargin.Of(symbol, (r, c) => symbol[r, c]).Percent.ShouldBe(100);
        var first = Enumerable
            .Range(0, symbol.Side)
            .SelectMany(r => Enumerable.Range(0, symbol.Side).Select(c => (r, c)))
            .Where(p => symbol.Layout.CodewordAt(p.r, p.c) == 0)
            .ToList();
        var margin = ReadMargin.Of(symbol, (r, c) => symbol[r, c] ^ first.Contains((r, c)));
        margin.WrongInWorstBlock.ShouldBe(1, "eight wrong modules of one codeword are one wrong codeword");
        margin.Percent.ShouldBe(100 * (1 - 1.0 / symbol.Size.CorrectableOfBlock), 0.001);
        ReadMargin.Of(symbol, (r, c) => !symbol[r, c]).Percent.ShouldBeLessThan(0);
    }

    [Fact]
    public void A_code_is_large_enough_for_its_place_or_says_what_to_do()
    {
        var symbol = CodeSymbol.Of(CodePayload.Of("https://nmoor.example/orion", 1));
        PrintPlace.All.ShouldAllBe(p => CodeCheck.Printed(CodeStyle.Plain, symbol, p) == null);
        CodeCheck.Printed(CodeStyle.Plain with { QuietZone = 20 }, symbol, PrintPlace.All[0])!.Reason.ShouldContain("26 mm");
    }

    [Theory]
    [InlineData("plain")]
    [InlineData("framed")]
    public async Task The_same_code_is_the_same_SVG_today_and_tomorrow(string name)
    {
        var style =
            name == "plain"
                ? CodeStyle.Plain
                : new CodeStyle
                {
                    Modules = ModuleShape.Connected,
                    Corners = CornerShape.Round,
                    Centres = CornerShape.Round,
                    Ink = "#6e2a5b",
                    Gradient = new CodeGradient("#231b22", GradientCourse.Down),
                    CornerInk = "#231b22",
                    Ground = "#fffdf9",
                    Frame = new CodeFrame(FrameShape.Around, "Scan"),
                };
        var svg = CodeSvg.Write(
            CodeDrawing.Of(CodeSymbol.Of(CodePayload.Of("https://nmoor.example/orion", 1)), style),
            "https://nmoor.example/orion/1",
            200,
            captionPath: "M0 0h1v1z"
        );
        XDocument.Parse(svg).Root!.Elements().Count(e => e.Name.LocalName == "path").ShouldBe(name == "plain" ? 4 : 6, "one path for each layer");
        svg.Length.ShouldBeLessThan(name == "plain" ? 8_000 : 40_000);
        var golden = Path.Combine(AppContext.BaseDirectory, "ReferenceData", $"code-{name}.svg");
        svg.ShouldBe((await File.ReadAllTextAsync(golden, TestContext.Current.CancellationToken)).TrimEnd('\n'));
    }

    private static readonly Gen<string> Color = Gen.Int[0, 0xFFFFFF].Select(c => $"#{c:x6}");
}
