using Cursus.Core.Addresses;
using Cursus.Core.Clicks.Requests;

namespace Cursus.Core.Posts;

/// <summary>Source and medium that Cursus proposes for a channel, from what was typed as its name.</summary>
/// <param name="Source">The <c>utm_source</c>: the network’s name, or the typed one, in lower case with hyphens. Empty if it has no letters or
/// digits.</param>
/// <param name="Medium">The <c>utm_medium</c> that suits the kind of site (common practice, no source).</param>
/// <param name="Network">The known network’s name; null if it isn't one.</param>
public sealed record ChannelProposal(string Source, string Medium, string? Network)
{
    private const int MaxSource = 40;

    /// <param name="typed">A name such as “Night Letter”, a network’s name, or its host or address.</param>
    public static ChannelProposal Of(string typed)
    {
        ArgumentNullException.ThrowIfNull(typed);
        var site = ReferrerHost.OfTyped(typed) is { } host ? ReferrerSite.Of(host) : null;
        var network = site is null or { Kind: SiteKind.Other } ? ReferrerSite.OfNetwork(typed.Trim()) : site;
        return network is null
            ? new ChannelProposal(AsciiWords.Hyphenated(typed, MaxSource), MediumOf(typed), null)
            : new ChannelProposal(AsciiWords.Hyphenated(network.Network, MaxSource), MediumOf(network.Kind), network.Network);
    }

    private static string MediumOf(SiteKind kind) =>
        kind switch
        {
            SiteKind.Search => "cpc",
            SiteKind.Mail => "email",
            SiteKind.Video => "video",
            SiteKind.Messenger => "messenger",
            _ => "social",
        };

    /// <summary>By the words of names that are no network’s, such as “Newsletter” or “Poster at the bus stop”.</summary>
    private static string MediumOf(string name)
    {
        var words = AsciiWords.Of(name);
        bool Has(params string[] any) => words.Any(any.Contains);
        return Has("newsletter", "letter", "email", "mail", "mailing") ? "email"
            : Has("text", "sms") ? "sms"
            : Has("poster", "flyer", "leaflet", "print", "brochure", "magazine") ? "print"
            : Has("video", "videos", "film") ? "video"
            : Has("partner", "blog", "press") ? "referral"
            : Has("advert", "adverts", "ads", "advertising") ? "cpc"
            : "social";
    }
}
