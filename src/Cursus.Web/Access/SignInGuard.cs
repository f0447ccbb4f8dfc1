using System.Net;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Text;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.DataProtection;

namespace Cursus.Web.Access;

/// <summary>
/// Slows down whoever guesses passwords, by what they try and where they try it from, without locking anybody out of their own browser: one that an
/// account has been signed in in before carries a mark and is counted by itself. All is by the address that was typed, whether or not there is such
/// an account.
/// </summary>
internal sealed class SignInGuard(IDataProtectionProvider protection) : IDisposable
{
    /// <summary>Wrong passwords for one address from one network, or from one marked browser.</summary>
    private const int FromOnePlace = 5;

    /// <summary>Wrong passwords for one address from all unmarked browsers.</summary>
    private const int FromAll = 50;

    private static readonly TimeSpan Window = TimeSpan.FromMinutes(5);
    private static readonly TimeSpan LongWindow = TimeSpan.FromHours(1);
    private static readonly TimeSpan MarkLife = TimeSpan.FromDays(180);

    private readonly ITimeLimitedDataProtector marks = protection.CreateProtector("Cursus.KnownBrowser").ToTimeLimitedDataProtector();
    private readonly PartitionedRateLimiter<string> places = Wrong(FromOnePlace, Window);
    private readonly PartitionedRateLimiter<string> all = Wrong(FromAll, LongWindow);

    /// <summary>The network an address belongs to as far as one person may own it: all of IPv4's, and of IPv6 the first 64 bits (RFC 6177 gives sites
    /// at least that much).</summary>
    public static string NetworkOf(IPAddress? address)
    {
        if (address is null)
        {
            return "";
        }

        address = address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address;
        return address.AddressFamily == AddressFamily.InterNetworkV6
            ? Convert.ToHexString(address.GetAddressBytes().AsSpan(0, 8))
            : address.ToString();
    }

    public void Dispose()
    {
        places.Dispose();
        all.Dispose();
    }

    /// <summary>Whether this address may be tried from this browser now.</summary>
    public bool MayTry(HttpContext context, string email)
    {
        var (place, isMarked) = PlaceOf(context, email);
        return HasRoom(places, place) && (isMarked || HasRoom(all, Hash(email)));
    }

    /// <summary>Counts a wrong password.</summary>
    public void WasWrong(HttpContext context, string email)
    {
        var (place, isMarked) = PlaceOf(context, email);
        places.AttemptAcquire(place).Dispose();
        if (!isMarked)
        {
            all.AttemptAcquire(Hash(email)).Dispose();
        }
    }

    /// <summary>Whether the account has been signed in in this browser before.</summary>
    public bool IsKnown(HttpContext context, string email) => PlaceOf(context, email).IsMarked;

    /// <summary>Marks the browser in which the account has been signed in.</summary>
    public void Mark(HttpContext context, string email) =>
        context.Response.Cookies.Append(
            AccessCookies.Of(context).KnownBrowser,
            marks.Protect($"{Hash(email)} {Guid.NewGuid():N}", MarkLife),
            new CookieOptions
            {
                HttpOnly = true,
                SameSite = SameSiteMode.Lax,
                MaxAge = MarkLife,
                Path = "/",
                Secure = AccessCookies.Of(context).IsSecure,
            }
        );

    private (string Place, bool IsMarked) PlaceOf(HttpContext context, string email)
    {
        if (context.Request.Cookies.TryGetValue(AccessCookies.Of(context).KnownBrowser, out var text))
        {
            try
            {
                if (marks.Unprotect(text!) is var mark && mark.StartsWith(Hash(email) + " ", StringComparison.Ordinal))
                {
                    return (mark, true);
                }
            }
            catch (CryptographicException)
            {
                // Forged, expired or of another installation: any browser.
            }
        }

        return ($"{Hash(email)} from {NetworkOf(context.Connection.RemoteIpAddress)}", false);
    }

    /// <summary>Addresses are typed in different ways; and of what isn't an account's nothing is kept as text.</summary>
    private static string Hash(string email) => Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(email.Trim().ToUpperInvariant())));

    private static bool HasRoom(PartitionedRateLimiter<string> limiter, string key)
    {
        using var lease = limiter.AttemptAcquire(key, 0);
        return lease.IsAcquired;
    }

    private static PartitionedRateLimiter<string> Wrong(int most, TimeSpan window) =>
        PartitionedRateLimiter.Create<string, string>(key =>
            RateLimitPartition.GetFixedWindowLimiter(key, _ => new() { PermitLimit = most, Window = window })
        );
}
