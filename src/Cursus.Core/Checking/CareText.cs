namespace Cursus.Core.Checking;

/// <summary>Says what was found about a page, and what it means for visitors.</summary>
public static class CareText
{
    /// <summary>One or two sentences.</summary>
    public static string Of(PageState page)
    {
        ArgumentNullException.ThrowIfNull(page);
        return page.Verdict switch
        {
            PageVerdict.NotYet when page.Tries > 0 => $"{Sentence(page)} Cursus will check again before reporting it.",
            PageVerdict.NotYet => "Not checked yet.",
            PageVerdict.Gone => $"The site says this page doesn’t exist ({page.Status}).",
            PageVerdict.Failing or PageVerdict.Closed => Sentence(page),
            PageVerdict.Changed => Changed(page),
            PageVerdict.Redirected when page.IsPermanent => "It has moved permanently. Its site still redirects visitors, for now.",
            PageVerdict.Redirected => "It redirects visitors temporarily.",
            _ => "It answers.",
        };
    }

    private static string Sentence(PageState page) =>
        page.Trouble switch
        {
            PageTrouble.UnknownHost => "Its host name is no longer in DNS.",
            PageTrouble.Insecure => "A secure connection fails, so browsers warn visitors. Its certificate may have expired.",
            PageTrouble.Silent => "Its server doesn’t respond.",
            PageTrouble.TooSlow => "Its server responds too slowly for most visitors.",
            PageTrouble.Circles => "It redirects in a loop.",
            PageTrouble.LeadsBack => "It redirects back to one of your own short domains.",
            PageTrouble.Private => "It is on a private network, so Cursus doesn’t check it. Visitors elsewhere can’t reach it either.",
            PageTrouble.Robots => "The site asks automated checkers to stay away from this page. Open it yourself from time to time.",
            _ when page.Verdict == PageVerdict.Closed =>
                $"The site doesn’t show this page to automated checkers ({page.Status}). Open it yourself from time to time.",
            _ => $"The site returns an error ({page.Status}).",
        };

    private static string Changed(PageState page) =>
        PageJudgement.TellingWord(page) is { } word ? $"The page loads, but says “{word}”."
        : page.EndsAtFrontPage && page.LeadsTo != page.Accepted?.LeadsTo
            ? "It redirects to the site’s home page, which usually means the page is gone."
        : $"Its title was “{page.Accepted?.Title}” and is now “{page.Title}”.";
}
