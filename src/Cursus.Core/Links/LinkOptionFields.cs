using System.Globalization;
using Cursus.Core.Addresses;

namespace Cursus.Core.Links;

/// <summary>All options of a link, in the order of forms and files.</summary>
public static class LinkOptionFields
{
    public static IReadOnlyList<LinkOptionField> All { get; } =
    [
        LinkOptionField.Choice(
            LinkField.PassQuery,
            "Parameters in the visitor’s address",
            "Visitors’ parameters",
            o => o.PassQuery,
            p => p.PassQuery,
            v => new() { PassQuery = v },
            (QueryPassing.Off, "Ignore them", null),
            (QueryPassing.LinkWins, "Pass on; the link’s own win", "the link’s own win"),
            (QueryPassing.VisitorWins, "Pass on; the visitor’s win", "the visitor’s win")
        ),
        LinkOptionField.Choice(
            LinkField.Referrer,
            "Referrer",
            "Referrer",
            o => o.Referrer,
            p => p.Referrer,
            v => new() { Referrer = v },
            (ReferrerPassing.Keep, "Send as usual", null),
            (ReferrerPassing.Hide, "Hide", "hidden"),
            (ReferrerPassing.HideByPage, "Hide, through a page", "hidden by a page")
        ),
        LinkOptionField.Switch(
            LinkField.HideFromSearch,
            "Hide from search engines",
            "Hidden from search engines",
            o => o.HideFromSearch,
            p => p.HideFromSearch,
            v => new() { HideFromSearch = v }
        ),
        LinkOptionField.Switch(LinkField.Nofollow, "HTML: nofollow", "HTML: nofollow", o => o.Nofollow, p => p.Nofollow, v => new() { Nofollow = v }),
        LinkOptionField.Switch(
            LinkField.Sponsored,
            "HTML: sponsored",
            "HTML: sponsored",
            o => o.Sponsored,
            p => p.Sponsored,
            v => new() { Sponsored = v }
        ),
        LinkOptionField.Switch(LinkField.NewTab, "HTML: open in a new tab", "HTML: new tab", o => o.NewTab, p => p.NewTab, v => new() { NewTab = v }),
        LinkOptionField.Text(
            LinkField.TitleAttribute,
            "Title attribute in HTML",
            "Title attribute",
            "none",
            o => o.TitleAttribute,
            p => p.TitleAttribute,
            v => new() { TitleAttribute = v }
        ),
        LinkOptionField.Text(
            LinkField.AnchorText,
            "Text of the link in HTML",
            "Text in HTML",
            "the title",
            o => o.AnchorText,
            p => p.AnchorText,
            v => new() { AnchorText = v }
        ),
        LinkOptionField.Number(
            LinkField.HandoffDeadline,
            "Wait for ad networks, milliseconds",
            "Wait for ad networks",
            "ms",
            LinkOptions.UsualHandoffDeadline,
            LinkOptions.MaxHandoffDeadline,
            o => o.HandoffDeadline,
            p => p.HandoffDeadline,
            v => new() { HandoffDeadline = v },
            new ValidationError(
                "handoff-deadline",
                string.Create(CultureInfo.InvariantCulture, $"Enter a wait of 0 to {LinkOptions.MaxHandoffDeadline:N0} milliseconds.")
            ),
            $"Default {LinkOptions.UsualHandoffDeadline}; visitors continue as soon as all have answered"
        ),
        LinkOptionField.Text(
            LinkField.EndedText,
            "Text once it has ended",
            "Text after the end",
            "It no longer works.",
            o => o.EndedText,
            p => p.EndedText,
            v => new() { EndedText = v },
            LinkOptionSection.Visit,
            LinkOptions.MaxEndedText,
            "For visitors who come after the end, where there is no fallback"
        ),
    ];

    /// <summary>The options that a patch says anything of.</summary>
    public static IEnumerable<LinkOptionField> In(LinkOptionsPatch patch) => All.Where(o => o.IsIn(patch));

    /// <summary>What is wrong with what a request says of options, by their keys.</summary>
    public static IEnumerable<(string Key, ValidationError Error)> Errors(LinkOptionsPatch patch) =>
        from field in All
        let error = field.Check(patch)
        where error is not null
        select (field.Key, error);
}
