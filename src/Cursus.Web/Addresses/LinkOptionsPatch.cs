using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Links;
using Cursus.Web.Problems;

namespace Cursus.Web.Addresses;

/// <summary>Options of a link in requests. What is omitted comes from the next level up: row, post, domain, workspace.</summary>
/// <param name="TitleAttribute">An empty string removes it.</param>
/// <param name="AnchorText">An empty string removes it.</param>
/// <param name="HandoffDeadline">How many milliseconds to wait for ad networks; 800 if omitted.</param>
public sealed record LinkOptionsPatch(
    QueryPassing? PassQuery = null,
    ReferrerPassing? Referrer = null,
    bool? HideFromSearch = null,
    bool? Nofollow = null,
    bool? Sponsored = null,
    bool? NewTab = null,
    string? TitleAttribute = null,
    string? AnchorText = null,
    int? HandoffDeadline = null
)
{
    /// <summary>What the request says, and <paramref name="given"/> where it says nothing.</summary>
    internal LinkOptions Over(LinkOptions given, FieldErrors errors, string field) =>
        LinkInheritance.Of(ReadLevel(errors, field), LinkLevel.Of(redirect: null, given)).Options;

    /// <summary>What the request says, as a level from which links inherit.</summary>
    internal LinkLevel ReadLevel(FieldErrors errors, string field) =>
        new()
        {
            PassQuery = PassQuery,
            Referrer = Referrer,
            HideFromSearch = HideFromSearch,
            Nofollow = Nofollow,
            Sponsored = Sponsored,
            NewTab = NewTab,
            TitleAttribute = Text(TitleAttribute, errors, $"{field}.titleAttribute"),
            AnchorText = Text(AnchorText, errors, $"{field}.anchorText"),
            HandoffDeadline = Deadline(errors, $"{field}.handoffDeadline"),
        };

    private short? Deadline(FieldErrors errors, string field)
    {
        if (HandoffDeadline is < 0 or > LinkOptions.MaxHandoffDeadline)
        {
            errors.Add(field, new ValidationError("handoff-deadline", $"Enter a wait of 0 to {LinkOptions.MaxHandoffDeadline:N0} milliseconds."));
            return null;
        }

        return (short?)HandoffDeadline;
    }

    private static string? Text(string? text, FieldErrors errors, string field)
    {
        if (text?.Trim().Length > LinkOptions.MaxText)
        {
            errors.Add(field, new ValidationError("option-too-long", $"This text has more than {LinkOptions.MaxText} characters. Shorten it."));
        }

        return text?.Trim();
    }
}
