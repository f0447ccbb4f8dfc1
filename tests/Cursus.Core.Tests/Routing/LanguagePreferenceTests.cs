using Cursus.Core.Routing;

namespace Cursus.Core.Tests.Routing;

public class LanguagePreferenceTests
{
    /// <summary>The example of RFC 4647, section 3.4: the range “zh-Hant-CN-x-private1-private2” is searched for as these, one after the
    /// other.</summary>
    [Fact]
    public void A_range_is_made_shorter_as_the_rfc_shows()
    {
        string[] searched = ["zh-Hant-CN-x-private1-private2", "zh-Hant-CN-x-private1", "zh-Hant-CN", "zh-Hant", "zh"];
        var wanted = LanguagePreference.Of(searched[0]);
        for (var i = 0; i < searched.Length; i++)
        {
            wanted.Lookup([.. searched[i..].Reverse(), "zh-Hant-CN-x"]).ShouldBe(searched[i], StringCompareShould.IgnoreCase);
        }

        wanted.Lookup(["zh-Hant-CN-x"]).ShouldBeNull("a single letter never stands last");
    }

    /// <summary>RFC 9110, section 12.5.4: “da, en-gb;q=0.8, en;q=0.7” means “I prefer Danish, but will accept British English and other types of
    /// English”.</summary>
    [Theory]
    [InlineData("da, en-gb;q=0.8, en;q=0.7", "en,da", "da")]
    [InlineData("da, en-gb;q=0.8, en;q=0.7", "en,de", "en")]
    [InlineData("da, en-gb;q=0.8, en;q=0.7", "en,en-GB", "en-GB")]
    [InlineData("da, en-gb;q=0.8, en;q=0.7", "de", null)]
    [InlineData("en;q=0.5, de", "en,de", "de")]
    [InlineData("de;q=0, en", "de", null)]
    [InlineData("*", "de", null)]
    [InlineData("", "de", null)]
    [InlineData("de-AT", "de", "de")]
    [InlineData("de", "de-AT", null)]
    [InlineData("fr, en", "en,fr", "fr")]
    [InlineData(";;q=x,,de ;q=0.3", "de", "de")]
    [InlineData("de;q=2, en;q=0.1", "de,en", "en")]
    public void What_is_wanted_most_of_what_there_is_is_found(string field, string available, string? found) =>
        LanguagePreference.Of(field).Lookup(available.Split(',')).ShouldBe(found);

    [Fact]
    public void A_hostile_field_is_read_as_far_as_browsers_send() =>
        LanguagePreference.Of(string.Join(',', Enumerable.Repeat("xx", 50_000)) + ",de").Lookup(["de"]).ShouldBeNull();

    [Theory]
    [InlineData("de", true)]
    [InlineData("fr-CA", true)]
    [InlineData("de-", false)]
    [InlineData("1de", false)]
    [InlineData("abcdefghi", false)]
    [InlineData("", false)]
    public void Language_tags_are_told_from_other_texts(string text, bool isOne) => LanguagePreference.IsRange(text).ShouldBe(isOne);
}
