using System.Globalization;
using System.Security.Cryptography;

namespace Cursus.Edge.Routing;

/// <summary>Keeps a visitor of a split on one page for thirty days: a random number in a cookie of the short domain, only on links that ask for it.
/// It tells visitors apart for nothing else and is written down nowhere.</summary>
internal static class VisitorCookie
{
    private const string Name = "cursus-visitor";

    private static readonly TimeSpan Kept = TimeSpan.FromDays(30);

    /// <summary>The visitor's key; a new one, which is set, where none came along.</summary>
    public static long Of(Exchange exchange, bool isSecure)
    {
        var context = exchange.ToHttpContext();
        if (long.TryParse(context.Request.Cookies[Name], NumberStyles.AllowHexSpecifier, CultureInfo.InvariantCulture, out var known))
        {
            return known;
        }

        var key = BitConverter.ToInt64(RandomNumberGenerator.GetBytes(sizeof(long)));
        context.Response.Cookies.Append(
            Name,
            key.ToString("x16", CultureInfo.InvariantCulture),
            new CookieOptions
            {
                HttpOnly = true,
                Secure = isSecure,
                SameSite = SameSiteMode.Lax,
                MaxAge = Kept,
                Path = "/",
            }
        );
        return key;
    }
}
