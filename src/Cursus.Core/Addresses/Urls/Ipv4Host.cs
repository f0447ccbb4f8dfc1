using System.Globalization;

namespace Cursus.Core.Addresses.Urls;

/// <summary>IPv4 hosts in all the ways in which browsers read them (decimal, octal, hexadecimal, fewer than four parts):
/// WHATWG URL Standard, section 3.5, "IPv4 parser".</summary>
internal static class Ipv4Host
{
    public static bool EndsInNumber(string host)
    {
        var parts = Parts(host);
        var last = parts[^1];
        return (last.Length > 0 && last.All(char.IsAsciiDigit)) || (last.StartsWith("0x", StringComparison.Ordinal) && Number(last) is not null);
    }

    /// <summary>The dotted decimal form, or null where a part is no number or too large.</summary>
    public static string? Parse(string host)
    {
        var parts = Parts(host);
        if (parts.Length > 4)
        {
            return null;
        }

        var numbers = new long[parts.Length];
        for (var i = 0; i < parts.Length; i++)
        {
            if (Number(parts[i]) is not { } number)
            {
                return null;
            }

            numbers[i] = number;
        }

        if (numbers[..^1].Any(n => n > 255) || numbers[^1] >= 1L << (8 * (5 - numbers.Length)))
        {
            return null;
        }

        var value = numbers[^1];
        for (var i = 0; i < numbers.Length - 1; i++)
        {
            value += numbers[i] << (8 * (3 - i));
        }

        return string.Create(CultureInfo.InvariantCulture, $"{value >> 24}.{(value >> 16) & 255}.{(value >> 8) & 255}.{value & 255}");
    }

    private static string[] Parts(string host)
    {
        var parts = host.Split('.');
        return parts is [.., ""] && parts.Length > 1 ? parts[..^1] : parts;
    }

    private static long? Number(string part)
    {
        var (digits, radix) = part switch
        {
            "" => (null, 0),
            ['0', 'x' or 'X', .. var hex] => (hex, 16),
            ['0', .. var octal] when octal.Length > 0 => (octal, 8),
            _ => (part, 10),
        };
        if (digits is null)
        {
            return null;
        }

        long value = 0;
        foreach (var c in digits)
        {
            if (!char.IsAsciiHexDigit(c) || Convert.ToInt32(c.ToString(), 16) is var digit && digit >= radix)
            {
                return null;
            }

            // Larger values are refused by the caller; stopping here only keeps the sum from overflowing.
            value = Math.Min(value * radix + digit, 1L << 40);
        }

        return value;
    }
}
