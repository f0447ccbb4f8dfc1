using CsCheck;
using Cursus.Core.Routing;

namespace Cursus.Core.Tests.Routing;

/// <summary>Splits as cells of tables say them.</summary>
public class SplitTextTests
{
    [Theory]
    [InlineData("50% https://a.example, 50% https://b.example")]
    [InlineData("50 % https://a.example; 50 % https://b.example")]
    [InlineData(" 50% https://a.example\n50% https://b.example ")]
    public void A_split_is_read_however_its_pages_are_set_apart(string text)
    {
        SplitText.TryRead(text, out var pages).ShouldBeTrue();
        pages.ShouldBe([("https://a.example", 50), ("https://b.example", 50)]);
    }

    [Theory]
    [InlineData("")]
    [InlineData("https://a.example")]
    [InlineData("50%")]
    [InlineData("50% https://a.example, https://b.example")]
    [InlineData("1000% https://a.example")]
    public void Anything_else_is_none(string text) => SplitText.TryRead(text, out _).ShouldBeFalse();

    [Fact]
    public void What_is_written_is_read_again_whatever_its_addresses_end_with() =>
        Gen.Select(Gen.Int[0, 100], Gen.Char["ab50%,;/?&=."].Array[1, 12], (share, end) => (Destination: $"https://{new string(end)}", Weight: share))
            .Array[1, 20]
            .Sample(pages =>
            {
                var text = SplitText.Of(new RouteOutcome { Pages = [.. pages.Select(p => new RoutePage(p.Destination, p.Weight, []))] });
                SplitText.TryRead(text, out var read).ShouldBeTrue(text);
                read.ShouldBe(pages);
            });
}
