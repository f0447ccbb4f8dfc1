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

    public static string Of(BreakdownReport.Response answer)
    {
        var narrowed = answer.Narrowed.GroupBy(n => n.Filter, (filter, values) => $"{Names.GetValueOrDefault(filter, filter)} {string.Join(" or ", values.Select(v => v.Label))}").ToList();
        return $"Which {Names.GetValueOrDefault(answer.By, answer.By)} brought the most clicks{(narrowed.Count > 0 ? $" for {string.Join(", ", narrowed)}" : "")}?";
    }
}
