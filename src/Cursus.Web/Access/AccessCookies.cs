using System.Security.Claims;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;

namespace Cursus.Web.Access;

/// <summary>The names of the application's cookies. Where members reach it by HTTPS their names begin with <c>__Host-</c>, by which browsers take
/// them from this very host alone and over HTTPS alone (RFC 6265bis, section 4.1.3.2).</summary>
internal sealed class AccessCookies(CursusOptions options)
{
    public bool IsSecure { get; } = options.AppAddress?.StartsWith("https://", StringComparison.OrdinalIgnoreCase) == true;

    public string Session => Name("cursus-session");

    public string Csrf => Name("cursus-csrf");

    public string KnownBrowser => Name("cursus-browser");

    public string Passkey => Name("cursus-passkey");

    public CookieSecurePolicy SecurePolicy => IsSecure ? CookieSecurePolicy.Always : CookieSecurePolicy.SameAsRequest;

    /// <summary>The <see cref="SignIn"/> that a request's cookie names; null where it has none.</summary>
    public static Guid? SignInOf(HttpContext context) => Guid.TryParse(context.User.FindFirstValue(AccessSetup.SignInClaim), out var id) ? id : null;

    public static AccessCookies Of(HttpContext context) => context.RequestServices.GetRequiredService<AccessCookies>();

    private string Name(string name) => IsSecure ? "__Host-" + name : name;
}
