using NodaTime;

namespace Cursus.Core.Checking;

/// <summary>Turns what came of asking a page into a verdict on it. Everything here is common practice (no source) unless marked.</summary>
public static class PageJudgement
{
    /// <summary>A page fails only after so many tries in a row …</summary>
    public const int TriesToFail = 3;

    /// <summary>… over so long a time.</summary>
    public static readonly Duration TimeToFail = Duration.FromHours(1);

    /// <summary>What is known of the page after this answer.</summary>
    /// <param name="words">What the workspace takes for signs that something is no longer there.</param>
    public static PageState After(PageState before, PageAnswer answer, GoneWords words, Instant now)
    {
        ArgumentNullException.ThrowIfNull(before);
        ArgumentNullException.ThrowIfNull(answer);
        ArgumentNullException.ThrowIfNull(words);
        var seen = before with { CheckedAt = now };
        return answer switch
        {
            { Status: 429 } => seen with { NextCheckAt = now + CheckPace.WhenAskedToWait(answer.RetryAfter) },
            { Trouble: PageTrouble.Robots or PageTrouble.Private } or { Status: 401 or 403 or 407 } => Closed(seen, answer, now),
            { Status: 404 or 410 } => Gone(seen, answer, now),
            { Trouble: not PageTrouble.None } or { Status: >= 400 } => Troubled(seen, answer, now),
            _ => Answered(seen, answer, words, now),
        };
    }

    /// <summary>The verdict on a page that answers, from what is known of it.</summary>
    internal static PageState Again(PageState page, Instant now) =>
        page.Verdict is PageVerdict.Fine or PageVerdict.Redirected or PageVerdict.Changed ? Judged(page, VerdictOn(page), now) : page;

    private static PageState Answered(PageState before, PageAnswer answer, GoneWords words, Instant now)
    {
        var page = before with
        {
            Trouble = PageTrouble.None,
            Status = answer.Status,
            Tries = 0,
            TroubleSince = null,
            LeadsTo = answer.LeadsTo,
            IsPermanent = answer.IsPermanent,
            EndsAtFrontPage = answer.EndsAtFrontPage,
            Validator = answer.Validator,
        };
        if (!answer.IsUnchanged)
        {
            page = page with
            {
                Title = answer.Text?.Title,
                Words = words.In(answer.Text?.Body),
                LoudWords = words.In([answer.Text?.Title, .. answer.Text?.Headings ?? []]),
            };
        }

        // The first look takes the page for what is meant, but for what it says aloud and where it sends visitors: it may have been gone from the
        // beginning.
        page = page with { Accepted = page.Accepted ?? new PageLikeness(page.Title, [.. page.Words.Except(page.LoudWords)], null) };
        return Judged(page, VerdictOn(page), now) with { NextCheckAt = now + CheckPace.WhenFine };
    }

    private static PageVerdict VerdictOn(PageState page) =>
        TellingWord(page) is not null
        || (page.EndsAtFrontPage && page.LeadsTo != page.Accepted?.LeadsTo)
        || TitleChange.IsLarge(page.Accepted?.Title, page.Title)
            ? PageVerdict.Changed
        : page.LeadsTo is not null ? PageVerdict.Redirected
        : PageVerdict.Fine;

    /// <summary>The word that makes the page count as changed: one that was not there when it was last known to be good. Null where there is
    /// none.</summary>
    internal static string? TellingWord(PageState page) => page.LoudWords.Concat(page.Words).Except(page.Accepted?.Words ?? []).FirstOrDefault();

    private static PageState Gone(PageState before, PageAnswer answer, Instant now)
    {
        var page = Unread(before, answer) with { Tries = before.Tries + 1, TroubleSince = before.TroubleSince ?? now };
        return Judged(page, PageVerdict.Gone, now) with { NextCheckAt = now + CheckPace.WhenDead(page.Tries) };
    }

    private static PageState Troubled(PageState before, PageAnswer answer, Instant now)
    {
        var (tries, since) = (before.Tries + 1, before.TroubleSince ?? now);
        if (tries >= TriesToFail && now - since >= TimeToFail)
        {
            var failing = Judged(Unread(before, answer) with { Tries = tries, TroubleSince = since }, PageVerdict.Failing, now);
            return failing with { NextCheckAt = Later(now + CheckPace.WhenDead(tries - TriesToFail + 1), answer.RetryAfter, now) };
        }

        // Not sure yet: the verdict stays what it was, with all that belongs to it.
        var unsure = before with { Trouble = TroubleOf(answer), Status = answer.Status, Tries = tries, TroubleSince = since, Validator = null };
        return unsure with { NextCheckAt = Later(CheckPace.UntilSure(tries, since, now), answer.RetryAfter, now) };
    }

    private static PageState Closed(PageState before, PageAnswer answer, Instant now) =>
        Judged(Unread(before, answer) with { Tries = 0, TroubleSince = null }, PageVerdict.Closed, now) with
        {
            NextCheckAt = Later(now + CheckPace.WhenFine, answer.RetryAfter, now),
        };

    /// <summary>What it says is not known any more, and is read anew when it answers again.</summary>
    private static PageState Unread(PageState before, PageAnswer answer) =>
        before with
        {
            Trouble = TroubleOf(answer),
            Status = answer.Status,
            LeadsTo = answer.LeadsTo,
            IsPermanent = false,
            EndsAtFrontPage = false,
            Validator = null,
        };

    private static PageTrouble TroubleOf(PageAnswer answer) => answer.Trouble == PageTrouble.None ? PageTrouble.Status : answer.Trouble;

    private static PageState Judged(PageState page, PageVerdict verdict, Instant now) =>
        page with
        {
            Verdict = verdict,
            Since = page.Verdict == verdict ? page.Since ?? now : now,
        };

    private static Instant Later(Instant next, Duration? retryAfter, Instant now) =>
        retryAfter is null ? next : Instant.Max(next, now + CheckPace.WhenAskedToWait(retryAfter));
}
