using Cursus.Core.Addresses;

namespace Cursus.Core.Links;

/// <summary>What a link has of what it doesn't say itself: the narrowest level that says a thing decides it, and <see cref="LinkOptions"/> where none
/// does.</summary>
public static class LinkInheritance
{
    /// <summary>How a link is answered.</summary>
    /// <param name="levels">From the narrowest to the widest: row, post, campaign, short domain, workspace.</param>
    public static (short Redirect, LinkOptions Options) Of(params IReadOnlyList<LinkLevel> levels)
    {
        var usual = LinkOptions.Plain;
        return (
            First(levels, l => l.Redirect) ?? LinkOptions.UsualRedirect,
            new()
            {
                PassQuery = First(levels, l => l.PassQuery) ?? usual.PassQuery,
                Referrer = First(levels, l => l.Referrer) ?? usual.Referrer,
                HideFromSearch = First(levels, l => l.HideFromSearch) ?? usual.HideFromSearch,
                Nofollow = First(levels, l => l.Nofollow) ?? usual.Nofollow,
                Sponsored = First(levels, l => l.Sponsored) ?? usual.Sponsored,
                NewTab = First(levels, l => l.NewTab) ?? usual.NewTab,
                TitleAttribute = Text(levels, l => l.TitleAttribute),
                AnchorText = Text(levels, l => l.AnchorText),

                // The usual deadline is stored as nothing, so that asking for it is the same as never having set it.
                HandoffDeadline = First(levels, l => l.HandoffDeadline) is { } deadline and not LinkOptions.UsualHandoffDeadline ? deadline : null,
            }
        );
    }

    /// <summary>Where visitors go while a link can't lead to its destination; null for nowhere.</summary>
    public static string? Fallback(string? ofLink, string? ofCampaign, string? ofWorkspace) => ofLink ?? ofCampaign ?? ofWorkspace;

    private static T? First<T>(IReadOnlyList<LinkLevel> levels, Func<LinkLevel, T?> said)
        where T : struct => levels.Select(said).FirstOrDefault(s => s is not null);

    private static string? Text(IReadOnlyList<LinkLevel> levels, Func<LinkLevel, string?> said) =>
        levels.Select(said).FirstOrDefault(s => s is not null) is { Length: > 0 } text ? text : null;
}
