using Cursus.Data.Reports.Questions;
using Cursus.Web.Reports.Answers;
using NodaTime;

namespace Cursus.Web.Reports.Questions;

/// <summary>A question in words, for pages and pictures on which nothing can be chosen.</summary>
internal static class QuestionWords
{
    public static string Name(string dimension) => Dimensions.All[dimension].Words;

    public static string Of(BreakdownReport.Response answer) =>
        $"Which {Name(answer.By)} brought the most clicks{(answer.Per == "post" ? " per post" : "")}{NarrowedTo(answer.Narrowed)}?";

    /// <summary>The question with its days, for pictures beside which neither stands.</summary>
    public static string WithDays(BreakdownReport.Response answer) => $"{Of(answer)}{Days(answer.From, answer.To, answer.TimeZone)}";

    /// <param name="words">The question without its mark and without what it is narrowed to.</param>
    public static string WithDays(string words, IReadOnlyList<Narrowing> narrowed, LocalDate from, LocalDate to, string zone) =>
        $"{words}{NarrowedTo(narrowed)}?{Days(from, to, zone)}";

    private static string Days(LocalDate from, LocalDate to, string zone) => $" · {from:uuuu-MM-dd} to {to:uuuu-MM-dd}, {zone}";

    private static string NarrowedTo(IReadOnlyList<Narrowing> narrowed)
    {
        var filters = narrowed
            .GroupBy(n => n.Filter, (filter, values) => $"{Name(filter)} {string.Join(" or ", values.Select(v => v.Label))}")
            .ToList();
        return filters.Count > 0 ? $" for {string.Join(", ", filters)}" : "";
    }
}
