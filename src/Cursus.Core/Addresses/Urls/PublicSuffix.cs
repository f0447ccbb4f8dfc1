using System.Globalization;

namespace Cursus.Core.Addresses.Urls;

/// <summary>Tells a domain that one can register from a name below it, by the Public Suffix List's algorithm
/// (https://publicsuffix.org/list/).</summary>
public static class PublicSuffix
{
    private static readonly IdnMapping Idn = new();
    private static readonly HashSet<string> Rules = [.. WordList.Read("public-suffixes.txt").Select(ToAscii)];

    /// <summary>The part of <paramref name="host"/> that somebody registered, such as <c>northmoor.co.uk</c>; null where the host is a suffix itself
    /// or no name.</summary>
    public static string? RegistrableDomain(string host)
    {
        var labels = ToAscii(host.ToLowerInvariant()).Split('.');
        if (labels.Any(l => l.Length == 0))
        {
            return null;
        }

        var suffix = SuffixLength(labels);
        return labels.Length <= suffix ? null : string.Join('.', labels[^(suffix + 1)..]);
    }

    /// <summary>Whether the name is the registered domain itself, which DNS does not let be an alias (RFC 1034, section 3.6.2).</summary>
    public static bool IsApex(string host) => RegistrableDomain(host) is not { } domain || domain == ToAscii(host.ToLowerInvariant());

    /// <summary>How many labels at the end are public: the longest rule wins, an exception beats all, and without a rule it is one.</summary>
    private static int SuffixLength(string[] labels)
    {
        for (var from = 0; from < labels.Length; from++)
        {
            var rest = string.Join('.', labels[from..]);
            if (Rules.Contains("!" + rest))
            {
                return labels.Length - from - 1;
            }

            if (Rules.Contains(rest) || (from + 1 < labels.Length && Rules.Contains("*." + string.Join('.', labels[(from + 1)..]))))
            {
                return labels.Length - from;
            }
        }

        return 1;
    }

    private static string ToAscii(string rule)
    {
        var mark =
            rule.StartsWith('!') ? "!"
            : rule.StartsWith("*.", StringComparison.Ordinal) ? "*."
            : "";
        var name = rule[mark.Length..];
        return mark + (name.All(char.IsAscii) ? name : Idn.GetAscii(name));
    }
}
