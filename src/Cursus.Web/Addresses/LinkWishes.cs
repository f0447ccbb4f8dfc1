using Cursus.Core;
using Cursus.Core.Addresses;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Cursus.Data.Addresses;
using Cursus.Data.Links;
using Cursus.Web.Problems;

namespace Cursus.Web.Addresses;

/// <summary>Options of a link in requests. What is omitted comes from the next level up: row, post, domain, workspace.</summary>
/// <param name="TitleAttribute">An empty string removes it.</param>
/// <param name="AnchorText">An empty string removes it.</param>
/// <param name="HandoffDeadline">How many milliseconds to wait for ad networks; 800 if omitted.</param>
public sealed record LinkWishes(
    QueryPassing? PassQuery = null, ReferrerPassing? Referrer = null, bool? HideFromSearch = null, bool? Nofollow = null, bool? Sponsored = null,
    bool? NewTab = null, string? TitleAttribute = null, string? AnchorText = null, int? HandoffDeadline = null)
{
    /// <summary>These wishes where they are made, else what <paramref name="given"/> says.</summary>
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

        // The usual needs no saying, so that who wishes for it is back at what was never set.
        return HandoffDeadline is HandoffPage.DefaultDeadline ? null : (short?)HandoffDeadline ?? given;
    }

    private static string? Text(string? wish, string? given, FieldErrors errors, string field)
    {
        if (wish is null)
        {
            return given;
        }

        if (wish.Trim().Length > LinkOptions.MaxText)
        {
            errors.Add(field, new ValidationError("option-too-long", $"This text has more than {LinkOptions.MaxText} characters. Shorten it."));
        }

        return wish.Trim() is { Length: > 0 } text ? text : null;
    }
}

/// <summary>What a link is given beside address and tags.</summary>
/// <param name="Redirect">HTTP status of its answers.</param>
internal sealed record LinkManner(short Redirect, LinkOptions Options, string? Note, Folder? Folder, LinkSchedule Span)
{
    public const int MaxNote = 1000;

    public static LinkManner Read(
        int? redirect, LinkWishes? wishes, string? note, string? folder, string? opensAt, string? endsAt, ShortDomain? domain, Vocabulary vocabulary, FieldErrors errors, string prefix = "") => new(
        Vocabulary.ReadRedirect(redirect, domain?.Redirect ?? vocabulary.Redirect, errors, prefix + "redirect"),
        (wishes ?? new LinkWishes()).Over(domain is { HasOwnOptions: true } ? domain.Options : vocabulary.Options, errors, prefix + "options"),
        ReadNote(note, errors, prefix + "note"),
        vocabulary.Folder(folder, errors, prefix + "folder"),
        vocabulary.Span(opensAt, endsAt, LinkSchedule.Always, errors, prefix));

    public static string? ReadNote(string? note, FieldErrors errors, string field)
    {
        if (note?.Trim().Length > MaxNote)
        {
            errors.Add(field, new ValidationError("note-too-long", $"A note has at most {MaxNote:N0} characters. Shorten it."));
        }

        return note?.Trim() is { Length: > 0 } text ? text : null;
    }
}
