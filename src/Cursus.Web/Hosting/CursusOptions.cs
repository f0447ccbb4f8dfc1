using Cursus.Edge;

namespace Cursus.Web.Hosting;

/// <summary>Where this installation lives. Section <c>Cursus</c> of the configuration.</summary>
public sealed class CursusOptions : EdgeOptions
{
    /// <summary>Where members reach the application, for links in e-mails; such as <c>https://cursus.northmoor.example</c>.</summary>
    public string? AppAddress { get; init; }

    /// <summary>What the first owner must show (<see cref="Access.SetupCode"/>); drawn at the start where null.</summary>
    public string? SetupCode { get; init; }

    /// <summary>Whether browsers are told to reach the application by HTTPS alone for a year (RFC 6797). By choice, since it can't be taken
    /// back.</summary>
    public bool StrictTransport { get; init; }

    /// <summary>File of the certificate that encrypts the keys of cookies; made where there is none.</summary>
    public string KeyFile { get; init; } = ".data/protection.pfx";

    /// <summary>Folder of the built web application; none is served where it is missing.</summary>
    public string? WebFolder { get; init; }

    /// <summary>Folder of the demo scenario; empty loads none.</summary>
    public string? DemoFolder { get; init; }

    /// <summary>Port of the simulated sites and networks, which the demo's destinations name.</summary>
    public int? StandinsPort { get; init; }

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
}
