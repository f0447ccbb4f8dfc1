using Cursus.Core.Addresses;
using Cursus.Core.Batches;
using Cursus.Web.Addresses;

namespace Cursus.Web.Batches;

/// <summary>How links are to be made from a list.</summary>
/// <param name="Columns">What each column says, in the list's order; null for one that says nothing. Read from the columns' names where left out.</param>
/// <param name="ForAll">What holds for lines that don't say it themselves.</param>
/// <param name="IsGoodOnly">Whether lines with something wrong are left out; otherwise nothing is saved while there are any.</param>
/// <param name="Choices">How the list is understood where it can't say it itself.</param>
public sealed record BatchRequest(
    IReadOnlyList<ListField?>? Columns = null, BatchDefaults? ForAll = null, bool IsGoodOnly = false, ListChoices? Choices = null);

/// <param name="Campaign">Key of a campaign.</param>
/// <param name="Channels">Keys of channels: a line that names none makes a link for each.</param>
/// <param name="Domain">Short domain; the workspace's default where left out.</param>
/// <param name="Pixels">Ids of retargeting pixels of each link.</param>
/// <param name="SlugKind">How slugs are made for lines without one; random where left out.</param>
public sealed record BatchDefaults(
    string? Campaign = null, IReadOnlyList<string>? Channels = null, string? Domain = null, IReadOnlyList<string>? Tags = null, string? Folder = null,
    string? Note = null, int? Redirect = null, LinkWishes? Options = null, SlugKind? SlugKind = null,
    IReadOnlyList<Guid>? Pixels = null);

/// <summary>What a list of another program can't say itself. Kept with the meaning of its columns for the next list with the same ones.</summary>
/// <param name="Taken">What is done with lines whose slug is taken; they are refused where left out.</param>
/// <param name="Groups">What groups become; folders where left out.</param>
/// <param name="DayOrder">Which number of days such as 3/4/2026 comes first, where the list's own days don't tell.</param>
/// <param name="Redirects">Redirect types by words that Cursus doesn't know.</param>
/// <param name="Domains">Short domains of this workspace by domains of the list that are none.</param>
public sealed record ListChoices(
    TakenSlug? Taken = null, GroupsBecome? Groups = null, DayOrder? DayOrder = null, IReadOnlyDictionary<string, int>? Redirects = null,
    IReadOnlyDictionary<string, string>? Domains = null);

/// <summary>What the groups of another program become.</summary>
public enum GroupsBecome
{
    Folders,
    Tags,
}
