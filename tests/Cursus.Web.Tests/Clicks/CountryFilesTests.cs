using System.Net;
using Cursus.Core.Clicks;
using Cursus.Edge;
using Microsoft.Extensions.Logging.Abstractions;

namespace Cursus.Web.Tests.Clicks;

public class CountryFilesTests
{
    private static readonly CountryTable Table = CountryFiles.Read("Countries", NullLogger.Instance);

    /// <summary>Blocks set aside for documentation and private use: RFC 5737, RFC 3849, RFC 1918, RFC 6598, RFC 4193, and the loopback.</summary>
    [Theory]
    [InlineData("192.0.2.1")]
    [InlineData("198.51.100.1")]
    [InlineData("203.0.113.1")]
    [InlineData("2001:db8::1")]
    [InlineData("10.0.0.1")]
    [InlineData("172.16.0.1")]
    [InlineData("192.168.1.1")]
    [InlineData("100.64.0.1")]
    [InlineData("127.0.0.1")]
    [InlineData("fd00::1")]
    [InlineData("::1")]
    public void Reserved_addresses_have_no_country(string address) => Table.Find(IPAddress.Parse(address)).ShouldBe(default);

    [Fact]
    public void Most_of_the_public_space_has_a_country_of_ISO_3166()
    {
        var random = new Random(3);
        var found = Enumerable
            .Range(0, 20_000)
            .Select(_ => new IPAddress([(byte)random.Next(1, 224), (byte)random.Next(256), (byte)random.Next(256), 1]))
            .Select(a => Table.Find(a).ToString())
            .ToList();
        found.Count(c => c.Length > 0).ShouldBeGreaterThan(16_000);
        found.Where(c => c.Length > 0).Distinct().Except(CountryNames.Codes).ShouldBeEmpty();
    }

    [Fact]
    public void A_file_that_cannot_be_read_is_passed_over()
    {
        var folder = Directory.CreateTempSubdirectory("cursus-countries-");
        try
        {
            var sound = Directory.GetFiles(Path.Combine(AppContext.BaseDirectory, "Countries"), "*.mmdb").Order(StringComparer.Ordinal).First();
            File.Copy(sound, Path.Combine(folder.FullName, "2-sound.mmdb"));
            File.WriteAllText(Path.Combine(folder.FullName, "1-pointer.mmdb"), "version https://large-files.example/spec/v1");
            File.WriteAllBytes(Path.Combine(folder.FullName, "3-cut.mmdb"), File.ReadAllBytes(sound)[..4096]);
            CountryFiles.Read(folder.FullName, NullLogger.Instance).Find(IPAddress.Parse("62.1.1.1")).ToString().ShouldNotBeEmpty();
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }
}
