using Cursus.Data.Clicks.Journaling;

namespace Cursus.Edge;

/// <summary>What the edge is told of its installation.</summary>
public class EdgeOptions
{
    /// <summary>Host names on which the application answers; every other host belongs to the edge.</summary>
    public IList<string> AppHosts { get; init; } = [];

    /// <summary>Scheme of short addresses as visitors type them.</summary>
    public string PublicScheme { get; init; } = "https";

    /// <summary>Port of short addresses; null where it is the scheme's own.</summary>
    public int? PublicPort { get; init; }

    /// <summary>Folder of the click journal.</summary>
    public string JournalFolder { get; init; } = ".data/journal";

    /// <summary>File by which the edge starts while the database is away.</summary>
    public string SnapshotFile { get; init; } = ".data/links.snapshot";

    /// <summary>When a click counts as written down: <c>append</c> or <c>commit</c>. Also <c>--durability</c> on the command line.</summary>
    public Durability Durability { get; init; }

    /// <summary>Megabytes that the journal may take while the database is away.</summary>
    public int JournalMegabytes { get; init; } = 8192;

    /// <summary>Folder of the files that say which country a network address belongs to.</summary>
    public string CountryFolder { get; init; } = "Countries";

    /// <summary>Addresses of proxies whose <c>X-Forwarded-For</c> is believed.</summary>
    public IList<string> TrustedProxies { get; init; } = [];

    /// <summary>The short address of a slug as people see and follow it.</summary>
    public string ShortUrl(string domain, string slug) => $"{PublicScheme}://{domain}{(PublicPort is { } port ? $":{port}" : "")}/{slug}";
}
