namespace Cursus.Core.Retargeting;

/// <summary>What a marketer pastes into the ad network so that it gathers the visitors of some links.</summary>
/// <param name="Name">Proposed name of the audience.</param>
/// <param name="Contains">The visited address contains one of these.</param>
/// <param name="IsShared">True if one text matches exactly these links.</param>
/// <param name="AlsoFits">Other short addresses that the text would fit too; then the audience is larger than meant.</param>
public sealed record AudienceDefinition(string Name, IReadOnlyList<string> Contains, bool IsShared, IReadOnlyList<string> AlsoFits)
{
    /// <summary>A shorter common part would fit by accident.</summary>
    private const int ShortestPart = 5;

    /// <summary>Finds the shortest honest definition: the links' common beginning where it stops at a word's end and fits no other link, else each
    /// address.</summary>
    /// <param name="addresses">Short addresses of the links as networks see them, without scheme, such as
    /// <c>nmoor.example/geminids-perch</c>.</param>
    /// <param name="others">Short addresses of all other links of the workspace.</param>
    public static AudienceDefinition Of(string name, IReadOnlyCollection<string> addresses, IReadOnlyCollection<string> others)
    {
        ArgumentNullException.ThrowIfNull(addresses);
        var each = addresses.Distinct().Order(StringComparer.Ordinal).ToList();
        if (each.Count > 1 && CommonPart(each) is { } part && !others.Any(o => o.Contains(part, StringComparison.Ordinal)))
        {
            return new AudienceDefinition(name, [part], IsShared: true, []);
        }

        return new AudienceDefinition(
            name,
            each,
            IsShared: each.Count == 1,
            [.. others.Where(o => each.Exists(a => o.Contains(a, StringComparison.Ordinal))).Order(StringComparer.Ordinal)]
        );
    }

    /// <summary>The common beginning of all, cut back to the end of a word; null where too little of the slugs is common.</summary>
    private static string? CommonPart(List<string> addresses)
    {
        var (first, last) = (addresses[0], addresses[^1]);
        var length = first.AsSpan().CommonPrefixLength(last);
        if (length < first.Length || (length < last.Length && last[length] != '-'))
        {
            length = first.AsSpan(0, length).LastIndexOf('-');
        }

        var slugAt = first.IndexOf('/', StringComparison.Ordinal) + 1;
        return slugAt > 0 && length - slugAt >= ShortestPart ? first[..length] : null;
    }
}
