namespace Cursus.Core.Clicks;

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
/// What a browser says of itself beside its user agent, which it may have frozen: User-Agent Client Hints (W3C Community Group, sections 3.3 and 3.7).
/// They come by themselves over HTTPS; no redirect waits for more.
/// </summary>
/// <param name="IsMobile">Whether it prefers a mobile page; null where untold.</param>
public readonly record struct ClientHints(HintedPlatform Platform, bool? IsMobile)
{
    /// <param name="platform">Header <c>Sec-CH-UA-Platform</c>, a quoted string.</param>
    /// <param name="mobile">Header <c>Sec-CH-UA-Mobile</c>, <c>?1</c> or <c>?0</c>.</param>
    public static ClientHints Read(string? platform, string? mobile) => new(
        platform?.Trim('"', ' ') switch
        {
            "Android" => HintedPlatform.Android,
            "Chrome OS" or "Chromium OS" => HintedPlatform.ChromeOS,
            "iOS" => HintedPlatform.IOS,
            "Linux" => HintedPlatform.Linux,
            "macOS" => HintedPlatform.MacOS,
            "Windows" => HintedPlatform.Windows,
            _ => HintedPlatform.Untold,
        },
        mobile switch { "?1" => true, "?0" => false, _ => null });

    /// <summary>In one byte, as journals and the database keep it: the platform in the lower four bits, above it 1 for mobile, 2 for not.</summary>
    public byte ToByte() => (byte)((int)Platform | (IsMobile switch { true => 1, false => 2, null => 0 } << 4));

    public static ClientHints OfByte(byte value) => new((HintedPlatform)(value & 0xf), (value >> 4) switch { 1 => true, 2 => false, _ => null });
}
