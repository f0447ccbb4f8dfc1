using CsCheck;
using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;

namespace Cursus.Core.Tests.Addresses;

public class UtmTagsTests
{
    private static readonly UtmTags Tags = new(TagValue.Of("guildhall"), TagValue.Of("social"), TagValue.Of("winter-members"));

    [Theory]
    [InlineData("https://n.example/a", "https://n.example/a?utm_source=guildhall&utm_medium=social&utm_campaign=winter-members")]
    [InlineData("https://n.example/a?", "https://n.example/a?utm_source=guildhall&utm_medium=social&utm_campaign=winter-members")]
    [InlineData(
        "https://n.example/a?b=2&a=1#top",
        "https://n.example/a?b=2&a=1&utm_source=guildhall&utm_medium=social&utm_campaign=winter-members#top"
    )]
    [InlineData(
        "https://n.example/a?x=%20%7e+y&z",
        "https://n.example/a?x=%20%7e+y&z&utm_source=guildhall&utm_medium=social&utm_campaign=winter-members"
    )]
    [InlineData("https://n.example/?utm_source=old&a=1", "https://n.example/?utm_source=guildhall&a=1&utm_medium=social&utm_campaign=winter-members")]
    [InlineData(
        "https://n.example/?utm_medium=a&b=1&utm_medium=c",
        "https://n.example/?utm_medium=social&b=1&utm_source=guildhall&utm_campaign=winter-members"
    )]
    [InlineData("https://n.example/?utm%5Fsource=old", "https://n.example/?utm_source=guildhall&utm_medium=social&utm_campaign=winter-members")]
    [InlineData(
        "https://n.example/?UTM_SOURCE=kept",
        "https://n.example/?UTM_SOURCE=kept&utm_source=guildhall&utm_medium=social&utm_campaign=winter-members"
    )]
    public void Tags_are_added_and_the_rest_stays(string destination, string expected) =>
        Destination.Of(destination).With(Tags).ToString().ShouldBe(expected);

    [Fact]
    public void Term_and_content_come_last_and_only_where_given() =>
        Destination
            .Of("https://n.example/")
            .With(Tags with { Content = TagValue.Of("logo"), Term = TagValue.Of("star party") })
            .ToString()
            .ShouldEndWith("utm_campaign=winter-members&utm_term=star%20party&utm_content=logo");

    [Fact]
    public void A_value_of_any_characters_arrives_as_written() =>
        Gen.String[1, 40]
            .Where(s => TagValue.TryParse(s, out _, out _) && !s.Any(char.IsSurrogate))
            .Sample(text =>
            {
                var value = TagValue.Of(text);
                var query = Destination.Of("https://n.example/?a=1#f").With(Tags with { Content = value }).Query!;
                query.Split('&').Length.ShouldBe(5);
                Uri.UnescapeDataString(query.Split("utm_content=")[1]).ShouldBe(value.Text);
            });

    [Fact]
    public void Writing_the_same_tags_twice_changes_nothing() =>
        Gen.String[Gen.Char["ab=&?#%+;/ü "], 0, 30]
            .Sample(query =>
            {
                var once = Destination.Of("https://n.example/p?" + query).With(Tags);
                Tags.WriteInto(once).ShouldBe(once);
            });

    [Theory]
    [InlineData("", "tag-missing")]
    [InlineData("   ", "tag-missing")]
    [InlineData("a\nb", "tag-control")]
    public void A_value_that_would_count_under_no_name_is_refused(string text, string code)
    {
        TagValue.TryParse(text, out _, out var error).ShouldBeFalse();
        error!.Code.ShouldBe(code);
    }

    [Fact]
    public void Values_are_compared_as_written() => TagValue.Of("Guildhall").ShouldNotBe(TagValue.Of("guildhall"));
}
