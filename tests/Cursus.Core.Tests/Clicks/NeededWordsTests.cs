using System.Text.Json;
using System.Text.RegularExpressions;
using Cursus.Core.Clicks.Requests;

namespace Cursus.Core.Tests.Clicks;

public class NeededWordsTests
{
    [Theory]
    [InlineData("Firefox/(\\d+)", "Firefox/")]
    [InlineData("(Chrome|CrMo)/(\\d+)", "Chrome,CrMo")]
    [InlineData("^(?:Opera|OPR)[ /]?", "Opera,OPR")]
    [InlineData("Mozilla.{1,200}Symbian\\.OS(?:\\d)", "Symbian.OS")]
    [InlineData("(Foo)?Bars*(?!Bazillions)", "Bar")]
    [InlineData("ab{0,3}cde", "cde")]
    [InlineData("(a|b)long(er)+", "long")]
    [InlineData("[]x]word[^]]", "word")]
    [InlineData("(\\w+)/(\\d+)", null)]
    [InlineData("(Word|\\d+)", null)]
    [InlineData("(Word)?", null)]
    [InlineData("a\\x20bcd", null)]
    [InlineData("broken(", null)]
    public void Words_are_those_without_which_nothing_matches(string expression, string? words) =>
        NeededWords.Of(expression)?.ShouldBe(words!.Split(','));

    /// <summary>Source: the cases that the uap-core project publishes with its patterns (ReferenceData/README.md).</summary>
    [Fact]
    public void No_pattern_matches_without_one_of_its_words()
    {
        using var yaml = new StreamReader(typeof(UserAgentKind).Assembly.GetManifestResourceStream("browsers.yaml")!);
        var expressions = Regex
            .Matches(yaml.ReadToEnd(), "regex: '(.*)'")
            .Select(m => m.Groups[1].Value.Replace("''", "'", StringComparison.Ordinal))
            .Distinct()
            .ToList();
        var agents = JsonSerializer
            .Deserialize<string[][]>(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "ReferenceData", "uap-cases.json")))!
            .Select(c => c[1])
            .Distinct()
            .Where((_, i) => i % 10 == 0)
            .ToList();
        var known = expressions
            .Select(e => (Expression: new Regex(e, RegexOptions.IgnoreCase | RegexOptions.CultureInvariant), Words: NeededWords.Of(e)))
            .ToList();
        known.Count(k => k.Words is null).ShouldBeLessThan(known.Count / 10, "or nearly all patterns are tried on every text");
        foreach (var (expression, words) in known.Where(k => k.Words is not null))
        {
            foreach (var agent in agents.Where(a => !words!.Any(w => a.Contains(w, StringComparison.OrdinalIgnoreCase))))
            {
                expression.IsMatch(agent).ShouldBeFalse($"{expression} on {agent}");
            }
        }
    }
}
