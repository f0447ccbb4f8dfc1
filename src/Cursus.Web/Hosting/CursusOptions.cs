using Cursus.Data.Clicks.Journaling;

namespace Cursus.Web.Hosting;

/// <summary>Where this installation lives. Section <c>Cursus</c> of the configuration.</summary>
public sealed class CursusOptions
{
    /// <summary>Host names on which the application answers; every other host belongs to the edge.</summary>
    public IList<string> AppHosts { get; init; } = [];

    /// <summary>Where members reach the application, for links in e-mails; such as <c>https://cursus.northmoor.example</c>.</summary>
    public string? AppAddress { get; init; }

    /// <summary>What the first owner must show (<see cref="Access.SetupCode"/>); drawn at the start where null.</summary>
    public string? SetupCode { get; init; }

    /// <summary>Scheme of short addresses as visitors type them.</summary>
    public string PublicScheme { get; init; } = "https";

    /// <summary>Whether browsers are told to reach the application by HTTPS alone for a year (RFC 6797). By choice, since it can't be taken
    /// back.</summary>
    public bool StrictTransport { get; init; }

    /// <summary>Port of short addresses; null where it is the scheme's own.</summary>
    public int? PublicPort { get; init; }

    /// <summary>Folder of the click journal.</summary>
    public string JournalFolder { get; init; } = ".data/journal";

    /// <summary>File by which the edge starts while the database is away.</summary>
    public string SnapshotFile { get; init; } = ".data/links.snapshot";

    /// <summary>File of the certificate that encrypts the keys of cookies; made where there is none.</summary>
    public string KeyFile { get; init; } = ".data/protection.pfx";

    /// <summary>When a click counts as written down: <c>append</c> or <c>commit</c>. Also <c>--durability</c> on the command line.</summary>
    public Durability Durability { get; init; }

    /// <summary>Megabytes that the journal may take while the database is away.</summary>
    public int JournalMegabytes { get; init; } = 8192;

    /// <summary>Folder of the files that say which country a network address belongs to.</summary>
    public string CountryFolder { get; init; } = "Countries";

    /// <summary>Folder of the built web application; none is served where it is missing.</summary>
    public string? WebFolder { get; init; }

    /// <summary>Folder of the demo scenario; empty loads none.</summary>
    public string? DemoFolder { get; init; }

    /// <summary>Port of the simulated sites and networks, which the demo's destinations name.</summary>
    public int? StandinsPort { get; init; }

    /// <summary>Addresses of proxies whose <c>X-Forwarded-For</c> is believed.</summary>
    public IList<string> TrustedProxies { get; init; } = [];

    /// <summary>Private names that links may lead to and that may be asked for pages all the same; one that begins with a dot means all names under
    /// it.</summary>
    public IList<string> AllowedPrivateHosts { get; init; } = [];

    /// <summary>Name server that is asked, as <c>address</c> or <c>address:port</c>; the system's own where null.</summary>
    public string? NameServer { get; init; }

    /// <summary>Host name that subdomains used as short domains point to by CNAME.</summary>
    public string? EdgeHost { get; init; }

    /// <summary>Addresses that an apex domain used as a short domain points to by A records.</summary>
    public IList<string> EdgeAddresses { get; init; } = [];

    /// <summary>How much may be asked for at once.</summary>
    public LimitOptions Limits { get; init; } = new();

    /// <summary>The short address of a slug as people see and follow it.</summary>
    public string ShortUrl(string domain, string slug) => $"{PublicScheme}://{domain}{(PublicPort is { } port ? $":{port}" : "")}/{slug}";
}
