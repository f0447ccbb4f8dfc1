using System.Net;
using CsCheck;
using Cursus.Core.Clicks;

namespace Cursus.Core.Tests.Clicks;

public class CountryTableTests
{
    private static readonly CountryTable Table = new([
        (IPAddress.Parse("192.0.2.0"), 25, CountryCode.Of("GB")),
        (IPAddress.Parse("192.0.2.128"), 25, CountryCode.Of("IE")),
        (IPAddress.Parse("198.51.100.0"), 24, CountryCode.Of("DE")),
        (IPAddress.Parse("255.255.255.0"), 24, CountryCode.Of("FR")),
        (IPAddress.Parse("2001:db8::"), 32, CountryCode.Of("GB")),
        (IPAddress.Parse("2001:db8:ffff::"), 48, CountryCode.Of("CA")),
    ]);

    [Theory]
    [InlineData("192.0.2.0", "GB")]
    [InlineData("192.0.2.127", "GB")]
    [InlineData("192.0.2.128", "IE")]
    [InlineData("192.0.2.255", "IE")]
    [InlineData("192.0.3.0", "")]
    [InlineData("192.0.1.255", "")]
    [InlineData("198.51.100.200", "DE")]
    [InlineData("255.255.255.255", "FR")]
    [InlineData("::ffff:198.51.100.200", "DE")]
    [InlineData("2001:db8::1", "GB")]
    [InlineData("2001:db9::", "")]
    [InlineData("::1", "")]
    [InlineData(null, "")]
    public void An_address_belongs_to_the_network_that_holds_it(string? address, string country) =>
        Table.Find(address is null ? null : IPAddress.Parse(address)).ToString().ShouldBe(country);

    /// <summary>Held against looking through all networks.</summary>
    [Fact]
    public void Every_address_is_found_as_by_looking_through_all_networks() =>
        Gen.Select(Gen.UInt[0, 255], Gen.Int[20, 32], Gen.Int[0, 2])
            .Array[0, 60]
            .Sample(
                made =>
                {
                    var networks = made.DistinctBy(m => m.Item1)
                        .Select(m =>
                            (
                                First: new IPAddress([10, 0, (byte)m.Item1, 0]),
                                Length: Math.Max(24, m.Item2),
                                Country: CountryCode.Of(new[] { "GB", "IE", "DE" }[m.Item3])
                            )
                        )
                        .ToList();
                    var table = new CountryTable(networks);
                    for (var i = 0; i < 256 * 8; i++)
                    {
                        var address = new IPAddress([10, 0, (byte)(i / 8), (byte)(i % 8 * 36)]);
                        table.Find(address).ShouldBe(networks.FirstOrDefault(n => new IPNetwork(n.First, n.Length).Contains(address)).Country);
                    }
                },
                iter: 50,
                threads: 1
            );

    /// <summary>Held against asking one after the other.</summary>
    [Fact]
    public void Where_one_table_knows_nothing_the_next_is_asked() =>
        Gen.Select(Gen.UInt[0, 60], Gen.Int[0, 3], Gen.Bool)
            .Array[0, 60]
            .Sample(
                made =>
                {
                    CountryTable Table(bool isFirst) =>
                        new(
                            made.Where(m => m.Item3 == isFirst)
                                .DistinctBy(m => m.Item1)
                                .Select(m => (new IPAddress([10, 0, (byte)m.Item1, 0]), 24, CountryCode.Of(new[] { "GB", "IE", "DE", "" }[m.Item2])))
                        );
                    var (first, second) = (Table(true), Table(false));
                    var both = first.Else(second);
                    for (var i = 0; i < 64; i++)
                    {
                        var address = new IPAddress([10, 0, (byte)i, 7]);
                        both.Find(address).ShouldBe(first.Find(address) is { } known && known != default ? known : second.Find(address));
                    }
                },
                iter: 200,
                threads: 1
            );

    [Fact]
    public void Countries_are_those_of_ISO_3166()
    {
        CountryNames.Codes.Count.ShouldBeGreaterThanOrEqualTo(249);
        CountryNames.Codes.ShouldAllBe(code =>
            CountryCode.Of(code).ToString() == code && CountryCode.OfNumber(CountryCode.Of(code).Number).ToString() == code
        );
        (CountryNames.Of("GB"), CountryNames.Of("ZZ"), CountryNames.Of("")).ShouldBe(("United Kingdom", "ZZ", "Unknown"));
    }
}
