using System.Text;

namespace Cursus.Core.Addresses.Urls;

/// <summary>The percent-encode sets of the WHATWG URL Standard (section 1.3, "Percent-encoded bytes") that http(s) addresses need.</summary>
internal static class PercentEncoding
{
    public static string Path(string text) => Encode(text, " \"#<>?^`{}");

    public static string SpecialQuery(string text) => Encode(text, " \"#<>'");

    public static string Fragment(string text) => Encode(text, " \"<>`");

    /// <summary>Decodes each valid %XX to its byte and leaves everything else as UTF-8; malformed UTF-8 becomes U+FFFD.</summary>
    public static string Decode(string text)
    {
        if (!text.Contains('%', StringComparison.Ordinal))
        {
            return text;
        }

        var bytes = Encoding.UTF8.GetBytes(text);
        var decoded = new List<byte>(bytes.Length);
        for (var i = 0; i < bytes.Length; i++)
        {
            if (bytes[i] == '%' && i + 2 < bytes.Length && char.IsAsciiHexDigit((char)bytes[i + 1]) && char.IsAsciiHexDigit((char)bytes[i + 2]))
            {
                decoded.Add(Convert.ToByte(Encoding.ASCII.GetString(bytes, i + 1, 2), 16));
                i += 2;
            }
            else
            {
                decoded.Add(bytes[i]);
            }
        }

        return Encoding.UTF8.GetString([.. decoded]);
    }

    private static string Encode(string text, string reserved)
    {
        var encoded = new StringBuilder(text.Length + 16);
        foreach (var b in Encoding.UTF8.GetBytes(text))
        {
            if (b is > 0x1f and < 0x7f && !reserved.Contains((char)b, StringComparison.Ordinal))
            {
                encoded.Append((char)b);
            }
            else
            {
                encoded.Append('%').Append(b.ToString("X2", null));
            }
        }

        return encoded.ToString();
    }
}
