using Cursus.Core.Batches;
using Cursus.Web.Addresses;
using Cursus.Web.Posts;

namespace Cursus.Web.Batches;

/// <summary>How links are to be made from a list.</summary>
/// <param name="Columns">What each column says, in the list's order; null for one that says nothing. Read from the columns' names where left out.</param>
/// <param name="ForAll">What holds for lines that don't say it themselves.</param>
/// <param name="IsGoodOnly">Whether lines with something wrong are left out; otherwise nothing is saved while there are any.</param>
public sealed record BatchRequest(IReadOnlyList<ListField?>? Columns = null, BatchDefaults? ForAll = null, bool IsGoodOnly = false);

/// <param name="Campaign">Key of a campaign.</param>
/// <param name="Channels">Keys of channels: a line that names none makes a link for each.</param>
/// <param name="Domain">Short domain; the workspace's default where left out.</param>
/// <param name="Pixels">Ids of retargeting pixels of each link.</param>
/// <param name="SlugKind">How slugs are made for lines without one; random where left out.</param>
public sealed record BatchDefaults(
    string? Campaign = null, IReadOnlyList<string>? Channels = null, string? Domain = null, IReadOnlyList<string>? Tags = null, string? Folder = null,
    string? Note = null, int? Redirect = null, LinkWishes? Options = null, SlugKind? SlugKind = null,
    IReadOnlyList<Guid>? Pixels = null);
