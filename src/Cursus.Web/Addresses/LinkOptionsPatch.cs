using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Retargeting;
using Cursus.Web.Problems;

namespace Cursus.Web.Addresses;

/// <summary>Options of a link in requests. What is omitted comes from the next level up: row, post, domain, workspace.</summary>
/// <param name="TitleAttribute">An empty string removes it.</param>
/// <param name="AnchorText">An empty string removes it.</param>
/// <param name="HandoffDeadline">How many milliseconds to wait for ad networks; 800 if omitted.</param>
public sealed record LinkOptionsPatch(
    QueryPassing? PassQuery = null, ReferrerPassing? Referrer = null, bool? HideFromSearch = null, bool? Nofollow = null, bool? Sponsored = null,
    bool? NewTab = null, string? TitleAttribute = null, string? AnchorText = null, int? HandoffDeadline = null)
{
    /// <summary>What the request says, and <paramref name="given"/> where it says nothing.</summary>
    internal LinkOptions Over(LinkOptions given, FieldErrors errors, string field) => new()
    {
        PassQuery = PassQuery ?? given.PassQuery,
        Referrer = Referrer ?? given.Referrer,
        HideFromSearch = HideFromSearch ?? given.HideFromSearch,
        Nofollow = Nofollow ?? given.Nofollow,
        Sponsored = Sponsored ?? given.Sponsored,
        NewTab = NewTab ?? given.NewTab,
        TitleAttribute = Text(TitleAttribute, given.TitleAttribute, errors, $"{field}.titleAttribute"),
        AnchorText = Text(AnchorText, given.AnchorText, errors, $"{field}.anchorText"),
        HandoffDeadline = Deadline(given.HandoffDeadline, errors, $"{field}.handoffDeadline"),
    };

    private short? Deadline(short? given, FieldErrors errors, string field)
    {
        if (HandoffDeadline is < 0 or > HandoffPage.MaxDeadline)
        {
            errors.Add(field, new ValidationError("handoff-deadline", $"Enter a wait of 0 to {HandoffPage.MaxDeadline:N0} milliseconds."));
            return given;
        }

        // The default is stored as nothing, so that asking for it is the same as never having set it.
        return HandoffDeadline is HandoffPage.DefaultDeadline ? null : (short?)HandoffDeadline ?? given;
    }

    private static string? Text(string? text, string? given, FieldErrors errors, string field)
    {
        if (text is null)
        {
            return given;
        }

        if (text.Trim().Length > LinkOptions.MaxText)
        {
            errors.Add(field, new ValidationError("option-too-long", $"This text has more than {LinkOptions.MaxText} characters. Shorten it."));
        }

        return text.Trim() is { Length: > 0 } trimmed ? trimmed : null;
    }
}
