using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;

namespace Cursus.Core.Tests.Addresses;

/// <summary>What people really paste. Common practice, no source, but for the forms of RFC 3986, appendix C.</summary>
public class PastedAddressTests
{
    private const string Page = "https://www.northmoor.example/events/geminids";

    [Theory]
    [InlineData("  https://www.northmoor.example/events/geminids \n")]
    [InlineData("\u200bhttps://www.northmoor.example/events/geminids\ufeff")]
    [InlineData("(https://www.northmoor.example/events/geminids),")]
    [InlineData("“https://www.northmoor.example/events/geminids”")]
    [InlineData("Geminids <https://www.northmoor.example/events/geminids>")]
    [InlineData("[Geminids](https://www.northmoor.example/events/geminids)")]
    [InlineData("https://www.northmoor.example/events/\r\n  geminids")]
    [InlineData("https://www.northmoor.example/ev=\r\nents/geminids")]
    [InlineData("> https://www.northmoor.example/events/\n> geminids")]
    [InlineData("https:// www.northmoor.example /events/geminids")]
    public void An_address_is_freed_from_what_copying_left_around_it(string pasted) => PastedAddress.Clean(pasted).ShouldBe(Page);

    [Theory]
    [InlineData("www.northmoor.example/events.", "www.northmoor.example/events")]
    [InlineData("www.northmoor.example/events!)", "www.northmoor.example/events")]
    [InlineData("«www.northmoor.example/wiki/Sirius_(star)»,", "www.northmoor.example/wiki/Sirius_(star)")]
    public void Without_its_scheme_an_address_loses_the_punctuation_of_its_sentence(string pasted, string address) =>
        PastedAddress.Clean(pasted).ShouldBe(address);

    [Theory]
    [InlineData("<URL:http://a.example/>", "http://a.example/")]
    [InlineData("\"http://a.example/\"", "http://a.example/")]
    [InlineData("<http://a.example/foo/\n  bar/baz>", "http://a.example/foo/bar/baz")]
    public void The_ways_of_RFC_3986_appendix_C_to_set_an_address_apart_are_understood(string pasted, string address) =>
        Destination.Of(PastedAddress.Clean(pasted)).Address.ToString().ShouldBe(address);

    [Theory]
    [InlineData("https://a.example/wiki/Sirius_(star)")]
    [InlineData("https://a.example/a%20b?q=1%2B1&q=2#part-3")]
    [InlineData("https://a.example/?b=2&a=1")]
    [InlineData("https://a.example/search?q=red+lamps&amp=1")]
    [InlineData("https://a.example/a~b_c-d")]
    public void What_belongs_to_the_address_stays_as_it_is(string address) => Destination.Of(address).AsEntered.ShouldBe(address);

    [Fact]
    public void An_ampersand_that_was_escaped_for_HTML_is_one_again_where_the_text_is_no_address_yet() =>
        PastedAddress.Clean("“https://a.example/?x=1&amp;utm_source=perch”").ShouldBe("https://a.example/?x=1&utm_source=perch");

    [Theory]
    [InlineData("bücher.example/straße", "https://xn--bcher-kva.example/stra%C3%9Fe")]
    [InlineData("WWW.Northmoor.EXAMPLE", "https://www.northmoor.example/")]
    public void Unicode_names_and_missing_schemes_are_completed(string pasted, string address) =>
        Destination.Of(pasted).Address.ToString().ShouldBe(address);

    [Fact]
    public void Parameters_that_belong_to_one_visitor_are_found_and_stripped_without_touching_the_rest()
    {
        var address = Destination.Of("https://a.example/p?b=%20x&fbclid=AbC&a=1&GCLID=z#end").Address;
        ClickIds.In(address).ShouldBe(["fbclid", "GCLID"]);
        ClickIds.Strip(address).ToString().ShouldBe("https://a.example/p?b=%20x&a=1#end");
        ClickIds.Strip(Destination.Of("https://a.example/?gclid=1").Address).ToString().ShouldBe("https://a.example/");
    }

    [Fact]
    public void UTM_values_in_the_address_are_read_and_can_stay()
    {
        var address = Destination.Of("https://a.example/?utm_source=News%20Letter&utm_medium=&utm_campaign=spring+sale&utm_source=second").Address;
        UtmTags
            .In(address)
            .ShouldBe(
                new Dictionary<TagField, TagValue>
                {
                    [TagField.Source] = TagValue.Of("News Letter"),
                    [TagField.Campaign] = TagValue.Of("spring sale"),
                },
                ignoreOrder: true
            );
        var tags = new UtmTags(TagValue.Of("perch"), TagValue.Of("social"), TagValue.Of("winter"), Content: TagValue.Of("logo")).KeepingThoseOf(
            address
        );
        (tags.Source.Text, tags.Medium.Text, tags.Campaign.Text, tags.Content!.Text).ShouldBe(("News Letter", "social", "spring sale", "logo"));
    }
}
