using System.Globalization;

namespace Cursus.Core.Codes;

/// <summary>
/// The text in a code: a link's short address with the number of the code behind it, so that scans are counted apart from clicks. Capitals take two
/// thirds of the room of small letters (ISO/IEC 18004, section 7.4.4), and neither host nor slug minds them (RFC 3986, section 6.2.2.1; slugs are
/// compared without case), so the text is in capitals wherever that makes it smaller.
/// </summary>
public sealed record CodePayload
{
    private const string Alphanumeric = "0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:";

    private CodePayload(string text, string plain) => (Text, Plain) = (text, plain);

    /// <summary>What a scanner reads.</summary>
    public string Text { get; }

    /// <summary>The same as a person would write it.</summary>
    public string Plain { get; }

    /// <summary>Whether the smaller set of characters is enough.</summary>
    public bool IsAlphanumeric => IsIn(Text);

    /// <summary>The payload of one code of a link.</summary>
    /// <param name="shortUrl">The address people follow, such as <c>https://nmoor.example/winter</c>.</param>
    /// <param name="code">Number of the code in its link; see <see cref="ScannedPath"/>.</param>
    public static CodePayload Of(string shortUrl, int code)
    {
        ArgumentNullException.ThrowIfNull(shortUrl);
        var plain = string.Create(CultureInfo.InvariantCulture, $"{shortUrl}/{code}");

        // An underscore is the one character of slugs that has no capital place; its percent code has (RFC 3986, section 2.1).
        var capitals = plain.ToUpperInvariant().Replace("_", "%5F", StringComparison.Ordinal);
        return new CodePayload(IsIn(capitals) && Bits(capitals, 1) < Bits(plain, 1) ? capitals : plain, plain);
    }

    /// <summary>Bits that it takes in a symbol of a version, with mode and length.</summary>
    public int BitsIn(int version) => Bits(Text, version);

    /// <summary>The least version that holds it at a level; null where none does.</summary>
    public SymbolSize? Least(CorrectionLevel level) => Least(Text, level);

    /// <summary>How many modules fewer it takes than the address as written.</summary>
    public int ModulesSaved(CorrectionLevel level) =>
        Least(Plain, level) is { } plain && Least(level) is { } least ? plain.Side * plain.Side - least.Side * least.Side : 0;

    private static SymbolSize? Least(string text, CorrectionLevel level)
    {
        for (var version = 1; version <= SymbolSize.MaxVersion; version++)
        {
            if (new SymbolSize(version, level) is var size && size.Holds(Bits(text, version)))
            {
                return size;
            }
        }

        return null;
    }

    private static bool IsIn(string text) => text.All(c => Alphanumeric.Contains(c, StringComparison.Ordinal));

    private static int Bits(string text, int version)
    {
        var band =
            version < 10 ? 0
            : version < 27 ? 1
            : 2;
        return IsIn(text)
            ? 4 + 9 + 2 * band + text.Length / 2 * 11 + text.Length % 2 * 6
            : 4 + (band == 0 ? 8 : 16) + System.Text.Encoding.UTF8.GetByteCount(text) * 8;
    }
}
