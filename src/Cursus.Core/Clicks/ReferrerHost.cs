using System.Buffers;

namespace Cursus.Core.Clicks;

/// <summary>The host a visitor came from. Paths and query strings of referrers are dropped: they may tell about the person.</summary>
public static class ReferrerHost
{
    private static readonly SearchValues<char> NoHost = SearchValues.Create(" \"<>\\\0");

    /// <summary>The lower-case host of a <c>Referer</c> header (RFC 9110, section 10.1.3); empty where it is absent or no address.</summary>
    public static string Of(string? referer)
    {
        if (string.IsNullOrEmpty(referer) || referer.IndexOf("://", StringComparison.Ordinal) is var mark && mark < 1)
        {
            return "";
        }

        var rest = referer.AsSpan(mark + 3);
        var end = rest.IndexOfAny('/', '?', '#');
        var authority = end < 0 ? rest : rest[..end];
        authority = authority[(authority.LastIndexOf('@') + 1)..];
        var port = authority.LastIndexOf(':');
        var host = port > 0 && !authority[port..].Contains(']') ? authority[..port] : authority;
        return host.Length is 0 or > 253 || host.ContainsAny(NoHost) ? "" : host.ToString().ToLowerInvariant();
    }
}
