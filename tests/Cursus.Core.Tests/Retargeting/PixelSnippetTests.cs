using Cursus.Core.Retargeting;

namespace Cursus.Core.Tests.Retargeting;

public class PixelSnippetTests
{
    [Theory]
    [InlineData("FL-204417", "Fairlead", "FL-204417")]
    [InlineData("  9f2c41d07ab3\n", "Beaconry", "9f2c41d07ab3")]
    [InlineData("<!-- Fairlead -->\n<img src=\"https://px.fairlead.example/hit?e=page&p=FL-204417\" width=1>", "Fairlead", "FL-204417")]
    [InlineData(
        "<script async src=\"https://tag.beaconry.example/x.js\"></script><script>beaconry( 'begin', '9f2c41d07ab3' ); beaconry('saw','page')</script>",
        "Beaconry",
        "9f2c41d07ab3"
    )]
    [InlineData("<script>guildhallAds.push({ pixel: 'GH20441733', event: 'visit' })</script>", "Guildhall Ads", "GH20441733")]
    [InlineData("<img src='//ads.example/p?i=1&amp;j=2' alt=''>", "Image pixel", "https://ads.example/p?i=1&j=2")]
    public void The_network_is_recognised_and_only_the_reference_is_taken(string pasted, string network, string reference)
    {
        var (readings, error) = PixelSnippet.Read(pasted, SampleNetworks.All);
        error.ShouldBeNull();
        readings.ShouldHaveSingleItem().ShouldSatisfyAllConditions(r => r.Network.Name.ShouldBe(network), r => r.Reference.ShouldBe(reference));
    }

    [Fact]
    public void A_script_by_its_address_may_be_a_container_so_that_the_marketer_chooses() =>
        PixelSnippet
            .Read("<script src=\"https://tags.example/c.js?k=7\"></script>", SampleNetworks.All)
            .Readings.Select(r => r.Network.Name)
            .ShouldBe(["Script", "Tag-manager container"]);

    [Theory]
    [InlineData("", "Paste the pixel")]
    [InlineData("hello", "no ID of a known ad network")]
    [InlineData("FL-20441", "Fairlead (FL-204417)")]
    [InlineData("<img src=\"javascript:alert(1)\">", "no ID of a known ad network")]
    [InlineData("<img src='/hit?p=FL-204417'><img src='/hit?p=FL-204418'>", "several ids of Fairlead: FL-204417, FL-204418")]
    public void What_is_missing_is_said(string pasted, string says)
    {
        var (readings, error) = PixelSnippet.Read(pasted, SampleNetworks.All);
        readings.ShouldBeEmpty();
        error!.Text.ShouldContain(says);
    }

    [Fact]
    public void An_endless_paste_is_refused() =>
        PixelSnippet.Read(new string('x', AdNetworkCheck.MaxSnippet + 1), SampleNetworks.All).Error!.Code.ShouldBe("pixel-too-long");

    /// <summary>A pattern that would take other engines longer than the universe has (common knowledge of backtracking engines, no source).</summary>
    [Fact]
    public void A_networks_pattern_can_not_make_reading_slow()
    {
        var network = SampleNetworks.Picture with { IdPattern = "(a+)+$", Find = ["(?<id>(a+)+)!"] };
        PixelSnippet.Read(new string('a', 19_000) + "?", [network]).Readings.ShouldBeEmpty();
    }
}
