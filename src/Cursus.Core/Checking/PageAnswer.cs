using NodaTime;

namespace Cursus.Core.Checking;

/// <summary>What came of asking a page once.</summary>
public sealed record PageAnswer
{
    public PageTrouble Trouble { get; init; }

    /// <summary>HTTP status of the last answer, where there was one.</summary>
    public int? Status { get; init; }

    /// <summary>Where its redirects end; null where it has none.</summary>
    public string? LeadsTo { get; init; }

    /// <summary>Whether every redirect on the way is for good (RFC 9110, sections 15.4.2 and 15.4.9).</summary>
    public bool IsPermanent { get; init; }

    /// <summary>Whether the redirects end at the front page of a site, though a page inside it was asked for.</summary>
    public bool EndsAtFrontPage { get; init; }

    /// <summary>What the page says; null where it was not read, or is no text.</summary>
    public PageText? Text { get; init; }

    /// <summary>Whether it says of itself to be the same as at the last look, so that it was not read again.</summary>
    public bool IsUnchanged { get; init; }

    /// <summary>What it is recognised by at the next look (RFC 9110, section 8.8).</summary>
    public string? Validator { get; init; }

    /// <summary>How long its server asks to be left alone (RFC 9110, section 10.2.3).</summary>
    public Duration? RetryAfter { get; init; }
}

/// <summary>What a page says to its readers.</summary>
/// <param name="Title">What it calls itself.</param>
/// <param name="Headings">Its first headings.</param>
/// <param name="Body">All its visible text.</param>
public sealed record PageText(string? Title, IReadOnlyList<string> Headings, string Body);
