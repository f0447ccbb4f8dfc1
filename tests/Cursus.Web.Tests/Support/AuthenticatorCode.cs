using System.Buffers.Binary;
using System.Globalization;
using System.Security.Cryptography;

namespace Cursus.Web.Tests.Support;

/// <summary>What an authenticator app on a phone shows, by RFC 6238 (30 seconds, HMAC-SHA-1, six digits).</summary>
public static class AuthenticatorCode
{
    private const string Base32 = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";

    /// <param name="key">The secret in base 32 (RFC 4648), with or without spaces.</param>
    /// <param name="steps">So many steps of 30 seconds from now.</param>
    public static string Now(string key, int steps = 0) => At(Read(key), DateTimeOffset.UtcNow.ToUnixTimeSeconds() / 30 + steps, 6);

    /// <summary>The code at a step (RFC 4226, section 5.3).</summary>
    public static string At(byte[] secret, long step, int digits)
    {
        var counter = new byte[8];
        BinaryPrimitives.WriteInt64BigEndian(counter, step);
#pragma warning disable CA5350 // The standard's own.
        var hash = HMACSHA1.HashData(secret, counter);
#pragma warning restore CA5350
        var number = BinaryPrimitives.ReadInt32BigEndian(hash.AsSpan(hash[^1] & 0xf)) & int.MaxValue;
        return (number % (int)Math.Pow(10, digits)).ToString(CultureInfo.InvariantCulture).PadLeft(digits, '0');
    }

    private static byte[] Read(string key)
    {
        var bits = string.Concat(
            key.Where(char.IsAsciiLetterOrDigit).Select(c => Convert.ToString(Base32.IndexOf(c, StringComparison.Ordinal), 2).PadLeft(5, '0'))
        );
        return [.. bits.Chunk(8).Where(b => b.Length == 8).Select(b => Convert.ToByte(new string(b), 2))];
    }
}
