using Cursus.Web.Hosting;

namespace Cursus.Web.Checking;

/// <summary>How this installation checks links. Section <c>Cursus:LinkCheck</c> of the configuration.</summary>
public sealed class LinkCheckOptions
{
    /// <summary>Whether links are checked at all.</summary>
    public bool IsOn { get; init; } = true;

    /// <summary>Seconds between two rounds.</summary>
    public int Every { get; init; } = 10;

    /// <summary>Milliseconds between two pages of one site.</summary>
    public int Pause { get; init; } = 1000;

    /// <summary>Seconds that a page may take, redirects included, before it counts as too slow.</summary>
    public int Patience { get; init; } = 10;

    /// <summary>Port at which short domains show their certificates, where it isn't the one that visitors come to.</summary>
    public int? CertificatePort { get; init; }

    /// <summary>Port at which short domains show their certificates; null where they have none.</summary>
    public int? CertificatePortOf(CursusOptions installation) =>
        CertificatePort ?? (installation.PublicScheme == "https" ? installation.PublicPort ?? 443 : null);
}
