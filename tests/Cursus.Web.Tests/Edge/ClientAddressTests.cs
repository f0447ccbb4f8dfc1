using System.Net;
using Cursus.Edge;
using Cursus.Web.Hosting;

namespace Cursus.Web.Tests.Edge;

/// <summary>Whose click it is where visitors come through a proxy. Addresses are those set aside for documentation (RFC 5737, RFC 3849).</summary>
public class ClientAddressTests
{
    private static readonly IPAddress Proxy = IPAddress.Parse("192.0.2.1");

    private readonly ClientAddress addresses = new(new CursusOptions { TrustedProxies = [Proxy.ToString()] });

    [Theory]
    [InlineData("203.0.113.7", "203.0.113.7")]
    [InlineData("203.0.113.7:41822", "203.0.113.7")]
    [InlineData("2001:db8::7", "2001:db8::7")]
    [InlineData("[2001:db8::7]", "2001:db8::7")]
    [InlineData("[2001:db8::7]:41822", "2001:db8::7")]
    [InlineData("::ffff:203.0.113.7", "203.0.113.7")]
    [InlineData("198.51.100.9, 203.0.113.7", "203.0.113.7")]
    [InlineData("203.0.113.7, nobody", "192.0.2.1")]
    [InlineData("", "192.0.2.1")]
    public void A_trusted_proxy_says_whom_it_answers_last_in_its_list(string forwarded, string expected) =>
        Of(Proxy, forwarded).ShouldBe(IPAddress.Parse(expected));

    [Fact]
    public void Nobody_else_is_believed() => Of(IPAddress.Parse("198.51.100.9"), "203.0.113.7").ShouldBe(IPAddress.Parse("198.51.100.9"));

    private IPAddress? Of(IPAddress connection, string forwarded) => addresses.Of(connection, forwarded);
}
