using System.Text.Json;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Urls;
using NodaTime;

namespace Cursus.Core.Tests.Addresses;

public class DomainRecordsTests
{
    private static readonly string[] Edge = ["203.0.113.10", "203.0.113.11"];

    /// <summary>The Public Suffix List's own cases (test_psl.txt, public domain).</summary>
    [Fact]
    public void Registrable_domains_are_those_of_the_lists_own_cases()
    {
        var cases = JsonSerializer.Deserialize<string?[][]>(File.ReadAllText("ReferenceData/public-suffix-cases.json"))!;
        cases.Length.ShouldBe(78);
        foreach (var (host, expected) in cases.Select(c => (c[0], c[1])))
        {
            (host is null ? null : PublicSuffix.RegistrableDomain(host)).ShouldBe(expected is null ? null : Ascii(expected), host);
        }
    }

    [Fact]
    public void An_apex_needs_addresses_and_a_subdomain_an_alias()
    {
        DomainRecords
            .Needed("visit-northmoor.example", "abc", "edge.cursus.example", Edge)
            .ShouldBe([new("A", "visit-northmoor.example", Edge), new("TXT", "_cursus.visit-northmoor.example", ["cursus-proof=abc"])], Same);
        DomainRecords
            .Needed("go.northmoor.co.uk", "abc", "edge.cursus.example", Edge)[0]
            .ShouldBe(new("CNAME", "go.northmoor.co.uk", ["edge.cursus.example"]), Same);
        DomainRecords.Needed("northmoor.co.uk", "abc", "edge.cursus.example", Edge)[0].Type.ShouldBe("A");
    }

    [Theory]
    [InlineData("", false, "Not found yet. Add one record for each address.")]
    [InlineData("203.0.113.10", false, "One is missing: add 203.0.113.11.")]
    [InlineData("203.0.113.11 203.0.113.10", true, "Leads here.")]
    [InlineData("203.0.113.10 203.0.113.11 192.0.2.80", false, "Points here, but also to 192.0.2.80, where your links don’t work. Remove that.")]
    [InlineData("192.0.2.80", false, "Points to 192.0.2.80. Replace that with 203.0.113.10 and 203.0.113.11.")]
    public void Each_finding_says_what_to_do(string found, bool isGood, string text)
    {
        var needed = DomainRecords.Needed("visit-northmoor.example", "abc", null, Edge);
        var finding = DomainRecords.Judge(needed, new(found.Split(' ', StringSplitOptions.RemoveEmptyEntries), [], null, []), Edge)[0];
        (finding.IsGood, finding.Text).ShouldBe((isGood, text));
    }

    [Fact]
    public void An_IPv6_address_elsewhere_leads_visitors_astray()
    {
        var needed = DomainRecords.Needed("visit-northmoor.example", "abc", null, Edge);
        DomainRecords.Judge(needed, new(Edge, ["2001:db8::1"], null, []), Edge)[0].IsGood.ShouldBeFalse();
    }

    [Fact]
    public void A_subdomain_is_good_by_alias_or_by_the_edges_own_addresses()
    {
        var needed = DomainRecords.Needed("go.northmoor.example", "abc", "edge.cursus.example", Edge);
        DomainRecords.Judge(needed, new(Edge, [], "EDGE.cursus.example", ["cursus-proof=abc"]), Edge).ShouldAllBe(f => f.IsGood);
        DomainRecords.Judge(needed, new(Edge, [], null, ["v=spf1", "cursus-proof=abc"]), Edge).ShouldAllBe(f => f.IsGood);
        DomainRecords.Judge(needed, new([], [], "parking.example", ["cursus-proof=xyz"]), Edge).ShouldAllBe(f => !f.IsGood);
    }

    [Fact]
    public void Looks_come_at_growing_gaps_until_nobody_waits_any_more()
    {
        DomainWatch.WhileWaiting(Duration.Zero).ShouldBe(Duration.FromSeconds(10));
        DomainWatch.WhileWaiting(Duration.FromHours(1)).ShouldBe(Duration.FromMinutes(7.5));
        DomainWatch.WhileWaiting(Duration.FromHours(47)).ShouldBe(Duration.FromHours(1));
        DomainWatch.WhileWaiting(Duration.FromHours(49)).ShouldBe(Duration.FromHours(6));
    }

    private static string Ascii(string host) => new System.Globalization.IdnMapping().GetAscii(host.ToLowerInvariant());

    private static readonly IEqualityComparer<DomainRecord> Same = EqualityComparer<DomainRecord>.Create(
        (a, b) => (a?.Type, a?.Name) == (b?.Type, b?.Name) && a!.Values.SequenceEqual(b!.Values),
        r => r.Name.GetHashCode(StringComparison.Ordinal)
    );
}
