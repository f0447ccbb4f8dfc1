using Cursus.Core.Clicks.Requests;

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

    /// <summary>A program under a browser's name whose request is not what that browser sends; see <see cref="Requests.Impostor"/>.</summary>
    Impostor = 7,

    /// <summary>One of several links that a visitor or a network opened faster than anybody can point at them; see <see cref="BehaviourWatch"/>, as
    /// for the next two.</summary>
    Sweep = 8,

    /// <summary>Somebody else's visit within a second of the team's own.</summary>
    Echo = 9,

    /// <summary>The visit of somebody who had just asked for the headers alone.</summary>
    Probe = 10,
}
