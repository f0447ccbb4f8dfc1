using Cursus.Core.Addresses;
using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Checking;

/// <summary>Where visitors go while the page that their link leads to is dead, and before the link opens and after it has ended.</summary>
public static class FallbackDestination
{
    /// <summary>The fallback, counted like the page it stands for: with the UTM values of the link's finished address.</summary>
    /// <param name="fallback">A destination that was found good when it was saved.</param>
    /// <param name="finished">The link's finished address.</param>
    public static string For(string fallback, string finished)
    {
        var page = Destination.Of(fallback);
        var tags = WebAddress.Parse(finished, @base: null, out _) is { } address ? UtmTags.In(address) : new Dictionary<TagField, TagValue>();
        return
            tags.TryGetValue(TagField.Source, out var source)
            && tags.TryGetValue(TagField.Medium, out var medium)
            && tags.TryGetValue(TagField.Campaign, out var campaign)
            ? page.With(new UtmTags(source, medium, campaign, tags.GetValueOrDefault(TagField.Term), tags.GetValueOrDefault(TagField.Content)))
                .ToString()
            : page.Address.ToString();
    }

    /// <summary>The redirect type that stands for a link's own while it leads elsewhere: never one for good (RFC 9110, section 15.4).</summary>
    public static short Redirect(short ofLink) =>
        ofLink switch
        {
            301 => 302,
            308 => 307,
            _ => ofLink,
        };
}
