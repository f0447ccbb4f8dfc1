using CsCheck;
using Cursus.Core.Links;

namespace Cursus.Core.Tests.Links;

public class SearchWordsTests
{
    [Theory]
    [InlineData("Geminids night", "geminids night")]
    [InlineData("  night,  NIGHT  ", "night")]
    [InlineData("Überraschung im Café", "uberraschung im cafe")]
    [InlineData("https://www.northmoor.example/events/geminids-night?lang=en", "northmoor example events geminids night lang en")]
    [InlineData("nmoor.localhost/geminids-perch", "nmoor localhost geminids perch")]
    [InlineData("www", "www")]
    [InlineData("ночь 50% ½", "ночь 50 1 2")]
    [InlineData("% _ '", "")]
    [InlineData(null, "")]
    public void What_is_typed_falls_into_words_without_case_and_accents(string? typed, string words) =>
        SearchWords.Of(typed).ShouldBe(words.Split(' ', StringSplitOptions.RemoveEmptyEntries));

    [Fact]
    public void Whatever_is_typed_the_words_are_safe_to_ask_for() =>
        Gen.String.Sample(typed =>
        {
            var words = SearchWords.Of(typed);
            words.Count.ShouldBeLessThanOrEqualTo(SearchWords.Most);
            words.ShouldBeUnique();
            words.ShouldAllBe(w => w.EnumerateRunes().All(System.Text.Rune.IsLetterOrDigit));
            SearchWords.Of(string.Join(' ', words)).ShouldBe(words);
        });
}
