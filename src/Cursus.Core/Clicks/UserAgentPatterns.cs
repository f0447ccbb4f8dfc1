using System.Text.RegularExpressions;
using YamlDotNet.Serialization;

namespace Cursus.Core.Clicks;

/// <summary>
/// The open patterns by which a user agent's browser and operating system are known: <c>Agents/browsers.yaml</c> of the uap-core project, read as its
/// specification says: the first pattern that matches decides, and its replacement takes the place of what it found.
/// </summary>
internal sealed class UserAgentPatterns
{
    private readonly Pattern[] patterns;

    private UserAgentPatterns(IEnumerable<Pattern> patterns) => this.patterns = [.. patterns];

    public static (UserAgentPatterns Browsers, UserAgentPatterns Os) Read(TextReader yaml)
    {
        var file = new DeserializerBuilder().IgnoreUnmatchedProperties().Build().Deserialize<Dictionary<string, List<Dictionary<string, string>>>>(yaml);
        return (
            new(file["user_agent_parsers"].Select(p => Pattern.Of(p, "family_replacement"))),
            new(file["os_parsers"].Select(p => Pattern.Of(p, "os_replacement"))));
    }

    /// <summary>The family that the user agent belongs to; <c>Other</c> where no pattern knows it.</summary>
    public string Family(string userAgent)
    {
        foreach (var pattern in patterns)
        {
            if (pattern.Expression.Match(userAgent) is { Success: true } match && pattern.Family(match) is { Length: > 0 } family)
            {
                return family;
            }
        }

        return "Other";
    }

    private sealed record Pattern(Regex Expression, string? Replacement)
    {
        public static Pattern Of(Dictionary<string, string> entry, string replacement)
        {
            var flags = entry.GetValueOrDefault("regex_flag") == "i" ? RegexOptions.IgnoreCase : RegexOptions.None;
            return new Pattern(new Regex(entry["regex"], flags | RegexOptions.CultureInvariant), entry.GetValueOrDefault(replacement));
        }

        public string Family(Match match) => Replacement is null
            ? match.Groups[1].Value
            : Replacement.Contains('$', StringComparison.Ordinal) ? Filled(match) : Replacement;

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
