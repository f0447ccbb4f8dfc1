using Cursus.Core.Addresses.Slugs;
using Cursus.Core.Batches;
using Cursus.Core.Links;

namespace Cursus.Web.Batches;

/// <summary>How to create links from a list.</summary>
/// <param name="Columns">What each column means, in order; null for one to ignore. If omitted, it is read from the column names.</param>
/// <param name="ForAll">Defaults for lines without their own value.</param>
/// <param name="IsGoodOnly">Whether to leave out invalid lines; otherwise nothing is saved while there are any.</param>
/// <param name="Choices">How to read what the list leaves open.</param>
public sealed record BatchRequest(
    IReadOnlyList<ListField?>? Columns = null,
    BatchDefaults? ForAll = null,
    bool IsGoodOnly = false,
    ListChoices? Choices = null
);

/// <param name="Campaign">Key of a campaign.</param>
/// <param name="Channels">Keys of channels: a line that names none creates a link for each.</param>
/// <param name="Domain">Short domain; the workspace's default if omitted.</param>
/// <param name="Pixels">Ids of retargeting pixels of each link.</param>
/// <param name="SlugKind">How slugs are generated for lines without one; random if omitted.</param>
public sealed record BatchDefaults(
    string? Campaign = null,
    IReadOnlyList<string>? Channels = null,
    string? Domain = null,
    IReadOnlyList<string>? Tags = null,
    string? Folder = null,
    string? Note = null,
    int? Redirect = null,
    LinkOptionsPatch? Options = null,
    SlugKind? SlugKind = null,
    IReadOnlyList<Guid>? Pixels = null
);

/// <summary>What a list from another program leaves open. Remembered, with the meaning of its columns, for the next list with the same
/// columns.</summary>
/// <param name="Taken">What to do with lines whose slug is taken; refused if omitted.</param>
/// <param name="Groups">What groups become; folders if omitted.</param>
/// <param name="DayOrder">Whether the day or the month comes first in dates such as 3/4/2026, if the list itself doesn't show it.</param>
/// <param name="Redirects">Redirect types for words that Cursus doesn't know.</param>
/// <param name="Domains">Which of this workspace's short domains to use for each unknown domain in the list.</param>
public sealed record ListChoices(
    TakenSlug? Taken = null,
    GroupsBecome? Groups = null,
    DayOrder? DayOrder = null,
    IReadOnlyDictionary<string, int>? Redirects = null,
    IReadOnlyDictionary<string, string>? Domains = null
);

/// <summary>What the groups of another program become.</summary>
public enum GroupsBecome
{
    Folders,
    Tags,
}
