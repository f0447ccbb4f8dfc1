namespace Cursus.Web.Comparing;

/// <summary>A question in words, for pages and pictures on which nothing can be chosen.</summary>
internal static class QuestionWords
{
    /// <summary>What people call a dimension, where that is not its name.</summary>
    public static readonly IReadOnlyDictionary<string, string> Names = new Dictionary<string, string>
    {
        ["content"] = "variant",
        ["network"] = "network it was clicked on",
        ["site"] = "kind of site",
        ["wandered"] = "road, stayed or wandered,",
        ["scan"] = "road, click or QR code,",
        ["code"] = "QR code",
        ["os"] = "operating system",
        ["domain"] = "short domain",
    };

    public static string Of(Question question)
    {
        var narrowed = question.Filters.Select(f => Narrowed(f.Key, f.Value)).ToList();
        return $"Which {Names.GetValueOrDefault(question.By, question.By)} brought the most clicks{(narrowed.Count > 0 ? $" for {string.Join(", ", narrowed)}" : "")}?";
    }

    /// <summary>What the answer is narrowed to; posts and links are kept by ids that nobody reads.</summary>
    private static string Narrowed(string filter, string[] values) => (filter, values.Length) switch
    {
        ("post" or "link", 1) => $"one {filter}",
        ("post" or "link", var many) => $"{many} {filter}s",
        _ => $"{Names.GetValueOrDefault(filter, filter)} {string.Join(" or ", values)}",
    };
}
