using Cursus.Core.Clicks;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;

namespace Cursus.Core.Tests.Retargeting;

public class HandoffDecisionTests
{
    /// <summary>Every row of the table, said once more in plain words.</summary>
    [Fact]
    public void Every_row_of_the_table_holds()
    {
        foreach (var kind in Enum.GetValues<ClickKind>())
        {
            foreach (
                var (saysNo, remembered, mustAsk) in from saysNo in new[] { false, true }
                from remembered in new ConsentAnswer?[] { null, ConsentAnswer.Yes, ConsentAnswer.No }
                from mustAsk in new[] { false, true }
                select (saysNo, remembered, mustAsk)
            )
            {
                var isSomebody = kind is ClickKind.Person or ClickKind.Team or ClickKind.Repeat;
                var course = HandoffDecision.Of(kind, saysNo, remembered, mustAsk);
                var row = $"{kind}, says no {saysNo}, remembered {remembered}, must ask {mustAsk}";
                (course == HandoffCourse.Redirect).ShouldBe(!isSomebody, row);
                (course == HandoffCourse.OptedOut).ShouldBe(isSomebody && saysNo, row);
                (course == HandoffCourse.Declined).ShouldBe(isSomebody && !saysNo && remembered == ConsentAnswer.No, row);
                (course == HandoffCourse.Ask).ShouldBe(isSomebody && !saysNo && remembered is null && mustAsk, row);
                (course == HandoffCourse.Fire).ShouldBe(
                    isSomebody && !saysNo && (remembered == ConsentAnswer.Yes || (remembered is null && !mustAsk)),
                    row
                );
            }
        }
    }

    [Theory]
    [InlineData("1", null, true)]
    [InlineData(null, "1", true)]
    [InlineData(null, null, false)]
    [InlineData("0", "0", false)]
    [InlineData("?1", null, false)]
    [InlineData("true", "null", false)]
    public void Only_the_value_1_says_no(string? globalPrivacyControl, string? doNotTrack, bool saysNo) =>
        Consent.SaysNo(globalPrivacyControl, doNotTrack).ShouldBe(saysNo);

    [Theory]
    [InlineData(ConsentMode.Off, "DE", false)]
    [InlineData(ConsentMode.Off, "", false)]
    [InlineData(ConsentMode.Listed, "DE", true)]
    [InlineData(ConsentMode.Listed, "US", false)]
    [InlineData(ConsentMode.Listed, "", true)]
    [InlineData(ConsentMode.Everybody, "US", true)]
    public void Who_is_asked_follows_the_workspaces_mode(ConsentMode mode, string country, bool mustAsk) =>
        Consent.MustAsk(mode, [.. Consent.DefaultCountries.Select(c => CountryCode.Of(c))], CountryCode.Of(country)).ShouldBe(mustAsk);

    /// <summary>27 member states, Iceland, Liechtenstein, Norway, the United Kingdom and Switzerland; each a code of ISO 3166-1.</summary>
    [Fact]
    public void The_default_countries_are_those_of_ISO_3166()
    {
        Consent.DefaultCountries.Count.ShouldBe(27 + 3 + 2);
        Consent.DefaultCountries.ShouldBeUnique();
        Consent.DefaultCountries.ShouldAllBe(c => CountryNames.Codes.Contains(c));
        Consent.DefaultCountries.ShouldNotContain("UK");
        Consent.DefaultCountries.ShouldNotContain("EL");
    }

    [Theory]
    [InlineData(null, "en")]
    [InlineData("", "en")]
    [InlineData("de-DE,de;q=0.9,en;q=0.8", "de")]
    [InlineData("da, en-gb;q=0.8, en;q=0.7", "en")] // the example of RFC 9110, section 12.5.4
    [InlineData("en;q=0.3, fr;q=0.7", "fr")]
    [InlineData("es;q=0, fr;q=0.1", "fr")]
    [InlineData("*", "en")]
    [InlineData("DE", "de")]
    public void The_question_is_asked_in_a_language_the_visitor_reads(string? acceptLanguage, string language) =>
        ConsentWords.LanguageOf(acceptLanguage).ShouldBe(language);

    [Fact]
    public void Only_where_no_network_advertises_the_question_speaks_of_measuring()
    {
        var words = ConsentWords.In("en");
        words.For([ConsentCategory.Measurement, ConsentCategory.Measurement]).Question.ShouldBe(words.Measuring);
        words.For([ConsentCategory.Measurement, ConsentCategory.Advertising]).Question.ShouldBe(words.Question);
    }

    [Fact]
    public void Every_language_has_all_words_and_names_who_asks_for_whom()
    {
        ConsentWords.Languages.ShouldBe(["en", "de", "fr", "es"]);
        foreach (var words in ConsentWords.Languages.Select(ConsentWords.In))
        {
            foreach (var question in new[] { words.Question, words.Measuring })
            {
                question.ShouldContain("{networks}");
                question.ShouldContain("{who}");
            }

            new[] { words.Yes, words.No, words.Privacy }.ShouldAllBe(w => w.Length > 0);
        }
    }
}
