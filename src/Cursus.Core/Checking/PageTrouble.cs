namespace Cursus.Core.Checking;

/// <summary>Why a page could not be read.</summary>
public enum PageTrouble
{
    None = 0,

    /// <summary>An HTTP status that says so.</summary>
    Status = 1,

    /// <summary>Its host has no address in DNS.</summary>
    UnknownHost = 2,

    /// <summary>No secure connection came about: its certificate has ended, or is for another name.</summary>
    Insecure = 3,

    /// <summary>Nobody answered.</summary>
    Silent = 4,

    /// <summary>The answer did not come in time.</summary>
    TooSlow = 5,

    /// <summary>It sends visitors on and on.</summary>
    Circles = 6,

    /// <summary>It sends visitors back to one of the workspace's own short domains.</summary>
    LeadsBack = 7,

    /// <summary>It lies inside a private network, where it is not asked.</summary>
    Private = 8,

    /// <summary>The site's robots.txt asks programs to stay away.</summary>
    Robots = 9,
}
