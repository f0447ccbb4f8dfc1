using Cursus.Core.Clicks;

namespace Cursus.Core.Retargeting;

/// <summary>Which visitors are asked before pixels fire.</summary>
public enum ConsentMode : short
{
    /// <summary>Nobody: pixels fire unless the browser says no.</summary>
    Off = 0,

    /// <summary>Those from the countries of a list, and those of whom nobody knows where they are.</summary>
    Listed = 1,

    /// <summary>Everybody.</summary>
    Everybody = 2,
}

/// <summary>What a visitor answered.</summary>
public enum ConsentAnswer
{
    Yes,
    No,
}

/// <summary>Whom a workspace asks for consent, and for how long an answer holds.</summary>
public static class Consent
{
    /// <summary>A yes is remembered for this many days.</summary>
    public const int YesDays = 180;

    /// <summary>A no is remembered for twelve months, so that nobody is asked again and again.</summary>
    public const int NoDays = 365;

    /// <summary>
    /// The member states of the European Union (Treaty on European Union, article 52, without the United Kingdom since 2020), the other three of the
    /// European Economic Area, the United Kingdom and Switzerland, by the codes of ISO 3166-1; written from memory of both.
    /// </summary>
    public static IReadOnlyList<string> DefaultCountries { get; } =
    [
        "AT",
        "BE",
        "BG",
        "CH",
        "CY",
        "CZ",
        "DE",
        "DK",
        "EE",
        "ES",
        "FI",
        "FR",
        "GB",
        "GR",
        "HR",
        "HU",
        "IE",
        "IS",
        "IT",
        "LI",
        "LT",
        "LU",
        "LV",
        "MT",
        "NL",
        "NO",
        "PL",
        "PT",
        "RO",
        "SE",
        "SI",
        "SK",
    ];

    /// <summary>Whether a visitor from <paramref name="country"/> is to be asked. Where nobody knows the country, asking is the safe side.</summary>
    public static bool MustAsk(ConsentMode mode, IReadOnlyCollection<CountryCode> countries, CountryCode country) =>
        mode switch
        {
            ConsentMode.Off => false,
            ConsentMode.Listed => country == default || countries.Contains(country),
            _ => true,
        };

    /// <summary>Whether a browser says no for its owner everywhere: <c>Sec-GPC: 1</c> (W3C Global Privacy Control, section 3.1) or <c>DNT: 1</c>
    /// (W3C Tracking Preference Expression, section 5.2).</summary>
    public static bool SaysNo(string? globalPrivacyControl, string? doNotTrack) => globalPrivacyControl?.Trim() == "1" || doNotTrack?.Trim() == "1";
}
