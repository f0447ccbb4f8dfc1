using System.ComponentModel.DataAnnotations;

namespace Cursus.Core.Addresses;

/// <summary>What happens to parameters on the short address.</summary>
public enum QueryPassing : short
{
    /// <summary>They are dropped.</summary>
    Off = 0,

    /// <summary>They are passed on; where the destination has a parameter of the same name, the link's stays.</summary>
    LinkWins = 1,

    /// <summary>They are passed on and replace the destination's of the same name.</summary>
    VisitorWins = 2,
}

/// <summary>Whether the destination sees which page the visitor came from.</summary>
public enum ReferrerPassing : short
{
    /// <summary>As the visitor's browser would send it.</summary>
    Keep = 0,

    /// <summary>Hidden by the redirect's Referrer-Policy (W3C Referrer Policy, section 8.1: a redirect's policy holds for the next
    /// request).</summary>
    Hide = 1,

    /// <summary>Hidden by a page in between, for browsers inside apps that pass over a redirect's policy (common practice, no source).</summary>
    HideByPage = 2,
}

/// <summary>How a link redirects, and how it looks in a web page when copied as HTML.</summary>
public sealed record LinkOptions
{
    /// <summary>The longest title attribute or anchor text, in characters.</summary>
    public const int MaxText = 200;

    /// <summary>The longest text on the page of a link that has ended, in characters.</summary>
    public const int MaxEndedText = 300;

    /// <summary>The redirect type of links of which nobody says another one.</summary>
    public const short UsualRedirect = 302;

    /// <summary>Milliseconds that ad networks are waited for where the link says nothing else.</summary>
    public const short UsualHandoffDeadline = 800;

    /// <summary>The longest that they may be waited for.</summary>
    public const short MaxHandoffDeadline = 5000;

    /// <summary>Nothing special: parameters dropped, referrer kept, a plain anchor.</summary>
    public static readonly LinkOptions Plain = new();

    public QueryPassing PassQuery { get; init; }

    public ReferrerPassing Referrer { get; init; }

    /// <summary>Sends <c>X-Robots-Tag: noindex</c>, so search engines don't list the short address.</summary>
    public bool HideFromSearch { get; init; }

    /// <summary>Copied HTML carries <c>rel="nofollow"</c>.</summary>
    public bool Nofollow { get; init; }

    /// <summary>Copied HTML carries <c>rel="sponsored"</c>.</summary>
    public bool Sponsored { get; init; }

    /// <summary>Copied HTML opens in a new tab.</summary>
    public bool NewTab { get; init; }

    /// <summary>Title attribute of copied HTML; null for none.</summary>
    [MaxLength(MaxText)]
    public string? TitleAttribute { get; init; }

    /// <summary>Text of copied HTML and Markdown; null for the link's title.</summary>
    [MaxLength(MaxText)]
    public string? AnchorText { get; init; }

    /// <summary>How many milliseconds the handoff page waits for ad networks, 0 to 5,000; null for the usual deadline.</summary>
    public short? HandoffDeadline { get; init; }

    /// <summary>What visitors read once the link has ended, where no page stands in for its destination; null for the usual words.</summary>
    [MaxLength(MaxEndedText)]
    public string? EndedText { get; init; }
}
