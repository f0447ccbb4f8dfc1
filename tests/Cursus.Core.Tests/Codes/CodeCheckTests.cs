using CsCheck;
using Cursus.Core.Codes;

namespace Cursus.Core.Tests.Codes;

public class CodeCheckTests
{
    private static readonly CodePayload Payload = CodePayload.Of("https://nmoor.example/orion", 1);

    private static readonly Dictionary<string, CodeStyle> Slips = new()
    {
        ["a narrow quiet zone"] = new() { QuietZone = 2 },
        ["round centres in square corners"] = new() { Centres = CornerShape.Round },
        ["square centres in round corners"] = new() { Corners = CornerShape.Round },
        ["a pale end of the gradient"] = new() { Gradient = new("#f7d0e0", GradientCourse.Down) },
        ["pale corners"] = new() { CornerInk = "#ffe14d" },
        ["centres lighter than the ground"] = new() { Ground = "#f7f4ee", CentreInk = "#ffffff" },
        ["a logo over half of it"] = new() { Logo = new(Guid.Empty, 50) },
        ["words in the band as dark as the band"] = new() { Frame = new(FrameShape.Around, "Scan to join", "#231b22", "#3a303a") },
        ["pale words under it"] = new() { Frame = new(FrameShape.Under, "Scan to join", "#f0e0c0") },
        ["no ground"] = new() { Ground = null },
    };

    [Theory]
    [InlineData("a narrow quiet zone", "quiet-zone", true)]
    [InlineData("round centres in square corners", "corner-mix", true)]
    [InlineData("square centres in round corners", "corner-mix", true)]
    [InlineData("a pale end of the gradient", "contrast", true)]
    [InlineData("pale corners", "contrast", true)]
    [InlineData("centres lighter than the ground", "inverted", true)]
    [InlineData("a logo over half of it", "logo-cover", true)]
    [InlineData("words in the band as dark as the band", "frame-contrast", false)]
    [InlineData("pale words under it", "frame-contrast", false)]
    [InlineData("no ground", "no-ground", false)]
    public void Each_slip_is_found_by_its_rule_alone_and_gone_once_its_fix_is_taken(string slip, string rule, bool isRefused)
    {
        var style = Slips[slip];
        var finding = CodeCheck.Of(style, Symbol(style)).ShouldHaveSingleItem();
        (finding.Rule, finding.IsRefused).ShouldBe((rule, isRefused));
        finding.FixLabel.ShouldNotBeNullOrEmpty();
        CodeCheck.Of(finding.Fix!, Symbol(finding.Fix!)).ShouldBeEmpty();
    }

    [Fact]
    public void Whatever_is_chosen_taking_fix_after_fix_ends_with_a_code_that_is_let_through() =>
        Gen.Select(Styles, Gen.Double[0.25, 4])
            .Sample(
                (style, aspect) =>
                {
                    var taken = new List<string>();
                    while (CodeCheck.Of(style, Symbol(style, aspect), aspect) is [{ Fix: { } mended } finding, ..])
                    {
                        taken.Add(finding.Rule);
                        taken.Count.ShouldBeLessThan(12, string.Join(", ", taken));
                        style = mended;
                    }

                    style.Errors().ShouldBeEmpty("a fix can be drawn");
                }
            );

    [Fact]
    public void What_stops_a_code_is_said_before_what_is_only_advised() =>
        Styles.Sample(style => CodeCheck.Of(style, Symbol(style)).Select(f => f.IsRefused).ShouldBeInOrder(SortDirection.Descending));

    [Fact]
    public void A_logo_is_made_no_smaller_than_it_must_be()
    {
        var style = new CodeStyle { Logo = new(Guid.Empty, 50) };
        var smaller = CodeCheck.Of(style, Symbol(style))[0].Fix!;
        var larger = smaller with { Logo = smaller.Logo! with { Percent = smaller.Logo.Percent + 1 } };
        CodeCheck.Of(larger, Symbol(larger)).ShouldContain(f => f.Rule == "logo-cover");
    }

    [Fact]
    public void What_can_be_drawn_has_no_flaw() => Styles.Sample(style => style.Errors().ShouldBeEmpty());

    [Fact]
    public void What_can_t_be_drawn_is_told_at_its_field()
    {
        var wrong = new CodeStyle
        {
            Ink = "black",
            Gradient = new("#12345", (GradientCourse)9),
            CornerInk = "#ggg000",
            CentreInk = "",
            Ground = "rgb(0,0,0)",
            QuietZone = 21,
            Logo = new(Guid.Empty, 61),
            Frame = new(FrameShape.Under, new string('a', 41), "#1234567", "red"),
        };
        wrong
            .Errors()
            .Select(f => (f.Field, f.Error.Code))
            .ShouldBe([
                ("ink", "color-format"),
                ("gradient.to", "color-format"),
                ("cornerInk", "color-format"),
                ("centreInk", "color-format"),
                ("ground", "color-format"),
                ("frame.color", "color-format"),
                ("frame.textColor", "color-format"),
                ("modules", "shape-unknown"),
                ("quietZone", "quiet-zone-range"),
                ("logo", "logo-range"),
                ("frame.text", "frame-text"),
            ]);
        new CodeStyle { Modules = (ModuleShape)7 }
            .Errors()
            .ShouldHaveSingleItem()
            .Field.ShouldBe("modules");
        new CodeStyle { Frame = new(FrameShape.Under, " ") }
            .Errors()
            .ShouldHaveSingleItem()
            .Field.ShouldBe("frame.text");
    }

    private static CodeSymbol Symbol(CodeStyle style, double aspect = 1) => CodeSymbol.Of(Payload, style.Logo, aspect);

    private static readonly Gen<string> Color = Gen.Int[0, 0xFFFFFF].Select(c => $"#{c:x6}");

    private static readonly Gen<CodeStyle> Styles = Gen.Select(
        Gen.Select(Gen.Enum<ModuleShape>(), Gen.Enum<CornerShape>(), Gen.Enum<CornerShape>(), Gen.Int[0, 20]),
        Gen.Select(Color, Color.Null(), Color.Null(), Color.Null()),
        Gen.Select(Color, Gen.Enum<GradientCourse>(), (to, course) => new CodeGradient(to, course)).Null(),
        Gen.Select(Gen.Int[5, 60], Gen.Int[0, 4], Gen.Bool, (percent, margin, knocksOut) => new CodeLogo(Guid.Empty, percent, margin, knocksOut))
            .Null(),
        Gen.Select(Gen.Enum<FrameShape>(), Color, Color, (shape, line, words) => new CodeFrame(shape, "Scan to join", line, words)).Null(),
        (shapes, colors, gradient, logo, frame) =>
            new CodeStyle
            {
                Modules = shapes.Item1,
                Corners = shapes.Item2,
                Centres = shapes.Item3,
                QuietZone = shapes.Item4,
                Ink = colors.Item1,
                CornerInk = colors.Item2,
                CentreInk = colors.Item3,
                Ground = colors.Item4,
                Gradient = gradient,
                Logo = logo,
                Frame = frame,
            }
    );
}
