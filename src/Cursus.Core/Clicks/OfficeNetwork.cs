using System.Diagnostics.CodeAnalysis;
using System.Net;
using System.Net.Sockets;

namespace Cursus.Core.Clicks;

/// <summary>A network whose visitors are the team's, such as an office's, so that they are not counted (RFC 4632, section 3.1, for the
/// form).</summary>
public static class OfficeNetwork
{
    /// <summary>No office has more than a sixteenth of a class B of addresses; anything wider is a slip that would hide visitors. Common practice, no
    /// source.</summary>
    private const int WidestV4 = 20;

    /// <summary>Providers give sites a /48 (RFC 6177).</summary>
    private const int WidestV6 = 48;

    /// <summary>Reads an address (<c>198.51.100.7</c>) or a network (<c>198.51.100.0/24</c>); what stands behind the prefix of a network is
    /// cleared.</summary>
    public static bool TryParse(string typed, [NotNullWhen(true)] out IPNetwork? network, [NotNullWhen(false)] out ValidationError? error)
    {
        ArgumentNullException.ThrowIfNull(typed);
        network = null;
        var slash = typed.IndexOf('/', StringComparison.Ordinal);
        var address = slash < 0 ? typed : typed[..slash];
        if (!IPAddress.TryParse(address.Trim(), out var first) || !LooksWhole(address))
        {
            error = new ValidationError(
                "office-network",
                $"“{typed}” isn’t a network address. Enter one such as 198.51.100.7, or a network such as 198.51.100.0/24."
            );
            return false;
        }

        var bits = first.AddressFamily == AddressFamily.InterNetwork ? 32 : 128;
        var length = bits;
        if (slash >= 0 && (!int.TryParse(typed[(slash + 1)..], out length) || length < 0 || length > bits))
        {
            error = new ValidationError("office-network", $"The part after the slash in “{typed}” must be a number from 0 to {bits}.");
            return false;
        }

        var widest = bits == 32 ? WidestV4 : WidestV6;
        if (length < widest)
        {
            error = new ValidationError(
                "office-network-wide",
                $"“{typed}” is so wide that visitors would count as the team. The widest allowed is /{widest}."
            );
            return false;
        }

        error = null;
        network = new IPNetwork(Cleared(first, length), length);
        return true;
    }

    /// <summary>.NET reads 10.1 as 10.0.0.1, which nobody means.</summary>
    private static bool LooksWhole(string address) => address.Contains(':', StringComparison.Ordinal) || address.Count(c => c == '.') == 3;

    private static IPAddress Cleared(IPAddress address, int length)
    {
        var bytes = address.GetAddressBytes();
        for (var i = 0; i < bytes.Length; i++)
        {
            bytes[i] &= (byte)(0xff00 >> Math.Clamp(length - 8 * i, 0, 8));
        }

        return new IPAddress(bytes);
    }
}
