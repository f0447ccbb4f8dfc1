using Cursus.Core.Addresses;

namespace Cursus.Core.Links;

/// <summary>
/// What one level says about how its links are answered: a row of a request, a post, a campaign, a short domain, a workspace. What is null is
/// left to the next wider level.
/// </summary>
public sealed record LinkLevel
{
    /// <summary>Leaves everything to the next level.</summary>
    public static readonly LinkLevel Silent = new();

    public short? Redirect { get; init; }

    public QueryPassing? PassQuery { get; init; }

    public ReferrerPassing? Referrer { get; init; }

    public bool? HideFromSearch { get; init; }

    public bool? Nofollow { get; init; }

    public bool? Sponsored { get; init; }

    public bool? NewTab { get; init; }

    /// <summary>Empty for none.</summary>
    public string? TitleAttribute { get; init; }

    /// <summary>Empty for none.</summary>
    public string? AnchorText { get; init; }

    /// <summary><see cref="LinkOptions.UsualHandoffDeadline"/> for the usual one.</summary>
    public short? HandoffDeadline { get; init; }

    /// <summary>A level that has options says all of them.</summary>
    /// <param name="options">Null where it has none of its own.</param>
    public static LinkLevel Of(short? redirect, LinkOptions? options) =>
        new()
        {
            Redirect = redirect,
            PassQuery = options?.PassQuery,
            Referrer = options?.Referrer,
            HideFromSearch = options?.HideFromSearch,
            Nofollow = options?.Nofollow,
            Sponsored = options?.Sponsored,
            NewTab = options?.NewTab,
            TitleAttribute = options is null ? null : options.TitleAttribute ?? "",
            AnchorText = options is null ? null : options.AnchorText ?? "",
            HandoffDeadline = options is null ? null : options.HandoffDeadline ?? LinkOptions.UsualHandoffDeadline,
        };
}
