namespace Cursus.Core.Clicks.Requests;

/// <summary>The operating systems that browsers name in <c>Sec-CH-UA-Platform</c>.</summary>
public enum HintedPlatform : byte
{
    Untold = 0,
    Android,
    ChromeOS,
    IOS,
    Linux,
    MacOS,
    Windows,
}

/// <summary>
/// What a browser says of itself beside its user agent, which it may have frozen: User-Agent Client Hints (W3C Community Group, sections 3.3 and
/// 3.7). Platform and mobile come by themselves over HTTPS; form factors from browsers that were asked for them on a page before. No redirect waits
/// for more.
/// </summary>
/// <param name="IsMobile">Whether it prefers a mobile page; null where untold.</param>
/// <param name="IsTablet">Whether it says to be a tablet and no computer as well.</param>
public readonly record struct ClientHints(HintedPlatform Platform, bool? IsMobile, bool IsTablet = false)
{
    /// <summary>What pages ask browsers to tell from then on: header <c>Accept-CH</c>.</summary>
    public const string Asked = "Sec-CH-UA-Form-Factors";

    private const byte TabletBit = 0x40;

    /// <param name="platform">Header <c>Sec-CH-UA-Platform</c>, a quoted string.</param>
    /// <param name="mobile">Header <c>Sec-CH-UA-Mobile</c>, <c>?1</c> or <c>?0</c>.</param>
    /// <param name="formFactors">Header <c>Sec-CH-UA-Form-Factors</c>, a list of quoted strings.</param>
    public static ClientHints Read(ReadOnlySpan<char> platform, ReadOnlySpan<char> mobile, ReadOnlySpan<char> formFactors) =>
        new(
            platform.Trim("\" ") switch
            {
                "Android" => HintedPlatform.Android,
                "Chrome OS" or "Chromium OS" => HintedPlatform.ChromeOS,
                "iOS" => HintedPlatform.IOS,
                "Linux" => HintedPlatform.Linux,
                "macOS" => HintedPlatform.MacOS,
                "Windows" => HintedPlatform.Windows,
                _ => HintedPlatform.Untold,
            },
            mobile switch
            {
                "?1" => true,
                "?0" => false,
                _ => null,
            },
            formFactors.Contains("\"Tablet\"", StringComparison.Ordinal) && !formFactors.Contains("\"Desktop\"", StringComparison.Ordinal)
        );

    /// <summary>In one byte, as journals and the database keep it: the platform in the lower four bits, above it 1 for mobile, 2 for not, above these
    /// 1 for a tablet.</summary>
    public byte ToByte() =>
        (byte)(
            (int)Platform
            | (
                IsMobile switch
                {
                    true => 1,
                    false => 2,
                    null => 0,
                } << 4
            )
            | (IsTablet ? TabletBit : 0)
        );

    public static ClientHints OfByte(byte value) =>
        new(
            (HintedPlatform)(value & 0xf),
            ((value >> 4) & 0x3) switch
            {
                1 => true,
                2 => false,
                _ => null,
            },
            (value & TabletBit) != 0
        );
}
