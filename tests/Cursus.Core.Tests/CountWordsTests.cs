namespace Cursus.Core.Tests;

public class CountWordsTests
{
    [Theory]
    [InlineData(0, "0")]
    [InlineData(999, "999")]
    [InlineData(1_000, "1K")]
    [InlineData(1_249, "1.2K")]
    [InlineData(34_560, "34.6K")]
    [InlineData(999_949, "999.9K")]
    [InlineData(999_950, "1M")]
    [InlineData(6_000_000, "6M")]
    [InlineData(7_200_000_000, "7.2B")]
    public void A_cell_has_room_for_six_characters(long number, string expected) => CountWords.Brief(number).ShouldBe(expected);

    [Theory]
    [InlineData(1, "1 click")]
    [InlineData(0, "0 clicks")]
    [InlineData(1_284, "1,284 clicks")]
    public void One_click_is_no_clicks_of_several(long clicks, string expected) => CountWords.Clicks(clicks).ShouldBe(expected);
}
