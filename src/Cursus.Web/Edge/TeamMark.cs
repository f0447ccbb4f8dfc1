using Cursus.Web.Hosting;
using Microsoft.AspNetCore.DataProtection;

namespace Cursus.Web.Edge;

/// <summary>
/// Tells the team's own browsers on a short domain, where the application's sign-in cookie is not sent: by a cookie set there after sign-in,
/// or by a short-lived pass in the address of a test-open, which sets that cookie as well.
/// </summary>
public sealed class TeamMark(IDataProtectionProvider protection)
{
    /// <summary>Path on each short domain that sets the mark.</summary>
    public const string Path = "/.well-known/cursus-team";

    /// <summary>Query parameter of a test-open; never passed on.</summary>
    public const string PassParameter = "cursus-pass";

    private const string CookieName = "cursus-team";

    private static readonly TimeSpan CookieLife = TimeSpan.FromDays(180);

    private readonly ITimeLimitedDataProtector pass = protection.CreateProtector("Cursus.TeamPass").ToTimeLimitedDataProtector();
    private readonly ITimeLimitedDataProtector mark = protection.CreateProtector("Cursus.TeamMark").ToTimeLimitedDataProtector();

    /// <summary>Address of a one-pixel picture that marks the browser which loads it, for ten minutes from now.</summary>
    public string PictureUrl(CursusOptions options, string domain, Guid workspaceId) => options.ShortUrl(domain, Path[1..]) + "?pass=" + MakePass(workspaceId);

    /// <summary>A short address that opens without being counted, for ten minutes from now.</summary>
    public string OpeningUrl(string shortUrl, Guid workspaceId) => $"{shortUrl}?{PassParameter}={MakePass(workspaceId)}";

    public bool IsPass(string? text, Guid workspaceId) => Holds(pass, text, workspaceId);

    /// <summary>Whether this browser has been marked for the workspace that owns the short domain.</summary>
    public bool IsOn(HttpRequest request, Guid workspaceId) =>
        request.Headers.Cookie.Count > 0 && request.Cookies.TryGetValue(CookieName, out var text) && Holds(mark, text, workspaceId);

    public void SetOn(HttpContext context, Guid workspaceId)
    {
        // The picture is loaded from the application's own page, another site; browsers send and keep such a cookie only as None and Secure,
        // which they allow on localhost without TLS.
        var isSecure = context.Request.IsHttps || context.Request.Host.Host.EndsWith("localhost", StringComparison.Ordinal);
        context.Response.Cookies.Append(CookieName, mark.Protect(workspaceId.ToString("N"), CookieLife), new CookieOptions
        {
            HttpOnly = true,
            Secure = isSecure,
            SameSite = isSecure ? SameSiteMode.None : SameSiteMode.Lax,
            MaxAge = CookieLife,
            Path = "/",
        });
    }

    private string MakePass(Guid workspaceId) => pass.Protect(workspaceId.ToString("N"), TimeSpan.FromMinutes(10));

    private static bool Holds(ITimeLimitedDataProtector protector, string? text, Guid workspaceId)
    {
        if (string.IsNullOrEmpty(text))
        {
            return false;
        }

        try
        {
            return protector.Unprotect(text) == workspaceId.ToString("N");
        }
        catch (System.Security.Cryptography.CryptographicException)
        {
            // Forged, expired or of another installation: an ordinary visitor.
            return false;
        }
    }
}
