using System.Globalization;
using System.Text.RegularExpressions;

namespace Cursus.Core.Addresses.Urls;

/// <summary>
/// An http or https address, read and written as the WHATWG URL Standard says, so that Cursus sends a visitor exactly where a browser
/// would go. Percent-encoding, parameter order and fragment stay as entered.
/// </summary>
/// <param name="Scheme"><c>http</c> or <c>https</c>.</param>
/// <param name="Host">Lower-case ASCII host, punycode where it was Unicode.</param>
/// <param name="Port">Null where it is the scheme's own.</param>
/// <param name="Path">Begins with a slash.</param>
/// <param name="Query">Without its question mark; null where there is none, empty where only the mark stands.</param>
/// <param name="Fragment">Without its hash; null where there is none.</param>
public sealed partial record WebAddress(string Scheme, string Host, int? Port, string Path, string? Query, string? Fragment)
{
    /// <summary>Reads an absolute address, or, with a <paramref name="base"/>, also a relative reference (RFC 3986, section 5).
    /// Returns null with an <paramref name="error"/> where it is not an http(s) address or carries credentials.</summary>
    public static WebAddress? Parse(string text, WebAddress? @base, out ValidationError? error)
    {
        error = null;
        var input = LineBreaks().Replace(text.Trim(C0AndSpace), "");
        var scheme = SchemePrefix().Match(input);
        if (!scheme.Success)
        {
            return @base is not null ? Relative(input, @base, out error) : Refuse(AddressErrors.NotAnAddress, out error);
        }

        var name = scheme.Groups[1].Value.ToLowerInvariant();
        var rest = input[scheme.Length..];
        if (name is not ("http" or "https"))
        {
            return Refuse(AddressErrors.OtherScheme(name), out error);
        }

        // "http:g" with an http base is a relative reference for backward compatibility (RFC 3986, section 5.4.2).
        return @base?.Scheme == name && !rest.StartsWith("//", StringComparison.Ordinal)
            ? Relative(rest, @base, out error)
            : Authority(name, rest.TrimStart('/', '\\'), out error);
    }

    /// <summary>The address as text: ASCII only, safe for a Location header.</summary>
    public override string ToString() => string.Concat(Origin, Path, Query is null ? "" : "?" + Query, Fragment is null ? "" : "#" + Fragment);

    private string Origin => string.Create(CultureInfo.InvariantCulture, $"{Scheme}://{Host}{(Port is { } port ? ":" + port : "")}");

    private static readonly char[] C0AndSpace = [.. Enumerable.Range(0, 0x21).Select(i => (char)i)];

    [GeneratedRegex("[\t\n\r]")]
    private static partial Regex LineBreaks();

    [GeneratedRegex(@"\A([A-Za-z][A-Za-z0-9+.\-]*):")]
    private static partial Regex SchemePrefix();

    private static WebAddress? Relative(string reference, WebAddress @base, out ValidationError? error)
    {
        error = null;
        if (reference is ['/' or '\\', '/' or '\\', ..])
        {
            return Authority(@base.Scheme, reference.TrimStart('/', '\\'), out error);
        }

        var (path, query, fragment) = Split(reference);
        return reference switch
        {
            ['/' or '\\', ..] => @base with { Path = AddressPath.Normalise([], path), Query = query, Fragment = fragment },
            [] or ['#', ..] => @base with { Fragment = fragment },
            ['?', ..] => @base with { Query = query, Fragment = fragment },
            _ => @base with { Path = AddressPath.Normalise(AddressPath.FolderOf(@base.Path), path), Query = query, Fragment = fragment },
        };
    }

    private static WebAddress? Authority(string scheme, string rest, out ValidationError? error)
    {
        error = null;
        var end = rest.IndexOfAny(['/', '\\', '?', '#']);
        var authority = end < 0 ? rest : rest[..end];
        if (authority.Contains('@', StringComparison.Ordinal))
        {
            return Refuse(AddressErrors.Credentials, out error);
        }

        var portMark = authority.IndexOf(':', authority.IndexOf(']', StringComparison.Ordinal) + 1);
        var hostText = portMark < 0 ? authority : authority[..portMark];
        if (WebHost.Parse(hostText) is not { } host)
        {
            return Refuse(AddressErrors.NoHost, out error);
        }

        if (!TryPort(scheme, portMark < 0 ? "" : authority[(portMark + 1)..], out var port))
        {
            return Refuse(AddressErrors.Port, out error);
        }

        var (path, query, fragment) = Split(end < 0 ? "" : rest[end..]);
        return new WebAddress(scheme, host, port, AddressPath.Normalise([], path), query, fragment);
    }

    private static bool TryPort(string scheme, string digits, out int? port)
    {
        port = null;
        if (digits.Length == 0)
        {
            return true;
        }

        if (
            !digits.All(char.IsAsciiDigit)
            || !int.TryParse(digits.TrimStart('0').PadLeft(1, '0'), CultureInfo.InvariantCulture, out var number)
            || number > 65535
        )
        {
            return false;
        }

        port = (scheme, number) is ("http", 80) or ("https", 443) ? null : number;
        return true;
    }

    private static (string Path, string? Query, string? Fragment) Split(string text)
    {
        var hash = text.IndexOf('#', StringComparison.Ordinal);
        var (beforeHash, fragment) = hash < 0 ? (text, null) : (text[..hash], PercentEncoding.Fragment(text[(hash + 1)..]));
        var mark = beforeHash.IndexOf('?', StringComparison.Ordinal);
        return mark < 0 ? (beforeHash, null, fragment) : (beforeHash[..mark], PercentEncoding.SpecialQuery(beforeHash[(mark + 1)..]), fragment);
    }

    private static WebAddress? Refuse(ValidationError why, out ValidationError? error)
    {
        error = why;
        return null;
    }
}
