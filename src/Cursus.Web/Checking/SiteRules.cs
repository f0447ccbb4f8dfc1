using System.Text;
using Cursus.Core;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Checking;
using Cursus.Web.Outgoing;
using Microsoft.Extensions.Caching.Memory;

namespace Cursus.Web.Checking;

/// <summary>What sites say in their robots.txt (RFC 9309). A site without one says nothing, and neither does one whose server fails at it: those who
/// crawl would leave it alone then (section 2.3.1.4), but whether it fails is what the link check has to find out.</summary>
internal sealed class SiteRules(OutgoingClient outgoing, IMemoryCache cache)
{
    public const string Token = "Cursus";

    private static readonly Asking Asking = new("Cursus/1.0 (link check; robots.txt)", TimeSpan.FromSeconds(5));
    private static readonly TimeSpan Kept = TimeSpan.FromHours(12);
    private static readonly TimeSpan KeptWhileAway = TimeSpan.FromMinutes(10);

    public static readonly ValidationError StayAway = new("page-robots", "The site asks programs to stay away from this page.");

    /// <summary>Why a page must not be asked; null where it may.</summary>
    public async Task<ValidationError?> Against(WebAddress address, CancellationToken cancel)
    {
        var rules = await Of(address, cancel);
        return rules.Allows(address.Path + (address.Query is { } query ? "?" + query : "")) ? null : StayAway;
    }

    private async Task<RobotsFile> Of(WebAddress address, CancellationToken cancel)
    {
        var site = address with { Path = "/robots.txt", Query = null, Fragment = null };
        var key = (nameof(SiteRules), site.ToString());
        if (cache.Get<RobotsFile>(key) is { } known)
        {
            return known;
        }

        var (rules, kept) = (RobotsFile.Open, Kept);
        try
        {
            var file = await outgoing.Get(site, "text/plain", Asking, cancel);
            rules = file.Status == 200 ? RobotsFile.Parse(Encoding.UTF8.GetString(file.Body), Token) : RobotsFile.Open;
        }
        catch (PageNotFetchedException)
        {
            // The page itself will show what is wrong with the site.
            kept = KeptWhileAway;
        }

        cache.Set(key, rules, kept);
        return rules;
    }
}
