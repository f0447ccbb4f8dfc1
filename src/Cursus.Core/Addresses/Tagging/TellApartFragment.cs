namespace Cursus.Core.Addresses.Tagging;

/// <summary>
/// Recognises a fragment that somebody added by hand only to make one page's addresses differ, such as <c>#li</c> or <c>#perch</c>: it doesn't change
/// the page that opens (common practice, no source). Each channel has a link of its own here, so nobody needs it.
/// </summary>
public static class TellApartFragment
{
    private const int Initials = 2;

    /// <param name="fragment">Without the hash sign.</param>
    /// <param name="channelWords">Keys and names of the workspace's channels.</param>
    public static bool Is(string fragment, IEnumerable<string> channelWords)
    {
        ArgumentNullException.ThrowIfNull(fragment);
        ArgumentNullException.ThrowIfNull(channelWords);
        return fragment.Length > 0
            && fragment.All(char.IsAsciiLetterOrDigit)
            && (
                fragment.Length <= Initials
                || channelWords.Any(word => string.Concat(AsciiWords.Of(word)).StartsWith(fragment, StringComparison.OrdinalIgnoreCase))
            );
    }
}
