using Cursus.Core.Checking;

namespace Cursus.Core.Tests.Checking;

/// <summary>Robots.txt as RFC 9309 has it. Its examples are of section 5, the matching of section 2.2.</summary>
public class RobotsFileTests
{
    /// <summary>The example of section 5.1.</summary>
    private const string Simple = """
        User-Agent: *
        Disallow: *.gif$
        Disallow: /example/
        Allow: /publications/

        User-Agent: foobot
        Disallow:/
        Allow:/example/page.html
        Allow:/example/allowed.gif

        User-Agent: barbot
        User-Agent: bazbot
        Disallow: /example/page.html

        User-Agent: quxbot
        """;

    [Theory]
    [InlineData("otherbot", "/pictures/sky.gif", false)]
    [InlineData("otherbot", "/pictures/sky.gif?size=2", true)]
    [InlineData("otherbot", "/example/", false)]
    [InlineData("otherbot", "/example", true)]
    [InlineData("otherbot", "/publications/a", true)]
    [InlineData("foobot", "/", false)]
    [InlineData("foobot", "/publications/a", false)]
    [InlineData("foobot", "/example/page.html", true)]
    [InlineData("FooBot", "/example/allowed.gif", true)]
    [InlineData("barbot", "/example/page.html", false)]
    [InlineData("bazbot", "/example/page.html", false)]
    [InlineData("barbot", "/pictures/sky.gif", true)]
    [InlineData("quxbot", "/example/page.html", true)]
    public void Each_program_follows_the_group_that_names_it_else_the_one_for_everybody(string program, string path, bool isAllowed) =>
        RobotsFile.Parse(Simple, program).Allows(path).ShouldBe(isAllowed);

    [Fact]
    public void The_longest_rule_that_fits_decides_as_in_section_5_2()
    {
        var rules = RobotsFile.Parse("User-Agent: foobot\nAllow: /example/page/\nDisallow: /example/page/disallowed.gif", "foobot");
        rules.Allows("/example/page/").ShouldBeTrue();
        rules.Allows("/example/page/disallowed.gif").ShouldBeFalse();
    }

    [Theory]
    [InlineData("Allow: /a\nDisallow: /a", "/a", true)]
    [InlineData("Disallow: /fish*", "/fishheads/catfish", false)]
    [InlineData("Disallow: /fish$", "/fish", false)]
    [InlineData("Disallow: /fish$", "/fish/", true)]
    [InlineData("Disallow: /*.php$", "/folder/index.php", false)]
    [InlineData("Disallow: /*.php$", "/folder/index.php.php", false)]
    [InlineData("Disallow: /*.php$", "/folder/index.php?x=1", true)]
    [InlineData("Disallow: /*a*b*c", "/xxaxxbxxc", false)]
    [InlineData("Disallow: /*a*b*c", "/xxaxxcxxb", true)]
    [InlineData("Disallow:", "/anything", true)]
    [InlineData("Disallow: / # all of it", "/anything", false)]
    [InlineData("Disallow: /", "/robots.txt", true)]
    [InlineData("nonsense\nDisallow /\n: /", "/anything", true)]
    public void Rules_are_read_as_section_2_2_says(string rules, string path, bool isAllowed) =>
        RobotsFile.Parse("User-agent: *\r\n" + rules, "Cursus").Allows(path).ShouldBe(isAllowed);

    [Fact]
    public void Several_groups_for_one_program_count_as_one() =>
        RobotsFile
            .Parse("User-agent: Cursus\nDisallow: /a\n\nUser-agent: *\nDisallow: /\n\nUser-agent: Cursus/1.0\nDisallow: /b", "Cursus")
            .ShouldSatisfyAllConditions(r => r.Allows("/a").ShouldBeFalse(), r => r.Allows("/b").ShouldBeFalse(), r => r.Allows("/c").ShouldBeTrue());

    [Fact]
    public void A_rule_of_many_stars_is_read_in_no_time()
    {
        var rules = RobotsFile.Parse("User-agent: *\nDisallow: /" + string.Concat(Enumerable.Repeat("*a", 400)) + "b", "Cursus");
        rules.Allows("/" + new string('a', 4000)).ShouldBeTrue();
    }
}
