using Cursus.Core.Posts;

namespace Cursus.Core.Tests.Posts;

/// <summary>Source and medium for a channel’s name. Mediums are common practice, no source; hosts come from the list of referrers that
/// ships.</summary>
public class ChannelProposalTests
{
    [Theory]
    [InlineData("https://www.vk.com/feed?x=1", "vk", "social", "VK")]
    [InlineData("redd.it", "reddit", "social", "Reddit")]
    [InlineData("TUMBLR", "tumblr", "social", "Tumblr")]
    [InlineData("Night Letter", "night-letter", "email", null)]
    [InlineData("Poster at the bus stop", "poster-at-the-bus-stop", "print", null)]
    [InlineData("Guildhall Ads", "guildhall-ads", "cpc", null)]
    [InlineData("Partner’s Blog", "partners-blog", "referral", null)]
    [InlineData("Text message", "text-message", "sms", null)]
    [InlineData("Perch", "perch", "social", null)]
    [InlineData("forum.northmoor.example", "forum-northmoor-example", "social", null)]
    [InlineData(" — ", "", "social", null)]
    public void A_name_a_host_or_an_address_proposes_source_and_medium(string typed, string source, string medium, string? network) =>
        ChannelProposal.Of(typed).ShouldBe(new ChannelProposal(source, medium, network));

    [Fact]
    public void The_starter_set_has_nine_different_channels_whose_own_names_propose_their_mediums()
    {
        StarterChannel.All.Select(c => c.Name).Distinct().Count().ShouldBe(9);
        StarterChannel.All.ShouldAllBe(c => ChannelProposal.Of(c.Name).Medium == c.Medium);
        StarterChannel.All.ShouldAllBe(c => c.Signet.Length == 2 && c.Color >= 0 && c.Color <= 9);
    }
}
