namespace Cursus.Web.Hosting;

/// <summary>How much one workspace, account or token may ask for at once, so that nobody's work stands still for another's. Section
/// <c>Cursus:Limits</c>; docs/limits.md tells the numbers.</summary>
public sealed class LimitOptions
{
    /// <summary>Reports that are counted at the same time; 0 is half of the processors, and one at least. The rest of the machine is for
    /// visitors.</summary>
    public int Reports { get; init; }

    /// <summary>Reports of one workspace that are counted at the same time.</summary>
    public int ReportsOfWorkspace { get; init; } = 2;

    /// <summary>Reports of one workspace that may wait for their turn.</summary>
    public int ReportsWaiting { get; init; } = 60;

    /// <summary>Reports that may wait for their turn in all.</summary>
    public int ReportsWaitingInAll { get; init; } = 240;

    /// <summary>Seconds after which the database gives one part of a report up.</summary>
    public int ReportSeconds { get; init; } = 30;

    /// <summary>Live views that one account may watch at the same time.</summary>
    public int StreamsOfAccount { get; init; } = 10;

    /// <summary>Live views that may be watched at the same time in all.</summary>
    public int Streams { get; init; } = 500;

    /// <summary>Files written while they are sent (archives, clicks, many codes) that one workspace may be sent at the same time.</summary>
    public int DownloadsOfWorkspace { get; init; } = 3;

    /// <summary>Such files in all.</summary>
    public int Downloads { get; init; } = 8;

    /// <summary>Megabytes of an archive that is brought in.</summary>
    public int ArchiveMegabytes { get; init; } = 4096;

    /// <summary>Requests that a member may make in one go, by a token or in a browser.</summary>
    public int RequestsAtOnce { get; init; } = 1200;

    /// <summary>Requests a second that a member may make on and on.</summary>
    public int RequestsEachSecond { get; init; } = 40;

    /// <summary>Connections to the database for members' requests.</summary>
    public int Connections { get; init; } = 20;

    /// <summary>Connections to the database by which the edge follows changes.</summary>
    public int EdgeConnections { get; init; } = 5;

    /// <summary>Connections to the database by which clicks are stored.</summary>
    public int ShippingConnections { get; init; } = 6;

    /// <summary>Connections to the database for the link check's plan.</summary>
    public int CheckConnections { get; init; } = 5;

    /// <summary>How many reports are counted at the same time on this machine.</summary>
    public int ReportsAtOnce => Reports > 0 ? Reports : Math.Max(1, Environment.ProcessorCount / 2);

    /// <summary>Connections to the database that this process may open in all.</summary>
    public int ConnectionsInAll => Connections + EdgeConnections + ShippingConnections + CheckConnections + ReportsAtOnce;
}
