namespace Cursus.Core.Tests;

/// <summary>Expected values are those of Unicode CLDR's charts of numbers, with the space that every typeface has.</summary>
public class NumberLanguageTests
{
    [Theory]
    [InlineData("en-GB", "1,234,567", "1.2K", "35.9%")]
    [InlineData("en-IN", "12,34,567", "1.2K", "35.9%")]
    [InlineData("de-DE", "1.234.567", "1,2K", "35,9\u00a0%")]
    [InlineData("fr-FR", "1\u00a0234\u00a0567", "1,2K", "35,9\u00a0%")]
    [InlineData("de-CH", "1’234’567", "1.2K", "35.9%")]
    public async Task Numbers_are_written_as_the_language_writes_them(string tag, string whole, string brief, string share)
    {
        await Task.Run(
            () =>
            {
                NumberLanguage.Use(tag);
                CountWords.Number(1_234_567).ShouldBe(whole);
                CountWords.Brief(1_234).ShouldBe(brief);
                CountWords.Percent(0.3589).ShouldBe(share);
            },
            TestContext.Current.CancellationToken
        );
        CountWords.Percent(0.3589).ShouldBe("35.9%", "what one does for its reader, another doesn’t notice");
    }

    [Fact]
    public void Every_language_that_is_offered_is_known_and_writes_plain_digits()
    {
        foreach (var tag in NumberLanguage.Tags)
        {
            tag.Length.ShouldBeLessThanOrEqualTo(NumberLanguage.MaxLength);
            9876543210L.ToString("N0", System.Globalization.CultureInfo.GetCultureInfo(tag)).Where(char.IsDigit).ShouldBe("9876543210", tag);
        }
    }
}
