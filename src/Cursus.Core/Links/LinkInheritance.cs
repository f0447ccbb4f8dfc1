using Cursus.Core.Addresses;

namespace Cursus.Core.Links;

/// <summary>What a link has of what it doesn't say itself: the narrowest level that says a thing decides it, and <see cref="LinkOptions"/> where none
/// does.</summary>
public static class LinkInheritance
{
    /// <summary>How a link is answered.</summary>
    /// <param name="levels">From the narrowest to the widest: row, post, campaign, short domain, workspace.</param>
    public static (short Redirect, LinkOptions Options) Of(params IReadOnlyList<LinkLevel> levels) =>
        (
            levels.Select(l => l.Redirect).FirstOrDefault(r => r is not null) ?? LinkOptions.UsualRedirect,
            levels.Aggregate(new LinkOptionsPatch(), (narrower, level) => narrower.Or(level.Options)).Over(LinkOptions.Plain)
        );

    /// <summary>Where visitors go while a link can't lead to its destination; null for nowhere.</summary>
    public static string? Fallback(string? ofLink, string? ofCampaign, string? ofWorkspace) => ofLink ?? ofCampaign ?? ofWorkspace;
}
