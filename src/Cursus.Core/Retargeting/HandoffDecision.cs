using Cursus.Core.Clicks;
using Cursus.Core.Links;

namespace Cursus.Core.Retargeting;

/// <summary>Decides what becomes of a visit to a link with pixels. A browser's own no goes before every remembered answer, and a remembered answer
/// before the question.</summary>
public static class HandoffDecision
{
    /// <param name="kind">Who comes, as far as the request tells.</param>
    /// <param name="saysNo">Whether the browser says no everywhere; see <see cref="Consent.SaysNo"/>.</param>
    /// <param name="remembered">What the visitor answered on this short domain before.</param>
    /// <param name="mustAsk">Whether such visitors are asked; see <see cref="Consent.MustAsk"/>.</param>
    public static HandoffCourse Of(ClickKind kind, bool saysNo, ConsentAnswer? remembered, bool mustAsk) =>
        kind switch
        {
            // Crawlers, previews and browsers that fetch ahead are nobody's audience; who asks for headers gets no page.
            not (ClickKind.Person or ClickKind.Team or ClickKind.Repeat) => HandoffCourse.Redirect,
            _ when saysNo => HandoffCourse.OptedOut,
            _ when remembered == ConsentAnswer.No => HandoffCourse.Declined,
            _ when remembered == ConsentAnswer.Yes || !mustAsk => HandoffCourse.Fire,
            _ => HandoffCourse.Ask,
        };
}
