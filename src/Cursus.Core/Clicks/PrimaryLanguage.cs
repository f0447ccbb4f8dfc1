namespace Cursus.Core.Clicks;

/// <summary>The first language a browser asks for.</summary>
public static class PrimaryLanguage
{
    /// <summary>The primary subtag (two or three letters, RFC 5646, section 2.2.1) of the first range in an <c>Accept-Language</c> header;
    /// empty where there is none.</summary>
    public static string Of(string? acceptLanguage)
    {
        var first = acceptLanguage.AsSpan().TrimStart();
        var end = first.IndexOfAny("-_,; ");
        var subtag = end < 0 ? first : first[..end];
        foreach (var c in subtag)
        {
            if (!char.IsAsciiLetter(c))
            {
                return "";
            }
        }

        return subtag.Length is 2 or 3 ? subtag.ToString().ToLowerInvariant() : "";
    }
}
