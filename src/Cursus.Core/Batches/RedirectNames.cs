using System.Globalization;
using System.Text.RegularExpressions;

namespace Cursus.Core.Batches;

/// <summary>
/// Reads how a link redirects: by number, or by the names that the statuses have (RFC 9110, sections 15.4.2, 15.4.3, 15.4.8 and 15.4.9). Words such
/// as “permanent” alone could be two of them, so that they are left to whoever knows.
/// </summary>
public static partial class RedirectNames
{
    /// <summary>301, 302, 307 or 308; null where the text says none of them.</summary>
    public static int? StatusOf(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        var number = Number().Match(text);
        if (number.Success)
        {
            return int.Parse(number.Value, CultureInfo.InvariantCulture) is var status and (301 or 302 or 307 or 308) ? status : null;
        }

        return text.Trim().ToLowerInvariant() switch
        {
            "moved permanently" => 301,
            "found" => 302,
            "temporary redirect" => 307,
            "permanent redirect" => 308,
            _ => null,
        };
    }

    [GeneratedRegex(@"(?<!\d)\d+(?!\d)")]
    private static partial Regex Number();
}
