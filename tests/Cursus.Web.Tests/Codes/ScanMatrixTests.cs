using Cursus.Web.Codes;
using SkiaSharp;

namespace Cursus.Web.Tests.Codes;

/// <summary>The promise of the feature, held against readers that others wrote.</summary>
public class ScanMatrixTests
{
    private const int Styles = 1400;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_style_that_is_let_through_is_read_by_both_readers_small_blurred_turned_squeezed_and_grey()
    {
        var codes = LetThrough(Styles);
        codes.Count.ShouldBeGreaterThanOrEqualTo(500);
        await ShouldBeRead([.. codes.SelectMany(c => Enum.GetValues<Disturbance>().Select(d => (c.Seed, c.Code, d, CodeReadBack.Width)))]);
    }

    [Theory]
    [InlineData(320)]
    [InlineData(640)]
    public async Task What_is_read_at_the_smallest_width_is_read_at_larger_ones(int width) =>
        await ShouldBeRead([
            .. LetThrough(120)
                .SelectMany(c => new[] { Disturbance.Small, Disturbance.Turned, Disturbance.GreyPrint }.Select(d => (c.Seed, c.Code, d, width))),
        ]);

    [Fact]
    public void Every_style_that_is_refused_says_why_and_the_fixes_lead_to_one_that_is_let_through()
    {
        foreach (var seed in Enumerable.Range(0, 300))
        {
            var code = AnyStyle.Of(seed);
            for (var steps = 0; CodeJudgement.Of(code).Findings.FirstOrDefault(f => f.IsRefused) is { } refused; steps++)
            {
                steps.ShouldBeLessThan(8, $"style {seed} is still refused for {refused.Rule}");
                refused.Reason.ShouldNotBeEmpty();
                refused.FixLabel.ShouldNotBeNull($"{refused.Rule} has no fix");
                refused.Fix.ShouldNotBe(code.Style, refused.Rule);
                code = code.In(refused.Fix!);
            }
        }
    }

    private static List<(int Seed, FinishedCode Code)> LetThrough(int styles) =>
        [.. Enumerable.Range(0, styles).Select(seed => (seed, AnyStyle.Of(seed))).Where(c => CodeJudgement.Of(c.Item2).IsLetThrough)];

    private static async Task ShouldBeRead(IReadOnlyList<(int Seed, FinishedCode Code, Disturbance Disturbance, int Width)> cases)
    {
        var expected = cases.ToDictionary(c => $"{c.Seed}-{c.Disturbance}", c => c.Code.Symbol.Payload.Text);
        List<(string Name, SKBitmap Picture)> pictures =
        [
            .. cases.Select(c => ($"{c.Seed}-{c.Disturbance}", CodeReadBack.Disturb(c.Code, c.Disturbance, c.Width).Picture)),
        ];
        var (zxing, jsqr) = await Decoders.Read(pictures, Cancel);
        pictures.ForEach(p => p.Picture.Dispose());
        expected
            .Where(e => zxing.GetValueOrDefault(e.Key) != e.Value)
            .Select(e => $"zxing {e.Key}")
            .Concat(expected.Where(e => jsqr.GetValueOrDefault(e.Key) != e.Value).Select(e => $"jsqr {e.Key}"))
            .ShouldBeEmpty();
    }
}
