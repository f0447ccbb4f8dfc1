using Cursus.Core.Addresses;

namespace Cursus.Core.Links;

/// <summary>What one level says of a link's options: a request for a link, a row, a post, a list, a short domain or the workspace. What is omitted
/// comes from the next wider level, or stays as it is.</summary>
public sealed record LinkOptionsPatch
{
    public QueryPassing? PassQuery { get; init; }

    public ReferrerPassing? Referrer { get; init; }

    public bool? HideFromSearch { get; init; }

    public bool? Nofollow { get; init; }

    public bool? Sponsored { get; init; }

    public bool? NewTab { get; init; }

    /// <summary>An empty string removes it.</summary>
    public string? TitleAttribute { get; init; }

    /// <summary>An empty string removes it.</summary>
    public string? AnchorText { get; init; }

    /// <summary>How many milliseconds to wait for ad networks; 800 is the usual wait.</summary>
    public int? HandoffDeadline { get; init; }

    /// <summary>What visitors read once the link has ended and no page stands in for its destination; an empty string removes it.</summary>
    public string? EndedText { get; init; }

    /// <summary>A level that has options says all of them.</summary>
    public static LinkOptionsPatch Of(LinkOptions options)
    {
        ArgumentNullException.ThrowIfNull(options);
        return new()
        {
            PassQuery = options.PassQuery,
            Referrer = options.Referrer,
            HideFromSearch = options.HideFromSearch,
            Nofollow = options.Nofollow,
            Sponsored = options.Sponsored,
            NewTab = options.NewTab,
            TitleAttribute = options.TitleAttribute ?? "",
            AnchorText = options.AnchorText ?? "",
            HandoffDeadline = options.HandoffDeadline ?? LinkOptions.UsualHandoffDeadline,
            EndedText = options.EndedText ?? "",
        };
    }

    /// <summary>What this says, and where it says nothing, what <paramref name="wider"/> does.</summary>
    public LinkOptionsPatch Or(LinkOptionsPatch? wider) =>
        wider is null
            ? this
            : new()
            {
                PassQuery = PassQuery ?? wider.PassQuery,
                Referrer = Referrer ?? wider.Referrer,
                HideFromSearch = HideFromSearch ?? wider.HideFromSearch,
                Nofollow = Nofollow ?? wider.Nofollow,
                Sponsored = Sponsored ?? wider.Sponsored,
                NewTab = NewTab ?? wider.NewTab,
                TitleAttribute = TitleAttribute ?? wider.TitleAttribute,
                AnchorText = AnchorText ?? wider.AnchorText,
                HandoffDeadline = HandoffDeadline ?? wider.HandoffDeadline,
                EndedText = EndedText ?? wider.EndedText,
            };

    /// <summary>The options of a link that had others before. Texts are trimmed.</summary>
    public LinkOptions Over(LinkOptions had)
    {
        ArgumentNullException.ThrowIfNull(had);
        return new()
        {
            PassQuery = PassQuery ?? had.PassQuery,
            Referrer = Referrer ?? had.Referrer,
            HideFromSearch = HideFromSearch ?? had.HideFromSearch,
            Nofollow = Nofollow ?? had.Nofollow,
            Sponsored = Sponsored ?? had.Sponsored,
            NewTab = NewTab ?? had.NewTab,
            TitleAttribute = Text(TitleAttribute, had.TitleAttribute),
            AnchorText = Text(AnchorText, had.AnchorText),

            // The usual deadline is stored as nothing, so that asking for it is the same as never having set it.
            HandoffDeadline = HandoffDeadline switch
            {
                null => had.HandoffDeadline,
                LinkOptions.UsualHandoffDeadline => null,
                { } deadline => (short)Math.Clamp(deadline, 0, LinkOptions.MaxHandoffDeadline),
            },
            EndedText = Text(EndedText, had.EndedText),
        };
    }

    private static string? Text(string? said, string? had) =>
        said is null ? had
        : said.Trim() is { Length: > 0 } text ? text
        : null;
}
