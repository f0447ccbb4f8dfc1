using System.Net;
using Cursus.Core.Clicks;

namespace Cursus.Core.Tests.Clicks;

public class OfficeNetworkTests
{
    [Theory]
    [InlineData("198.51.100.7", "198.51.100.7/32")]
    [InlineData("198.51.100.77/24", "198.51.100.0/24")]
    [InlineData("198.51.100.255/27", "198.51.100.224/27")]
    [InlineData("2001:db8:40:1::9/48", "2001:db8:40::/48")]
    [InlineData("2001:db8::9", "2001:db8::9/128")]
    public void An_address_or_a_network_is_read_and_what_stands_behind_the_prefix_is_cleared(string typed, string network)
    {
        OfficeNetwork.TryParse(typed, out var read, out _).ShouldBeTrue();
        read.ToString().ShouldBe(network);
        IPNetwork.Parse(network).ShouldBe(read.Value);
    }

    [Theory]
    [InlineData("", "isn’t a network address")]
    [InlineData("10.1", "isn’t a network address")]
    [InlineData("office.northmoor.example", "isn’t a network address")]
    [InlineData("198.51.100.0/33", "from 0 to 32")]
    [InlineData("198.51.100.0/x", "from 0 to 32")]
    [InlineData("198.0.0.0/8", "so wide")]
    [InlineData("::/0", "so wide")]
    public void Everything_else_is_refused_with_what_to_do(string typed, string says)
    {
        OfficeNetwork.TryParse(typed, out _, out var error).ShouldBeFalse();
        error!.Text.ShouldContain(says);
    }
}
