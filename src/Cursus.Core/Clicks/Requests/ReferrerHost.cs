using System.Buffers;

namespace Cursus.Core.Clicks.Requests;

/// <summary>The host a visitor came from. Paths and query strings of referrers are dropped: they may tell about the person.</summary>
public static class ReferrerHost
{
    /// <summary>The longest host name (RFC 1035, section 2.3.4), in characters.</summary>
    public const int MaxLength = 253;

    private static readonly SearchValues<char> NoHost = SearchValues.Create(" \"<>\\\0");

    /// <summary>Writes the lower-case host of a <c>Referer</c> header (RFC 9110, section 10.1.3) into <paramref name="to"/>, which holds
    /// <see cref="MaxLength"/> characters. Returns its length, zero where it is absent or no address.</summary>
    public static int Read(ReadOnlySpan<char> referer, Span<char> to)
    {
        var mark = referer.IndexOf("://", StringComparison.Ordinal);
        if (mark < 1)
        {
            return 0;
        }

        var rest = referer[(mark + 3)..];
        var end = rest.IndexOfAny('/', '?', '#');
        var authority = end < 0 ? rest : rest[..end];
        authority = authority[(authority.LastIndexOf('@') + 1)..];
        var port = authority.LastIndexOf(':');
        var host = port > 0 && !authority[port..].Contains(']') ? authority[..port] : authority;
        return host.Length is 0 or > MaxLength || host.ContainsAny(NoHost) ? 0 : host.ToLowerInvariant(to);
    }

    /// <summary>A host as it stands in referrers, from its name or from an address that somebody typed; null where it is neither.</summary>
    public static string? OfTyped(string? typed)
    {
        var text = typed?.Trim() ?? "";
        Span<char> host = stackalloc char[MaxLength];
        host = host[..Read(text.Contains("://", StringComparison.Ordinal) ? text : $"https://{text}", host)];
        return host.Contains('.') && !host.StartsWith(".") && !host.EndsWith(".") ? host.ToString() : null;
    }
}
