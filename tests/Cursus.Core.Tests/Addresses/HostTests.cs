using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Tests.Addresses;

public class HostTests
{
    /// <summary>The recommended text forms of RFC 5952, sections 4 and 5 (examples of the RFC); IPv4 inside is written in hexadecimal, as the URL
    /// Standard's serializer does.</summary>
    [Theory]
    [InlineData("2001:0db8::0001", "2001:db8::1")]
    [InlineData("2001:db8:0:0:0:0:2:1", "2001:db8::2:1")]
    [InlineData("2001:db8:0:1:1:1:1:1", "2001:db8:0:1:1:1:1:1")]
    [InlineData("2001:0:0:1:0:0:0:1", "2001:0:0:1::1")]
    [InlineData("2001:db8:0:0:1:0:0:1", "2001:db8::1:0:0:1")]
    [InlineData("2001:DB8::AAAA", "2001:db8::aaaa")]
    [InlineData("0:0:0:0:0:0:0:0", "::")]
    [InlineData("0:0:0:0:0:0:0:1", "::1")]
    [InlineData("1:0:0:0:0:0:0:0", "1::")]
    [InlineData("::ffff:192.0.2.33", "::ffff:c000:221")]
    public void IPv6_hosts_are_written_in_their_one_short_form(string typed, string written) => Host($"https://[{typed}]/").ShouldBe($"[{written}]");

    [Theory]
    [InlineData("192.0.2.235", "192.0.2.235")]
    [InlineData("0xC0.0x00.0x02.0xEB", "192.0.2.235")]
    [InlineData("0300.0000.0002.0353", "192.0.2.235")]
    [InlineData("0xC00002EB", "192.0.2.235")]
    [InlineData("3221226219", "192.0.2.235")]
    [InlineData("030000001353", "192.0.2.235")]
    [InlineData("192.0.747", "192.0.2.235")]
    [InlineData("192.747", "192.0.2.235")]
    [InlineData("192.0.2.235.", "192.0.2.235")]
    public void IPv4_hosts_are_recognised_in_every_way_in_which_browsers_read_them(string typed, string written) =>
        Host($"http://{typed}/").ShouldBe(written);

    [Theory]
    [InlineData("192.0.2.256")]
    [InlineData("192.0.2.1.1")]
    [InlineData("0xC00002EB0")]
    [InlineData("4294967296")]
    [InlineData("192.0.2.08")]
    public void What_ends_like_an_IPv4_address_and_is_none_is_no_host(string typed)
    {
        WebAddress.Parse($"http://{typed}/", null, out var error).ShouldBeNull();
        error!.Code.ShouldBe("destination-no-host");
    }

    /// <summary>Names with their Punycode (RFC 3492) forms; values from memory, Node's URL agrees.</summary>
    [Theory]
    [InlineData("bücher.example", "xn--bcher-kva.example")]
    [InlineData("BÜCHER.example", "xn--bcher-kva.example")]
    [InlineData("bu\u0308cher.example", "xn--bcher-kva.example")]
    [InlineData("xn--bcher-kva.example", "xn--bcher-kva.example")]
    [InlineData("例え.テスト", "xn--r8jz45g.xn--zckzah")]
    [InlineData("www。northmoor。example", "www.northmoor.example")]
    public void International_names_are_kept_in_their_ASCII_form(string typed, string written) => Host($"https://{typed}/").ShouldBe(written);

    [Theory]
    [InlineData("xn--a")]
    [InlineData("xn--zzzzzzzz999999")]
    [InlineData("a%00b.example")]
    [InlineData("a|b.example")]
    [InlineData("a^b.example")]
    [InlineData("")]
    public void What_no_browser_takes_for_a_host_is_refused(string typed) => WebAddress.Parse($"https://{typed}/", null, out _).ShouldBeNull();

    [Theory]
    [InlineData("http://northmoor.example:80/", null)]
    [InlineData("https://northmoor.example:443/", null)]
    [InlineData("http://northmoor.example:443/", 443)]
    [InlineData("https://northmoor.example:0080/", 80)]
    [InlineData("https://northmoor.example:/", null)]
    [InlineData("https://[::1]:8443/", 8443)]
    public void A_port_is_kept_where_it_is_not_the_schemes_own(string address, int? port) =>
        WebAddress.Parse(address, null, out _)!.Port.ShouldBe(port);

    private static string Host(string address) => WebAddress.Parse(address, null, out _)!.Host;
}
