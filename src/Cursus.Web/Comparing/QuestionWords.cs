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
        var narrowed = question.Filters.Select(f => $"{Names.GetValueOrDefault(f.Key, f.Key)} {string.Join(" or ", f.Value)}").ToList();
        return $"Which {Names.GetValueOrDefault(question.By, question.By)} brought the most clicks{(narrowed.Count > 0 ? $" for {string.Join(", ", narrowed)}" : "")}?";
    }
}
