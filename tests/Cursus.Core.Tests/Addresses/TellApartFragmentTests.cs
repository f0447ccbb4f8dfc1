using Cursus.Core.Addresses.Tagging;

namespace Cursus.Core.Tests.Addresses;

/// <summary>People append a fragment only to make two addresses of one page differ (common practice, no source).</summary>
public class TellApartFragmentTests
{
    private static readonly string[] Channels = ["guildhall", "Guildhall", "night-letter", "Night Letter"];

    [Theory]
    [InlineData("li")]
    [InlineData("FB")]
    [InlineData("guild")]
    [InlineData("Guildhall")]
    [InlineData("nightletter")]
    [InlineData("2")]
    public void A_channel_or_its_initials_after_the_hash_are_there_to_tell_links_apart(string fragment) =>
        TellApartFragment.Is(fragment, Channels).ShouldBeTrue();

    [Theory]
    [InlineData("")]
    [InlineData("opening-hours")]
    [InlineData("faq")]
    [InlineData("/route/3")]
    [InlineData(":~:text=meteors")]
    public void A_place_on_the_page_is_none(string fragment) => TellApartFragment.Is(fragment, Channels).ShouldBeFalse();
}
