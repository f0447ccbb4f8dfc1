namespace Cursus.Web.Lists;

/// <summary>Patterns for SQL's LIKE.</summary>
internal static class Like
{
    /// <summary>Matches texts that contain <paramref name="word"/> as typed; its wildcards mean themselves.</summary>
    public static string Contains(string word) =>
        "%"
        + word.Replace(@"\", @"\\", StringComparison.Ordinal)
            .Replace("%", @"\%", StringComparison.Ordinal)
            .Replace("_", @"\_", StringComparison.Ordinal)
        + "%";
}
