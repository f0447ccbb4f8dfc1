using System.Globalization;
using System.Text.RegularExpressions;

namespace Cursus.Core.Routing;

/// <summary>A split as a cell of a table says it: “50% https://northmoor.example/a, 50% https://northmoor.example/b”.</summary>
public static partial class SplitText
{
    /// <summary>The pages with their shares; what <see cref="TryRead"/> reads as the same.</summary>
    public static string Of(RouteOutcome outcome)
    {
        ArgumentNullException.ThrowIfNull(outcome);
        return string.Join(", ", outcome.Pages.Select(p => string.Create(CultureInfo.InvariantCulture, $"{p.Weight}% {p.Destination}")));
    }

    /// <summary>Pages and shares of a text; false where it is anything else. <see cref="RouteCheck"/> says whether the shares make a
    /// whole.</summary>
    public static bool TryRead(string text, out IReadOnlyList<(string Destination, int Weight)> pages)
    {
        ArgumentNullException.ThrowIfNull(text);
        var read = new List<(string, int)>();
        var rest = text.Trim();
        while (Page().Match(rest) is { Success: true } page)
        {
            read.Add((page.Groups["destination"].Value, int.Parse(page.Groups["share"].ValueSpan, CultureInfo.InvariantCulture)));
            rest = rest[page.Length..];
        }

        pages = read;
        return rest.Length == 0 && read.Count > 0;
    }

    /// <summary>Addresses have no spaces, and a comma or semicolon before the next share is none of theirs.</summary>
    [GeneratedRegex(
        @"^(?<share>\d{1,3})\s?%\s+(?<destination>\S+?)(?:[,;]?\s+(?=\d{1,3}\s?%\s)|$)",
        RegexOptions.CultureInvariant,
        matchTimeoutMilliseconds: 1000
    )]
    private static partial Regex Page();
}
