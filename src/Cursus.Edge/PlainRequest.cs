using System.Buffers;
using System.Text;
using Cursus.Core.Clicks.Requests;

namespace Cursus.Edge;

/// <summary>
/// A request of the plainest kind: GET of a path, HTTP/1.1, without a body, without cookies, each header once and in ASCII, and whole. Whatever is
/// otherwise in any way is not read here but left to the web server, which knows all that HTTP allows and what to say of what it doesn't.
/// </summary>
internal ref struct PlainRequest
{
    /// <summary>Longer heads are not read here.</summary>
    public const int MostBytes = 2048;

    // What a token may be made of (RFC 9110, section 5.6.2), what a value may here, and what a path and a query may without being decoded.
    private static readonly SearchValues<byte> Token = SearchValues.Create(
        "!#$%&'*+-.^_`|~0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz"u8
    );
    private static readonly SearchValues<byte> Visible = SearchValues.Create([(byte)'\t', .. Enumerable.Range(0x20, 0x5f).Select(c => (byte)c)]);
    private static readonly SearchValues<byte> Plain = SearchValues.Create(
        "/-._~!$&'()*+,;=:@0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz"u8
    );
    private static readonly SearchValues<byte> PlainQuery = SearchValues.Create(
        "/?%-._~!$&'()*+,;=:@0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz"u8
    );

    private static readonly SearchValues<char> Name = SearchValues.Create("-.0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz");

    public readonly ReadOnlySpan<char> Host => host;

    public ReadOnlySpan<char> Path { get; private set; }

    /// <summary>With its question mark; empty where there is none.</summary>
    public ReadOnlySpan<char> Query { get; private set; }

    private ReadOnlySpan<char> host;
    private ReadOnlySpan<char> userAgent;
    private ReadOnlySpan<char> referer;
    private ReadOnlySpan<char> acceptLanguage;
    private ReadOnlySpan<char> forwardedFor;
    private ReadOnlySpan<char> secPurpose;
    private ReadOnlySpan<char> purpose;
    private ReadOnlySpan<char> xPurpose;
    private ReadOnlySpan<char> xMoz;
    private ReadOnlySpan<char> platform;
    private ReadOnlySpan<char> mobile;
    private ReadOnlySpan<char> formFactors;
    private ReadOnlySpan<char> connection;
    private ReadOnlySpan<char> accept;
    private ReadOnlySpan<char> secFetchMode;
    private ReadOnlySpan<char> secChUa;
    private ReadOnlySpan<char> forwardedProto;

    public readonly VisitorHeaders Headers =>
        new()
        {
            UserAgent = userAgent,
            Referer = referer,
            AcceptLanguage = acceptLanguage,
            ForwardedFor = forwardedFor,
            SecPurpose = secPurpose,
            Purpose = purpose,
            XPurpose = xPurpose,
            XMoz = xMoz,
            Platform = platform,
            Mobile = mobile,
            FormFactors = formFactors,
            Accept = accept,
            SecFetchMode = secFetchMode,
            SecChUa = secChUa,
            IsSecure = VisitorHeaders.SaysSecure(forwardedProto),
        };

    /// <summary>Reads the first request in what has come.</summary>
    /// <param name="chars">Room for the texts of the request, <see cref="MostBytes"/> characters.</param>
    /// <param name="length">Bytes of the request.</param>
    public static bool TryRead(ReadOnlySpan<byte> bytes, Span<char> chars, out PlainRequest request, out int length)
    {
        request = default;
        var end = bytes.IndexOf("\r\n\r\n"u8);
        length = end + 4;
        if (end < 0 || length > MostBytes || Ascii.ToUtf16(bytes[..length], chars, out _) != OperationStatus.Done)
        {
            return false;
        }

        var head = bytes[..(end + 2)];
        ReadOnlySpan<char> texts = chars;
        var line = head.IndexOf("\r\n"u8);
        if (!request.ReadTarget(head[..line], texts))
        {
            return false;
        }

        for (var at = line + 2; at < head.Length; at += line + 2)
        {
            line = head[at..].IndexOf("\r\n"u8);
            if (!request.ReadHeader(head.Slice(at, line), texts.Slice(at, line)))
            {
                return false;
            }
        }

        return !request.host.IsEmpty;
    }

    private bool ReadTarget(ReadOnlySpan<byte> line, ReadOnlySpan<char> text)
    {
        var method = "GET "u8;
        var version = " HTTP/1.1"u8;
        if (!line.StartsWith(method) || !line.EndsWith(version) || line.Length <= method.Length + version.Length)
        {
            return false;
        }

        var target = line[method.Length..^version.Length];
        var mark = target.IndexOf((byte)'?');
        var path = mark < 0 ? target : target[..mark];

        // Dots may be steps up and down, which the web server takes out.
        if (
            path is not [(byte)'/', ..]
            || path.ContainsAnyExcept(Plain)
            || path.IndexOf("/."u8) >= 0
            || target[path.Length..].ContainsAnyExcept(PlainQuery)
        )
        {
            return false;
        }

        Path = text.Slice(method.Length, path.Length);
        Query = text.Slice(method.Length + path.Length, target.Length - path.Length);
        return true;
    }

    private bool ReadHeader(ReadOnlySpan<byte> line, ReadOnlySpan<char> text)
    {
        var colon = line.IndexOf((byte)':');
        if (colon <= 0 || line[..colon].ContainsAnyExcept(Token) || line.ContainsAnyExcept(Visible))
        {
            return false;
        }

        return Take(text[..colon], text[(colon + 1)..].Trim(" \t"));
    }

    /// <summary>Takes a header that matters. False for what makes it a request of another kind.</summary>
    private bool Take(ReadOnlySpan<char> name, ReadOnlySpan<char> value) =>
        name.Length switch
        {
            4 when Is(name, "Host") => Set(ref host, value) && IsName(value),
            5 when Is(name, "X-Moz") => Set(ref xMoz, value),
            6 when Is(name, "Accept") => Set(ref accept, value),
            6 when Is(name, "Cookie") || Is(name, "Expect") => false,
            7 when Is(name, "Referer") => Set(ref referer, value),
            7 when Is(name, "Purpose") => Set(ref purpose, value),
            7 when Is(name, "Upgrade") => false,
            9 when Is(name, "Sec-CH-UA") => Set(ref secChUa, value),
            9 when Is(name, "X-Purpose") => Set(ref xPurpose, value),
            10 when Is(name, "User-Agent") => Set(ref userAgent, value),
            10 when Is(name, "Connection") => Set(ref connection, value) && Is(value, "keep-alive"),
            11 when Is(name, "Sec-Purpose") => Set(ref secPurpose, value),
            14 when Is(name, "Sec-Fetch-Mode") => Set(ref secFetchMode, value),
            14 when Is(name, "Content-Length") => false,
            15 when Is(name, "Accept-Language") => Set(ref acceptLanguage, value),
            15 when Is(name, "X-Forwarded-For") => Set(ref forwardedFor, value),
            16 when Is(name, "Sec-CH-UA-Mobile") => Set(ref mobile, value),
            17 when Is(name, "X-Forwarded-Proto") => Set(ref forwardedProto, value),
            17 when Is(name, "Transfer-Encoding") => false,
            18 when Is(name, "Sec-CH-UA-Platform") => Set(ref platform, value),
            22 when Is(name, ClientHints.Asked) => Set(ref formFactors, value),
            _ => true,
        };

    /// <summary>A name, with or without a port: nothing that the web server might have to say something about.</summary>
    private static bool IsName(ReadOnlySpan<char> host)
    {
        var port = host.IndexOf(':');
        return !(port < 0 ? host : host[..port]).ContainsAnyExcept(Name)
            && (port < 0 || (host[(port + 1)..] is { Length: > 0 and <= 5 } digits && !digits.ContainsAnyExceptInRange('0', '9')));
    }

    private static bool Is(ReadOnlySpan<char> text, string expected) => text.Equals(expected, StringComparison.OrdinalIgnoreCase);

    /// <summary>False where it has come before, or says nothing.</summary>
    private static bool Set(ref ReadOnlySpan<char> header, ReadOnlySpan<char> value)
    {
        if (!header.IsEmpty || value.IsEmpty)
        {
            return false;
        }

        header = value;
        return true;
    }
}
