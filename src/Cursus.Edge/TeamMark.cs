using System.Security.Cryptography;
using Cursus.Core.Addresses;
using Cursus.Core.Links;
using Cursus.Data.Schema;
using Microsoft.AspNetCore.DataProtection;

namespace Cursus.Edge;

/// <summary>
/// Tells the team's own browsers on a short domain, where the application's sign-in cookie is not sent. After sign-in the browser is led once over
/// each short domain, which sets a cookie of its own there; a test-open carries the same pass in its address. Only a visit in the address bar
/// can set such a cookie everywhere: browsers keep cookies that other sites' pages bring along from being stored.
/// </summary>
public sealed class TeamMark(IDataProtectionProvider protection, EdgeOptions options, Prepared prepared)
{
    /// <summary>Path on each short domain: with a pass it sets the mark and leads back; without, it is a picture of one pixel that shows the domain
    /// to be reachable.</summary>
    public const string Path = ".well-known/cursus-team";

    /// <summary>Query parameter that carries a pass; never passed on.</summary>
    public const string PassParameter = "cursus-pass";

    private const string CookieName = "cursus-team";

    private static readonly TimeSpan PassLife = TimeSpan.FromMinutes(10);
    private static readonly TimeSpan CookieLife = TimeSpan.FromDays(180);

    private readonly ITimeLimitedDataProtector pass = protection.CreateProtector("Cursus.TeamPass").ToTimeLimitedDataProtector();
    private readonly ITimeLimitedDataProtector mark = protection.CreateProtector("Cursus.TeamMark").ToTimeLimitedDataProtector();

    /// <summary>Address on <paramref name="domain"/> that marks the browser and leads it back to <paramref name="returnTo"/>, for ten minutes from
    /// now.</summary>
    public string IntroductionUrl(string domain, Guid workspaceId, string returnTo) =>
        $"{options.ShortUrl(domain, Path)}?{PassParameter}={pass.Protect($"{workspaceId:N}{returnTo}", PassLife)}";

    /// <summary>A short address that opens without being counted, for ten minutes from now.</summary>
    public string OpeningUrl(string shortUrl, Guid workspaceId) => $"{shortUrl}?{PassParameter}={pass.Protect($"{workspaceId:N}", PassLife)}";

    /// <summary>Reads the request's pass for the workspace that owns the short domain: where it leads back to (empty for a test-open), or null where
    /// there is no valid one.</summary>
    public string? ReadPass(HttpRequest request, Guid workspaceId) =>
        request.QueryString.HasValue
        && Open(pass, request.Query[PassParameter]) is { } content
        && content.StartsWith($"{workspaceId:N}", StringComparison.Ordinal)
            ? content[32..]
            : null;

    /// <summary>Where a visitor is led; a pass in their query goes no further.</summary>
    public static string Location(in LinkDecision decision, string query) =>
        decision.AddressWith(
            decision.PassQuery == QueryPassing.Off || query.Length == 0
                ? ""
                : string.Join('&', query.TrimStart('?').Split('&').Where(p => !p.StartsWith(PassParameter + "=", StringComparison.Ordinal)))
        );

    /// <summary>Whether this browser has been marked for the workspace that owns the short domain.</summary>
    public bool IsOn(HttpRequest request, Guid workspaceId) =>
        request.Headers.Cookie.Count > 0 && request.Cookies.TryGetValue(CookieName, out var text) && Open(mark, text) == $"{workspaceId:N}";

    /// <summary>The same of a request as the web server holds it; nothing is made for one without cookies.</summary>
    internal bool IsOn(Exchange exchange, Guid workspaceId) =>
        exchange.Request.Headers.Cookie.Count > 0 && IsOn(exchange.ToHttpContext().Request, workspaceId);

    public void SetOn(HttpContext context, Guid workspaceId) =>
        context.Response.Cookies.Append(
            CookieName,
            mark.Protect($"{workspaceId:N}", CookieLife),
            new CookieOptions
            {
                HttpOnly = true,
                Secure = options.PublicScheme == "https",
                SameSite = SameSiteMode.Lax,
                MaxAge = CookieLife,
                Path = "/",
            }
        );

    private string? Open(ITimeLimitedDataProtector protector, string? text)
    {
        try
        {
            // The keys are in the database, and no visitor waits for that.
            return string.IsNullOrEmpty(text) || !prepared.IsDone ? null : protector.Unprotect(text);
        }
        catch (CryptographicException)
        {
            // Forged, expired or of another installation: an ordinary visitor.
            return null;
        }
    }
}
