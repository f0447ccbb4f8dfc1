namespace Cursus.Core.Clicks.Requests;

/// <summary>What sort of place a visitor came from.</summary>
public enum SiteKind : short
{
    /// <summary>Nobody told: apps, mail programs, address bars, or sites that hide themselves.</summary>
    None = 0,

    Social = 1,
    Search = 2,
    Mail = 3,
    Messenger = 4,
    Video = 5,

    /// <summary>The organisation's own site, or one of its short domains.</summary>
    Own = 6,

    /// <summary>Any other site.</summary>
    Other = 7,
}
