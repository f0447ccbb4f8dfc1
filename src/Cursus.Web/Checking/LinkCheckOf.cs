using Cursus.Core.Checking;
using NodaTime;

namespace Cursus.Web.Checking;

/// <summary>Link check of a destination page.</summary>
/// <param name="Page">Id of the page.</param>
/// <param name="Text">The same in words.</param>
/// <param name="Since">Since when this has been the verdict.</param>
/// <param name="LeadsTo">Where the page's redirects end, if elsewhere.</param>
/// <param name="NeedsCare">Whether a person should look at it.</param>
public sealed record LinkCheckOf(Guid Page, PageVerdict Verdict, string Text, Instant? Since, Instant? CheckedAt, string? LeadsTo, bool NeedsCare)
{
    internal static LinkCheckOf Of(Guid id, PageState state, Instant? ignoredUntil) =>
        new(id, state.Verdict, CareText.Of(state), state.Since, state.CheckedAt, state.LeadsTo, state.NeedsCare && ignoredUntil is null);
}
