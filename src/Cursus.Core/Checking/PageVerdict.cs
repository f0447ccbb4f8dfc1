namespace Cursus.Core.Checking;

/// <summary>Verdict of the link check on a destination page.</summary>
public enum PageVerdict
{
    /// <summary>It has not been asked yet.</summary>
    NotYet = 0,

    /// <summary>It answers.</summary>
    Fine = 1,

    /// <summary>It answers, at another address.</summary>
    Redirected = 2,

    /// <summary>It answers, but no longer seems to be the page that the links were made for.</summary>
    Changed = 3,

    /// <summary>Its site says that there is no such page.</summary>
    Gone = 4,

    /// <summary>It has not answered as a page should, three times over an hour.</summary>
    Failing = 5,

    /// <summary>Its site doesn't let programs look, so nothing is known.</summary>
    Closed = 6,
}
