namespace Cursus.Web.Lists;

/// <summary>Names of files that people take away.</summary>
internal static class FileNames
{
    private const int MostCharacters = 100;

    /// <summary>A name of words that every system takes.</summary>
    public static string Of(string words, string ending)
    {
        var kept = string.Concat(words.Select(c => char.IsLetterOrDigit(c) || c is '-' or '_' or '.' ? c : ' '));
        var joined = string.Join('-', kept.Split(' ', StringSplitOptions.RemoveEmptyEntries)).Trim('.', '-');
        return $"{(joined.Length > MostCharacters ? joined[..MostCharacters] : joined.Length == 0 ? "code" : joined).TrimEnd('-', '.')}.{ending}";
    }
}
