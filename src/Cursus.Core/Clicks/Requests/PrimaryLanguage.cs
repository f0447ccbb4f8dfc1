namespace Cursus.Core.Clicks.Requests;

/// <summary>The first language a browser asks for.</summary>
public static class PrimaryLanguage
{
    /// <summary>The longest primary subtag that is read, in characters.</summary>
    public const int MaxLength = 3;

    /// <summary>Writes the primary subtag (two or three letters, RFC 5646, section 2.2.1) of the first range in an <c>Accept-Language</c> header into
    /// <paramref name="to"/>, in lower case. Returns its length, zero where there is none.</summary>
    public static int Read(ReadOnlySpan<char> acceptLanguage, Span<char> to)
    {
        var first = acceptLanguage.TrimStart();
        var end = first.IndexOfAny("-_,; ");
        var subtag = end < 0 ? first : first[..end];
        foreach (var c in subtag)
        {
            if (!char.IsAsciiLetter(c))
            {
                return 0;
            }
        }

        return subtag.Length is 2 or MaxLength ? subtag.ToLowerInvariant(to) : 0;
    }
}
