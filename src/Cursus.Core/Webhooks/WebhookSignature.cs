using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Cursus.Core.Webhooks;

/// <summary>Signs what webhooks are sent, so that receivers know that it comes from here and when: HMAC-SHA-256 (RFC 2104, FIPS 180-4) with the
/// webhook's secret over the time in seconds since 1970, a full stop, and the body.</summary>
public static class WebhookSignature
{
    /// <summary>The signature in small hexadecimal digits.</summary>
    /// <param name="secret">As it was shown when the webhook was created.</param>
    /// <param name="time">Seconds since 1970, as in the header <c>Cursus-Time</c>.</param>
    /// <param name="body">The body as it is sent, byte for byte.</param>
    public static string Of(string secret, long time, string body) =>
        Convert.ToHexStringLower(
            HMACSHA256.HashData(Encoding.UTF8.GetBytes(secret), Encoding.UTF8.GetBytes(string.Create(CultureInfo.InvariantCulture, $"{time}.{body}")))
        );
}
