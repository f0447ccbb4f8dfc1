using Cursus.Core.Batches;

namespace Cursus.Core.Tests.Batches;

/// <summary>Click totals, short addresses and redirect types as lists of other programs have them.</summary>
public class ListedValuesTests
{
    // Common practice of spreadsheets in several countries, no source.
    [Theory]
    [InlineData("0", 0)]
    [InlineData(" 1204 ", 1204)]
    [InlineData("1,204", 1204)]
    [InlineData("1.204", 1204)]
    [InlineData("1 204 511", 1204511)]
    [InlineData("1\u202F204", 1204)]
    [InlineData("1’204", 1204)]
    [InlineData("12,880,003", 12880003)]
    public void A_click_total_is_read_however_its_digits_are_grouped(string text, long expected) => ListedCount.Read(text).ShouldBe(expected);

    [Theory]
    [InlineData("")]
    [InlineData("-3")]
    [InlineData("1.5")]
    [InlineData("1,20")]
    [InlineData("1,204.511")]
    [InlineData("12k")]
    [InlineData("many")]
    [InlineData("1234567890123456")]
    public void What_is_no_whole_number_is_no_click_total(string text) => ListedCount.Read(text).ShouldBeNull();

    [Theory]
    [InlineData("https://Go.Northmoor.example/Sky", "go.northmoor.example", "Sky")]
    [InlineData("go.northmoor.example/sky/", "go.northmoor.example", "sky")]
    [InlineData("http://nmoor.localhost:5180/sky?utm_source=perch#top", "nmoor.localhost", "sky")]
    [InlineData("https://müller.example/sky", "xn--mller-kva.example", "sky")]
    public void A_short_address_comes_apart_into_host_and_slug(string text, string host, string slug) =>
        ListedAddress.Read(text).ShouldBe(new ListedAddress(host, slug));

    [Theory]
    [InlineData("")]
    [InlineData("go.northmoor.example")]
    [InlineData("https://go.northmoor.example/")]
    [InlineData("mailto:maren@northmoor.example")]
    public void An_address_without_a_slug_is_no_short_address(string text) => ListedAddress.Read(text).ShouldBeNull();

    // RFC 9110, sections 15.4.2, 15.4.3, 15.4.8 and 15.4.9.
    [Theory]
    [InlineData("301 Moved Permanently", 301)]
    [InlineData("moved permanently", 301)]
    [InlineData("Found", 302)]
    [InlineData("302", 302)]
    [InlineData("Temporary Redirect", 307)]
    [InlineData("HTTP 307", 307)]
    [InlineData("Permanent Redirect", 308)]
    public void A_redirect_is_known_by_its_status_or_the_name_of_it(string text, int status) => RedirectNames.StatusOf(text).ShouldBe(status);

    [Theory]
    [InlineData("permanent")]
    [InlineData("masked")]
    [InlineData("303")]
    [InlineData("3020")]
    [InlineData("")]
    public void What_could_be_two_or_none_of_them_is_left_to_a_person(string text) => RedirectNames.StatusOf(text).ShouldBeNull();
}
