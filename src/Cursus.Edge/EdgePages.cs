using System.Net;
using System.Text;

namespace Cursus.Edge;

/// <summary>The few small pages that a short domain shows itself.</summary>
internal static class EdgePages
{
    public static readonly byte[] UnknownSlug = Page(
        "This link doesn’t exist",
        "The address may be mistyped. Check it, or ask whoever gave it to you."
    );

    public static readonly byte[] BareDomain = Page("A short domain", "This is a domain for short links. To use one, add the part after the slash.");

    public static readonly byte[] Ended = Page(HasEnded, "It no longer works. Ask whoever shared it for the page you are looking for.");

    private static readonly byte[] Closed = Page(IsClosed, "Ask whoever shared the link for the page you are looking for.");

    public static readonly byte[] Scheduled = Page("This link isn’t open yet", "You’re early. Come back a little later.");

    public static readonly byte[] Starting = Page("One moment", "This short domain is starting up. Try again in a few seconds.");

    /// <summary>A transparent picture of one dot, the smallest GIF there is.</summary>
    public static readonly byte[] Picture = Convert.FromBase64String("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7");

    private const string IsClosed = "This isn’t available here";

    private const string HasEnded = "This link has ended";

    /// <summary>Lets the page in between run its own one script and nothing else.</summary>
    public const string OnwardSecurity =
        "default-src 'none'; script-src 'sha256-51Zd7VuTFDr1lLbcLWgBPh/84t+FEDEOZUgU6z1Y+IA='; base-uri 'none'; form-action 'none'; frame-ancestors 'none'";

    /// <summary>Reads the address from the page, so that the script is the same for all links and its hash can be stated.</summary>
    private const string OnwardScript = "location.replace(document.querySelector('a').href)";

    /// <summary>A page that leads on without a referrer; without scripts by a refresh, without either by its link.</summary>
    public static byte[] Onward(string location)
    {
        var address = WebUtility.HtmlEncode(location);
        return Encoding.UTF8.GetBytes(
            $"""
            <!doctype html><html lang="en"><meta charset="utf-8"><meta name="robots" content="noindex"><meta name="referrer" content="no-referrer">
            <title>Leading on</title><noscript><meta http-equiv="refresh" content="0;url={address}"></noscript>
            <a rel="noreferrer" href="{address}">Continue</a><script>{OnwardScript}</script></html>
            """
        );
    }

    /// <summary>Says that a link has ended in its own words.</summary>
    public static byte[] EndedWith(string text) => Page(HasEnded, text);

    /// <summary>Says to some visitors that what others get is closed to them.</summary>
    /// <param name="text">In words of the link's own; null for the usual ones.</param>
    public static byte[] ClosedWith(string? text) => text is null ? Closed : Page(IsClosed, text);

    private static byte[] Page(string heading, string text) =>
        Encoding.UTF8.GetBytes(
            $$$"""
            <!doctype html>
            <html lang="en">
            <meta charset="utf-8">
            <meta name="viewport" content="width=device-width">
            <meta name="robots" content="noindex">
            <title>{{{WebUtility.HtmlEncode(heading)}}}</title>
            <style>
            :root{color-scheme:light dark;--paper:#f7f4ee;--ink:#231b22;--soft:#6b6068;--plum:#6e2a5b}
            @media(prefers-color-scheme:dark){:root{--paper:#191419;--ink:#efe8e4;--soft:#b3a8ae;--plum:#d59cc3}}
            body{margin:0;min-height:100vh;display:grid;place-items:center;background:var(--paper);color:var(--ink);font:17px/1.5 system-ui,sans-serif}
            main{max-width:26rem;padding:2rem}h1{font-size:1.6rem;letter-spacing:-.01em;margin:.6rem 0}p{color:var(--soft);margin:0;white-space:pre-line}
            </style>
            <main>
            <svg width="56" height="34" viewBox="0 0 56 34" fill="none" stroke="var(--plum)" stroke-width="4" stroke-linecap="round" aria-hidden="true">
            <path d="M4 28h10c10 0 10-20 20-20h4"/><path d="M44 8h2M51 8h1" stroke-dasharray="2 5"/><circle cx="4" cy="28" r="2.5" fill="var(--plum)"/></svg>
            <h1>{{{WebUtility.HtmlEncode(heading)}}}</h1>
            <p dir="auto">{{{WebUtility.HtmlEncode(text)}}}</p>
            </main>
            </html>
            """
        );
}
