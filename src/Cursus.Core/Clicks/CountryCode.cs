namespace Cursus.Core.Clicks;

/// <summary>A country by its two letters of ISO 3166-1; the default value is an unknown country.</summary>
public readonly record struct CountryCode
{
    private readonly ushort letters;

    private CountryCode(ushort letters) => this.letters = letters;

    /// <summary>The two letters as one number, zero where unknown: how journals keep it.</summary>
    public ushort Number => letters;

    public static CountryCode OfNumber(ushort number) => Of([(char)(number >> 8), (char)(number & 0xff)]);

    /// <summary>Reads two letters; everything else is an unknown country.</summary>
    public static CountryCode Of(ReadOnlySpan<char> text) =>
        text.Length == 2 && char.IsAsciiLetter(text[0]) && char.IsAsciiLetter(text[1])
            ? new CountryCode((ushort)(((text[0] & ~0x20) << 8) | (text[1] & ~0x20)))
            : default;

    /// <summary>Two upper-case letters, or nothing.</summary>
    public override string ToString() => letters == 0 ? "" : new string([(char)(letters >> 8), (char)(letters & 0xff)]);
}
