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
            PageVerdict.NotYet when page.Tries > 0 => $"{Sentence(page)} It is checked again before anything is made of it.",
            PageVerdict.NotYet => "It has not been checked yet.",
            PageVerdict.Gone => $"The site says that there is no such page ({page.Status}).",
            PageVerdict.Failing or PageVerdict.Closed => Sentence(page),
            PageVerdict.Changed => Changed(page),
            PageVerdict.Redirected when page.IsPermanent => "It has moved for good, and its site sends visitors on for now.",
            PageVerdict.Redirected => "It sends visitors on, for the time being.",
            _ => "It answers.",
        };
    }

    private static string Sentence(PageState page) => page.Trouble switch
    {
        PageTrouble.UnknownHost => "Its host has no address in DNS any more.",
        PageTrouble.Insecure => "No secure connection to it comes about, so browsers warn visitors away. Its certificate may have ended.",
        PageTrouble.Silent => "Its server does not answer.",
        PageTrouble.TooSlow => "Its server takes longer to answer than visitors wait.",
        PageTrouble.Circles => "It sends visitors round in circles.",
        PageTrouble.LeadsBack => "It sends visitors back to one of your own short domains.",
        PageTrouble.Private => "It lies inside a private network and is not asked. Visitors elsewhere could not reach it either.",
        PageTrouble.Robots => "The site asks programs to stay away from this page. Open it yourself now and then.",
        _ when page.Verdict == PageVerdict.Closed => $"The site does not show this page to programs ({page.Status}). Open it yourself now and then.",
        _ => $"The site answers with an error ({page.Status}).",
    };

    private static string Changed(PageState page) =>
        PageJudgement.TellingWord(page) is { } word ? $"It answers, but says “{word}”."
        : page.EndsAtFrontPage && page.LeadsTo != page.Accepted?.LeadsTo ? "It sends visitors to the front page of its site, as sites do with pages that are gone."
        : $"It used to be called “{page.Accepted?.Title}”, and is now “{page.Title}”.";
}
