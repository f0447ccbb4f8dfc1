using System.Buffers;
using System.Text.RegularExpressions;
using YamlDotNet.Serialization;

namespace Cursus.Core.Clicks.Requests;

/// <summary>
/// The open patterns by which a user agent's browser and operating system are known: <c>Agents/browsers.yaml</c> of the uap-core project, read as its
/// specification says: the first pattern that matches decides, and its replacement takes the place of what it found.
/// </summary>
internal sealed partial class UserAgentPatterns
{
    private readonly Pattern[] patterns;

    private UserAgentPatterns(IEnumerable<Pattern> patterns) => this.patterns = [.. patterns];

    public static (UserAgentPatterns Browsers, UserAgentPatterns Os) Read(TextReader yaml)
    {
        var file = new DeserializerBuilder()
            .IgnoreUnmatchedProperties()
            .Build()
            .Deserialize<Dictionary<string, List<Dictionary<string, string>>>>(yaml);
        return (
            new(file["user_agent_parsers"].Select(p => Pattern.Of(p, "family_replacement"))),
            new(file["os_parsers"].Select(p => Pattern.Of(p, "os_replacement")))
        );
    }

    /// <summary>The family that the user agent belongs to; <c>Other</c> where no pattern knows it.</summary>
    /// <param name="hasRobots">Whether it may be a robot's. Patterns of robots are tried from every place of the text in turn, which takes long on
    /// texts that are made up for it; and some patterns take any word for the name of a robot or an app, so that anybody could make up families
    /// without end: of people's, only those count that the patterns name.</param>
    public string Family(string userAgent, bool hasRobots)
    {
        foreach (var pattern in patterns)
        {
            if (
                (hasRobots || !pattern.IsOfRobots)
                && pattern.MayMatch(userAgent)
                && pattern.Expression.Match(userAgent) is { Success: true } match
                && pattern.Family(match) is { Length: > 0 } family
                && (hasRobots || pattern.NamesFamilies)
            )
            {
                return family;
            }
        }

        return "Other";
    }

    /// <param name="Needed">Words of which one stands in everything that matches; null where none is known. They are looked for in capitals and small
    /// letters alike, whatever the expression says.</param>
    private sealed partial record Pattern(Regex Expression, string? Replacement, SearchValues<string>? Needed)
    {
        public static Pattern Of(Dictionary<string, string> entry, string replacement)
        {
            var flags = entry.GetValueOrDefault("regex_flag") == "i" ? RegexOptions.IgnoreCase : RegexOptions.None;
            return new Pattern(
                new Regex(entry["regex"], flags | RegexOptions.CultureInvariant),
                entry.GetValueOrDefault(replacement),
                NeededWords.Of(entry["regex"]) is { } words ? SearchValues.Create([.. words], StringComparison.OrdinalIgnoreCase) : null
            );
        }

        /// <summary>The patterns that begin anywhere name robots alone.</summary>
        public bool IsOfRobots { get; } = Expression.ToString().StartsWith("^.{0,", StringComparison.Ordinal);

        public bool MayMatch(ReadOnlySpan<char> userAgent) => Needed is null || userAgent.ContainsAny(Needed);

        /// <summary>Whether the pattern itself says which families there are: it takes none of their words from the text, whatever stands
        /// there.</summary>
        public bool NamesFamilies { get; } =
            (Replacement is null ? [1] : Enumerable.Range(1, 9).Where(g => Replacement.Contains($"${g}", StringComparison.Ordinal))).All(g =>
                !AnyWord().IsMatch(GroupOf(Expression.ToString(), g))
            );

        /// <summary>Ways to write "any letters" and "any number".</summary>
        [GeneratedRegex(@"\\[wWSD]|\\d[+*{]|\[\^|-[zZ]|-9\][+*{]|(?<!\\)\.(?=[+*{])")]
        private static partial Regex AnyWord();

        /// <summary>What stands in the brackets of a group that is kept.</summary>
        private static string GroupOf(string expression, int number)
        {
            var (kept, depth, start, isInClass) = (0, 0, -1, false);
            for (var i = 0; i < expression.Length; i++)
            {
                switch (expression[i])
                {
                    case '\\':
                        i++;
                        break;
                    case '[' or ']':
                        isInClass = expression[i] == '[';
                        break;
                    case '(' when !isInClass:
                        depth++;
                        if (expression[i + 1] != '?' && ++kept == number)
                        {
                            (start, depth) = (i + 1, 1);
                        }

                        break;
                    case ')' when !isInClass && --depth == 0 && start >= 0:
                        return expression[start..i];
                }
            }

            return "";
        }

        public string Family(Match match) =>
            Replacement is null ? match.Groups[1].Value
            : Replacement.Contains('$', StringComparison.Ordinal) ? Filled(match)
            : Replacement;

        private string Filled(Match match)
        {
            var text = Replacement!;
            for (var i = 1; i <= 9; i++)
            {
                text = text.Replace($"${i}", match.Groups[i].Value, StringComparison.Ordinal);
            }

            return text.Trim();
        }
    }
}
