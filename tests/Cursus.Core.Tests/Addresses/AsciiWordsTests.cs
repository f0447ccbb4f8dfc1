using CsCheck;
using Cursus.Core.Addresses;

namespace Cursus.Core.Tests.Addresses;

public class AsciiWordsTests
{
    [Theory]
    [InlineData("Winter members", "winter members")]
    [InlineData("Members’ evening", "members evening")]
    [InlineData("It's Orion's belt", "its orions belt")]
    [InlineData("Café – Été, 2026!", "cafe ete 2026")]
    [InlineData("Ångström & Œuvre", "angstrom oeuvre")]
    [InlineData("Łódź, Þingvellir, Straße", "lodz thingvellir strasse")]
    [InlineData("  a__b--c..d  ", "a b c d")]
    [InlineData("100% dark", "100 dark")]
    [InlineData("夜空", "")]
    [InlineData("", "")]
    public void A_name_becomes_the_words_that_can_stand_in_an_address(string name, string words) =>
        string.Join(' ', AsciiWords.Of(name)).ShouldBe(words);

    [Theory]
    [InlineData("one two three", 13, "one-two-three")]
    [InlineData("one two three", 12, "one-two")]
    [InlineData("one two three", 7, "one-two")]
    [InlineData("one two three", 6, "one")]
    [InlineData("unbreakable", 5, "unbre")]
    public void Words_are_joined_by_hyphens_and_cut_at_a_words_end(string name, int most, string joined) =>
        AsciiWords.Hyphenated(name, most).ShouldBe(joined);

    [Fact]
    public void Whatever_is_typed_only_lower_case_letters_digits_and_single_hyphens_remain() =>
        Gen.Select(Gen.String, Gen.Int[1, 80])
            .Sample(
                (name, most) =>
                {
                    var joined = AsciiWords.Hyphenated(name, most);
                    joined.Length.ShouldBeLessThanOrEqualTo(most);
                    joined.ShouldNotContain("--");
                    joined.Trim('-').ShouldBe(joined);
                    joined.Where(c => !char.IsAsciiLetterLower(c) && !char.IsAsciiDigit(c) && c != '-').ShouldBeEmpty();
                }
            );

    [Fact]
    public void Making_words_of_words_changes_nothing() =>
        Gen.String.Sample(name =>
        {
            var once = AsciiWords.Hyphenated(name, 60);
            AsciiWords.Hyphenated(once, 60).ShouldBe(once);
        });
}
