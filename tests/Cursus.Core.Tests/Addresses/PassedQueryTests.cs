using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Tests.Addresses;

public class PassedQueryTests
{
    [Theory]
    [InlineData(QueryPassing.Off, "ref=a", "https://a.example/p?x=1#end")]
    [InlineData(QueryPassing.LinkWins, "?ref=a", "https://a.example/p?x=1&ref=a#end")]
    [InlineData(QueryPassing.LinkWins, "x=9&ref=a&ref=b", "https://a.example/p?x=1&ref=a&ref=b#end")]
    [InlineData(QueryPassing.VisitorWins, "ref=a&x=9", "https://a.example/p?x=9&ref=a#end")]
    [InlineData(QueryPassing.VisitorWins, "%78=9", "https://a.example/p?%78=9#end")]
    [InlineData(QueryPassing.LinkWins, "", "https://a.example/p?x=1#end")]
    [InlineData(QueryPassing.LinkWins, "a=<b>\"'", "https://a.example/p?x=1&a=%3Cb%3E%22%27#end")]
    public void A_visitors_parameters_are_passed_on_by_the_links_rule(QueryPassing rule, string query, string expected) =>
        PassedQuery.WriteInto("https://a.example/p?x=1#end", query, rule).ShouldBe(expected);

    [Fact]
    public void A_destination_without_parameters_gets_its_first() =>
        PassedQuery.WriteInto("https://a.example/", "a=1", QueryPassing.LinkWins).ShouldBe("https://a.example/?a=1");

    [Fact]
    public void The_links_UTM_values_win_unless_the_visitor_is_given_the_right()
    {
        const string finished = "https://a.example/?utm_source=perch&utm_medium=social";
        PassedQuery.WriteInto(finished, "utm_source=elsewhere", QueryPassing.LinkWins).ShouldBe(finished);
        PassedQuery
            .WriteInto(finished, "utm_source=elsewhere", QueryPassing.VisitorWins)
            .ShouldBe("https://a.example/?utm_source=elsewhere&utm_medium=social");
    }
}
