namespace Cursus.Core.Clicks;

/// <summary>Who answered a link. Only persons count in headlines; every other kind is kept and shown by reason.</summary>
public enum ClickKind : byte
{
    /// <summary>A person who is not of the team: what the word "clicks" means everywhere.</summary>
    Person = 0,

    /// <summary>A member's own visit: a signed-in browser, or a test-open.</summary>
    Team = 1,

    /// <summary>A crawler, monitor or scanner.</summary>
    Machine = 2,

    /// <summary>A network or messenger that fetched the page to draw a preview.</summary>
    Preview = 3,

    /// <summary>A browser that fetched ahead of a person who may never arrive.</summary>
    Prefetch = 4,

    /// <summary>The same visitor on the same link again within ten seconds: a double click or a reload. Common practice, no source.</summary>
    Repeat = 5,

    /// <summary>Somebody asked for the headers alone (RFC 9110, section 9.3.2), as link checkers do.</summary>
    Head = 6,
}
