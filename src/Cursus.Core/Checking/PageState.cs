using NodaTime;

namespace Cursus.Core.Checking;

/// <summary>What is known of a page that links lead to.</summary>
public sealed record PageState
{
    public PageVerdict Verdict { get; init; }
    public PageTrouble Trouble { get; init; }
    public int? Status { get; init; }

    /// <summary>Since when the verdict has been this one; null before the first.</summary>
    public Instant? Since { get; init; }

    public Instant? CheckedAt { get; init; }
    public Instant? NextCheckAt { get; init; }

    /// <summary>How often in a row it has not answered as a page should.</summary>
    public int Tries { get; init; }

    /// <summary>When that began.</summary>
    public Instant? TroubleSince { get; init; }

    public string? LeadsTo { get; init; }
    public bool IsPermanent { get; init; }

    /// <summary>Whether it sends those who look for a page inside a site to its front page.</summary>
    public bool EndsAtFrontPage { get; init; }

    /// <summary>What it calls itself now.</summary>
    public string? Title { get; init; }

    /// <summary>Words that say that something is no longer there, as found now.</summary>
    public IReadOnlyList<string> Words { get; init; } = [];

    /// <summary>Which of them stand in its title or a heading.</summary>
    public IReadOnlyList<string> LoudWords { get; init; } = [];

    /// <summary>How it was when it was last known to be the page that is meant; null before the first look.</summary>
    public PageLikeness? Accepted { get; init; }

    /// <summary>What it is recognised by at the next look.</summary>
    public string? Validator { get; init; }

    /// <summary>Whether visitors get no page there.</summary>
    public bool IsDead => Verdict is PageVerdict.Gone or PageVerdict.Failing;

    /// <summary>Whether a person should look at it.</summary>
    public bool NeedsCare =>
        IsDead || Verdict == PageVerdict.Changed || (Verdict == PageVerdict.Redirected && IsPermanent && LeadsTo != Accepted?.LeadsTo);

    /// <summary>The page as a person has seen it and finds it good.</summary>
    public PageState Accept(Instant now) => PageJudgement.Again(this with { Accepted = new(Title, [.. LoudWords.Union(Words)], LeadsTo) }, now);
}

/// <summary>What a page is known by: its title, the telling words that it had already, and where it led.</summary>
public sealed record PageLikeness(string? Title, IReadOnlyList<string> Words, string? LeadsTo);
