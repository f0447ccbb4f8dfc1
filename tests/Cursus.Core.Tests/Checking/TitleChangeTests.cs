using Cursus.Core.Checking;

namespace Cursus.Core.Tests.Checking;

/// <summary>When a page counts as another one by its title (common practice, no source).</summary>
public class TitleChangeTests
{
    [Theory]
    [InlineData("Winter members · Northmoor Observatory", "Winter members | Northmoor Observatory", false)]
    [InlineData("Telescope raffle", "Telescope Raffle: 20 tickets left", false)]
    [InlineData("(3) Night sky in June", "(12) Night sky in June", false)]
    [InlineData("Raffle €5", "Raffle €7", false)]
    [InlineData("Geminids night · Northmoor", "Northmoor · Geminids night, sold-out", false)]
    [InlineData("A telescope that fits under a bed", "Lensworks, telescopes and repairs", true)]
    [InlineData("Geminids night", "Domain for sale", true)]
    [InlineData("Nuit des Géminides", "Nuit blanche au musée", true)]
    [InlineData("星空の夜", "星空の夜", false)]
    [InlineData(null, "Anything", false)]
    [InlineData("Anything", null, false)]
    [InlineData("2026", "2027", false)]
    public void Only_another_page_has_a_title_with_few_words_in_common(string? before, string? after, bool isLarge) =>
        TitleChange.IsLarge(before, after).ShouldBe(isLarge);

    [Theory]
    [InlineData("Sorry: PAGE  not\nfound!", "page not found")]
    [InlineData("Cette page n'est plus disponible.", "n’est plus disponible")]
    [InlineData("Diese Seite ist nicht mehr verfügbar", "nicht mehr verfügbar")]
    [InlineData("The show is sold outside too", "")]
    [InlineData("not foundation", "")]
    public void Words_are_found_whole_whatever_their_case_spaces_and_apostrophes(string text, string found) =>
        string.Join(", ", new GoneWords(["page not found", "sold out", "n’est plus disponible", "nicht mehr verfügbar", "not found at all"]).In(text))
            .ShouldBe(found);

    [Fact]
    public void Words_don_t_run_from_one_heading_into_the_next() =>
        new GoneWords(["sold out"]).In("Everything is sold", "Out on the moor").ShouldBeEmpty();
}
