using System.Diagnostics.CodeAnalysis;
using System.Text;

namespace Cursus.Core.Retargeting;

/// <summary>
/// A text with macros in braces, such as <c>https://ads.example/hit?p={id}&amp;u={link}</c>. A brace that opens no known macro is an error, so that a
/// slip is told when the pixel is set up and not by a network that gets nonsense.
/// </summary>
public sealed class PixelTemplate
{
    /// <summary>Longer templates are refused: no network's address comes near it.</summary>
    public const int MaxLength = 2000;

    // Alternately literal text and the name of a macro; begins and ends with a literal.
    private readonly string[] parts;

    private PixelTemplate(string[] parts) => this.parts = parts;

    /// <summary>Reads a template of any text.</summary>
    public static bool TryParse(string text, [NotNullWhen(true)] out PixelTemplate? template, [NotNullWhen(false)] out ValidationError? error)
    {
        ArgumentNullException.ThrowIfNull(text);
        template = null;
        error = null;
        var parts = text.Split('{', '}');
        var isPaired = parts.Length % 2 == 1 && text.Where(c => c is '{' or '}').Index().All(b => b.Item == (b.Index % 2 == 0 ? '{' : '}'));
        if (text.Length > MaxLength)
        {
            error = new ValidationError("template-too-long", $"This has {text.Length:N0} characters; the limit is {MaxLength:N0}.");
        }
        else if (!isPaired)
        {
            error = new ValidationError(
                "template-braces",
                "A brace is missing its partner. Write macros between { and }; braces can’t be used for anything else."
            );
        }
        else if (parts.Where((_, i) => i % 2 == 1).FirstOrDefault(m => !PixelValues.Macros.Contains(m)) is { } unknown)
        {
            error = new ValidationError(
                "template-macro",
                $"There is no macro “{{{unknown}}}”. The macros are: {string.Join(", ", PixelValues.Macros.Select(m => $"{{{m}}}"))}."
            );
        }
        else
        {
            template = new PixelTemplate(parts);
        }

        return template is not null;
    }

    /// <summary>Reads a template that makes a web address. Macros may stand in its path, query and fragment; the host is always the template's
    /// own.</summary>
    public static bool TryParseAddress(string text, [NotNullWhen(true)] out PixelTemplate? template, [NotNullWhen(false)] out ValidationError? error)
    {
        if (!TryParse(text, out template, out error))
        {
            return false;
        }

        if (OriginOf(text) is null)
        {
            template = null;
            error = new ValidationError(
                "template-address",
                "This isn’t a valid pixel address. It must start with https:// and a host without macros, and contain no spaces, quotes or angle brackets."
            );
            return false;
        }

        return true;
    }

    /// <summary>Scheme, host and port of an address or of a template for one, as a Content-Security-Policy names them; null where it is
    /// none.</summary>
    public static string? OriginOf(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        // A semicolon or a comma would end a source in a policy; in a host neither can stand, so that Uri refuses them there.
        if (text.Any(c => c is <= ' ' or > '~' or '<' or '>' or '"' or '\'' or '`' or '\\'))
        {
            return null;
        }

        var schemeEnd = text.IndexOf("://", StringComparison.Ordinal);
        var hostEnd = schemeEnd < 0 ? -1 : text.AsSpan(schemeEnd + 3).IndexOfAny('/', '?', '#');
        var front = hostEnd < 0 ? text : text[..(schemeEnd + 3 + hostEnd)];
        return
            schemeEnd > 0
            && !front.Contains('{', StringComparison.Ordinal)
            && Uri.TryCreate(front, UriKind.Absolute, out var uri)
            && (uri.Scheme == Uri.UriSchemeHttps || uri.Scheme == Uri.UriSchemeHttp)
            && uri.UserInfo.Length == 0
            && uri.HostNameType is UriHostNameType.Dns
            ? uri.GetLeftPart(UriPartial.Authority)
            : null;
    }

    /// <summary>The finished address: values are percent-encoded (RFC 3986, section 2.1), so that none ends its parameter or begins
    /// another.</summary>
    public string FillAddress(PixelValues values) => Fill(values, Uri.EscapeDataString);

    /// <summary>The finished text, values as they are.</summary>
    public string FillText(PixelValues values) => Fill(values, value => value);

    private string Fill(PixelValues values, Func<string, string> encode)
    {
        ArgumentNullException.ThrowIfNull(values);
        var filled = new StringBuilder(parts[0]);
        for (var i = 1; i < parts.Length; i += 2)
        {
            filled.Append(encode(values.Of(parts[i])!)).Append(parts[i + 1]);
        }

        return filled.ToString();
    }
}
