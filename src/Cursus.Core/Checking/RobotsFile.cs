namespace Cursus.Core.Checking;

/// <summary>What a site's robots.txt says to one program (RFC 9309).</summary>
public sealed class RobotsFile
{
    /// <summary>A file without rules.</summary>
    public static readonly RobotsFile Open = new([]);

    private readonly IReadOnlyList<(bool Allows, string Path)> rules;

    private RobotsFile(IReadOnlyList<(bool Allows, string Path)> rules) => this.rules = rules;

    /// <summary>Reads the rules of all groups for a program, else those for everybody (RFC 9309, section 2.2.1). Lines that can't be understood are
    /// passed over.</summary>
    /// <param name="token">The program's product token, such as <c>Cursus</c>.</param>
    public static RobotsFile Parse(string text, string token)
    {
        ArgumentNullException.ThrowIfNull(text);
        var (own, everybody) = (new List<(bool, string)>(), new List<(bool, string)>());
        var (isNamed, forOwn, forEverybody, inAgents) = (false, false, false, false);
        foreach (var line in text.Split('\n', '\r'))
        {
            var (name, value) = Split(line);
            switch (name)
            {
                case "user-agent":
                    // Agents that stand together share the rules below them.
                    (forOwn, forEverybody) = inAgents ? (forOwn, forEverybody) : (false, false);
                    var isOwn = Product(value).Equals(token, StringComparison.OrdinalIgnoreCase);
                    (forOwn, forEverybody, isNamed, inAgents) = (forOwn || isOwn, forEverybody || value == "*", isNamed || isOwn, true);
                    break;
                case "allow" or "disallow":
                    inAgents = false;
                    if (value.Length > 0)
                    {
                        (
                            forOwn ? own
                            : forEverybody ? everybody
                            : []
                        ).Add((name == "allow", value));
                    }

                    break;
            }
        }

        return new RobotsFile(isNamed ? own : everybody);
    }

    /// <summary>Whether the program may ask for a path: the longest rule that fits decides, and of two equally long ones the one that allows (RFC
    /// 9309, section 2.2.2).</summary>
    /// <param name="pathAndQuery">As it is asked for, beginning with a slash.</param>
    public bool Allows(string pathAndQuery)
    {
        ArgumentNullException.ThrowIfNull(pathAndQuery);
        if (pathAndQuery == "/robots.txt")
        {
            return true;
        }

        var (longest, allows) = (-1, true);
        foreach (var rule in rules.Where(r => Fits(r.Path, pathAndQuery)))
        {
            if (rule.Path.Length > longest || (rule.Path.Length == longest && rule.Allows))
            {
                (longest, allows) = (rule.Path.Length, rule.Allows);
            }
        }

        return allows;
    }

    private static (string Name, string Value) Split(string line)
    {
        var rule = line.Split('#', 2)[0];
        var mark = rule.IndexOf(':', StringComparison.Ordinal);
        return mark < 0 ? ("", "") : (rule[..mark].Trim().ToLowerInvariant(), rule[(mark + 1)..].Trim());
    }

    private static string Product(string agent) => string.Concat(agent.TakeWhile(c => char.IsAsciiLetter(c) || c is '_' or '-'));

    /// <summary>A star stands for anything, a dollar at the end for the end of the path (RFC 9309, section 2.2.3). Walks both once, so that no rule
    /// takes long.</summary>
    private static bool Fits(string rule, string path)
    {
        var isWhole = rule.EndsWith('$');
        var parts = (isWhole ? rule[..^1] : rule).Split('*');
        if (!path.StartsWith(parts[0], StringComparison.Ordinal))
        {
            return false;
        }

        var at = parts[0].Length;
        foreach (var part in parts.Skip(1))
        {
            var found = path.IndexOf(part, at, StringComparison.Ordinal);
            if (found < 0)
            {
                return false;
            }

            at = found + part.Length;
        }

        return !isWhole || at == path.Length || (parts.Length > 1 && path.EndsWith(parts[^1], StringComparison.Ordinal));
    }
}
