using System.Net;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Tests.Addresses;

/// <summary>Networks of the IANA IPv4 and IPv6 Special-Purpose Address Registries (RFC 6890), one address in and one beside each that
/// matters.</summary>
public class PrivateNetworkTests
{
    [Theory]
    [InlineData("0.0.0.0")]
    [InlineData("10.1.2.3")]
    [InlineData("100.64.0.1")]
    [InlineData("127.0.0.1")]
    [InlineData("127.255.255.254")]
    [InlineData("169.254.169.254")]
    [InlineData("172.16.0.1")]
    [InlineData("172.31.255.255")]
    [InlineData("192.168.1.1")]
    [InlineData("198.18.0.1")]
    [InlineData("224.0.0.251")]
    [InlineData("255.255.255.255")]
    [InlineData("::")]
    [InlineData("::1")]
    [InlineData("fe80::1")]
    [InlineData("fd00:ec2::254")]
    [InlineData("ff02::1")]
    [InlineData("::ffff:127.0.0.1")]
    [InlineData("::ffff:a9fe:a9fe")]
    [InlineData("64:ff9b::a00:1")]
    [InlineData("2002:7f00:1::")]
    [InlineData("2001:0:1::")]
    [InlineData("::127.0.0.1")]
    [InlineData("::ffff:0:127.0.0.1")]
    [InlineData("64:ff9b:1::a00:1")]
    [InlineData("2606:4700::5efe:10.0.0.1")]
    [InlineData("2606:4700::200:5efe:192.168.1.1")]
    public void Addresses_inside_are_private(string address) => PrivateNetwork.Covers(IPAddress.Parse(address)).ShouldBeTrue();

    [Theory]
    [InlineData("9.255.255.255")]
    [InlineData("11.0.0.0")]
    [InlineData("100.63.255.255")]
    [InlineData("100.128.0.0")]
    [InlineData("172.15.255.255")]
    [InlineData("172.32.0.0")]
    [InlineData("192.167.255.255")]
    [InlineData("223.255.255.255")]
    [InlineData("::ffff:8.8.8.8")]
    [InlineData("2606:4700::1")]
    [InlineData("64:ff9b::808:808")]
    [InlineData("2606:4700::5efe:8.8.8.8")]
    public void Addresses_beside_are_public(string address) => PrivateNetwork.Covers(IPAddress.Parse(address)).ShouldBeFalse();

    [Theory]
    [InlineData("http://localhost/")]
    [InlineData("http://printer.local/")]
    [InlineData("http://2130706433/")]
    [InlineData("http://0x7f.1/")]
    [InlineData("http://017700000001/")]
    [InlineData("http://[::ffff:7f00:1]/")]
    [InlineData("http://metadata.internal./")]
    public void However_it_is_written_a_private_host_is_recognised(string address) =>
        PrivateNetwork.IsPrivate(Destination.Of(address).Address.Host).ShouldBeTrue();

    [Fact]
    public void What_an_installation_allows_is_allowed_and_nothing_beside_it()
    {
        PrivateNetwork.IsAllowed("www.northmoor.localhost", [".localhost"]).ShouldBeTrue();
        PrivateNetwork.IsAllowed("localhost", [".localhost"]).ShouldBeFalse();
        PrivateNetwork.IsAllowed("evil-localhost", [".localhost"]).ShouldBeFalse();
        PrivateNetwork.IsAllowed("intranet.local", ["intranet.local"]).ShouldBeTrue();
    }
}
