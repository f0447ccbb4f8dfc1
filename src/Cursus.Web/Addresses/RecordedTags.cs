using Cursus.Core.Addresses.Tagging;
using Cursus.Data.Links;

namespace Cursus.Web.Addresses;

/// <summary>The UTM values that were recorded for a link, before merged ones are replaced.</summary>
internal static class RecordedTags
{
    /// <param name="campaign">Key of its campaign.</param>
    /// <returns>Null where the link is counted under nothing.</returns>
    public static UtmTags? Of(Link link, string? campaign) =>
        link is { Source: { } source, Medium: { } medium } && campaign is not null
            ? new UtmTags(TagValue.Of(source), TagValue.Of(medium), TagValue.Of(campaign), Optional(link.Term), Optional(link.Content))
            : null;

    private static TagValue? Optional(string? text) => text is null ? null : TagValue.Of(text);
}
