using Cursus.Core.Retargeting;

namespace Cursus.Core.Tests.Retargeting;

public class AudienceTests
{
    [Fact]
    public void A_post_is_defined_by_the_beginning_that_its_slugs_have_in_common()
    {
        var definition = AudienceDefinition.Of(
            "Geminids",
            ["nmoor.example/geminids-perch", "nmoor.example/geminids-poster", "nmoor.example/geminids-guildhall"],
            ["nmoor.example/red-lamps-perch"]
        );
        definition.Contains.ShouldBe(["nmoor.example/geminids"]);
        definition.IsShared.ShouldBeTrue();
    }

    [Theory]
    [InlineData("nmoor.example/geminids-2025-perch")] // would be gathered too
    [InlineData("nmoor.example/geminids")]
    public void A_beginning_that_fits_another_link_is_no_definition(string other)
    {
        var definition = AudienceDefinition.Of("Geminids", ["nmoor.example/geminids-perch", "nmoor.example/geminids-poster"], [other]);
        definition.Contains.ShouldBe(["nmoor.example/geminids-perch", "nmoor.example/geminids-poster"]);
        definition.IsShared.ShouldBeFalse();
        definition.AlsoFits.ShouldBeEmpty();
    }

    [Fact]
    public void Words_are_not_cut_and_a_few_common_letters_are_no_beginning() =>
        AudienceDefinition
            .Of("Two", ["nmoor.example/mars-a", "nmoor.example/marsh-a"], [])
            .Contains.ShouldBe(["nmoor.example/mars-a", "nmoor.example/marsh-a"]);

    [Fact]
    public void What_a_single_address_would_gather_too_is_said() =>
        AudienceDefinition
            .Of("One", ["nmoor.example/join"], ["nmoor.example/join-us", "nmoor.example/rejoin", "nmoor.example/shop"])
            .AlsoFits.ShouldBe(["nmoor.example/join-us"]);

    [Fact]
    public void An_audience_that_is_too_small_is_to_be_fed_first() =>
        AudienceAdvice
            .Of("Fairlead", 100, 62, [new("Winter members", 40), new("Raffle", 22)], 28)
            .ShouldBe([
                "62 visitors in 28 days are too few for Fairlead, which needs about 100. Attach the pixel to more campaigns, or choose a longer window.",
            ]);

    [Fact]
    public void Small_campaigns_are_pooled_and_a_large_one_is_split_off() =>
        AudienceAdvice
            .Of("Fairlead", 100, 2062, [new("Winter members", 2000), new("Raffle", 40), new("Schools", 22)], 28)
            .ShouldBe([
                "Pool “Raffle” and “Schools”: alone each is below 100, together they have about 62 visitors.",
                "Split off “Winter members”: with about 2,000 visitors there is enough for adverts of its own.",
            ]);

    [Fact]
    public void One_campaign_that_is_all_there_is_needs_no_advice() =>
        AudienceAdvice.Of("Fairlead", 100, 2000, [new("Winter members", 2000)], 28).ShouldBeEmpty();

    /// <summary>Values of WCAG's own definitions (black on white is 21 to 1) and the greys next to 4.5 that guides to it name (from
    /// memory).</summary>
    [Theory]
    [InlineData("#000000", "#ffffff", 21, 0.001)]
    [InlineData("#777777", "#FFFFFF", 4.48, 0.005)]
    [InlineData("#767676", "#ffffff", 4.54, 0.005)]
    [InlineData("#6e2a5b", "#6e2a5b", 1, 0.001)]
    public void Contrast_is_that_of_WCAG(string one, string other, double ratio, double within)
    {
        ColorContrast.TryParse(one, out var a).ShouldBeTrue();
        ColorContrast.TryParse(other, out var b).ShouldBeTrue();
        ColorContrast.Ratio(a.Value, b.Value).ShouldBe(ratio, within);
        ColorContrast.Ratio(b.Value, a.Value).ShouldBe(ratio, within);
    }
}
