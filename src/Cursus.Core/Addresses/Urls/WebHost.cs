using System.Globalization;

namespace Cursus.Core.Addresses.Urls;

/// <summary>The host of an http(s) address, by the WHATWG URL Standard's host parser (section 3.5).</summary>
internal static class WebHost
{
    private static readonly IdnMapping Idn = new() { AllowUnassigned = false, UseStd3AsciiRules = false };

    /// <summary>The host as it is written in an address: lower case, punycode, IPv4 in dotted decimal, IPv6 compressed in brackets;
    /// null where it is no host.</summary>
    public static string? Parse(string text)
    {
        if (text.StartsWith('['))
        {
            return text.EndsWith(']') && Ipv6Host.Parse(text[1..^1]) is { } pieces ? $"[{Ipv6Host.Write(pieces)}]" : null;
        }

        if (ToAscii(PercentEncoding.Decode(text)) is not { Length: > 0 } ascii || ascii.Any(IsForbidden))
        {
            return null;
        }

        return Ipv4Host.EndsInNumber(ascii) ? Ipv4Host.Parse(ascii) : ascii;
    }

    /// <summary>A host name in its ASCII form (UTS #46, as the standard's "domain to ASCII"); null where it has none.</summary>
    private static string? ToAscii(string name)
    {
        var lower = name.ToLowerInvariant();
        if (lower.All(char.IsAscii) && !lower.Split('.').Any(l => l.StartsWith("xn--", StringComparison.Ordinal)))
        {
            return lower;
        }

        try
        {
            // The mapping refuses a trailing root dot's empty label only in the middle; it is kept apart to stay as entered.
            var ascii = Idn.GetAscii(lower).ToLowerInvariant();
            return ascii.Split('.').All(IsDecodable) ? ascii : null;
        }
        catch (ArgumentException)
        {
            return null;
        }
    }

    private static bool IsDecodable(string label)
    {
        if (!label.StartsWith("xn--", StringComparison.Ordinal))
        {
            return true;
        }

        try
        {
            var unicode = Idn.GetUnicode(label);
            return unicode != label && Idn.GetAscii(unicode) == label;
        }
        catch (ArgumentException)
        {
            return false;
        }
    }

    /// <summary>Forbidden domain code points (WHATWG URL Standard, section 3.2).</summary>
    private static bool IsForbidden(char c) => c is <= ' ' or '\u007f' || "#/:<>?@[\\]^|%".Contains(c, StringComparison.Ordinal);
}
