namespace Cursus.Core.Addresses.Urls;

/// <summary>Writes the parameters of a visitor's short address into the address the link leads to.</summary>
public static class PassedQuery
{
    /// <summary>
    /// The destination with the visitor's parameters by the <paramref name="rule"/>. The destination's order stays; what is new is appended in the
    /// visitor's order; repeats of a new name are all kept; the fragment stays last (RFC 3986, section 3).
    /// </summary>
    /// <param name="location">The finished address of the link.</param>
    /// <param name="query">The visitor's query, with or without its question mark.</param>
    public static string WriteInto(string location, string? query, QueryPassing rule)
    {
        var visitors = (query ?? "").TrimStart('?').Split('&', StringSplitOptions.RemoveEmptyEntries);
        if (rule == QueryPassing.Off || visitors.Length == 0)
        {
            return location;
        }

        var (beforeHash, fragment) = CutAt(location, '#');
        var (page, own) = CutAt(beforeHash, '?');
        var parameters = own.TrimStart('?').Split('&', StringSplitOptions.RemoveEmptyEntries).ToList();
        var ownNames = parameters.Select(QueryParameter.NameOf).ToHashSet(StringComparer.Ordinal);
        foreach (var group in visitors.GroupBy(QueryParameter.NameOf, StringComparer.Ordinal))
        {
            var written = group.Select(PercentEncoding.SpecialQuery).ToList();
            if (!ownNames.Contains(group.Key))
            {
                parameters.AddRange(written);
            }
            else if (rule == QueryPassing.VisitorWins)
            {
                var at = parameters.FindIndex(p => QueryParameter.NameOf(p) == group.Key);
                parameters.RemoveAll(p => QueryParameter.NameOf(p) == group.Key);
                parameters.InsertRange(at, written);
            }
        }

        return $"{page}?{string.Join('&', parameters)}{fragment}";
    }

    private static (string Before, string From) CutAt(string text, char mark)
    {
        var at = text.IndexOf(mark, StringComparison.Ordinal);
        return at < 0 ? (text, "") : (text[..at], text[at..]);
    }
}
