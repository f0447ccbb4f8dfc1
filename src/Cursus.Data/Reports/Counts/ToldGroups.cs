using Cursus.Data.Reports.Questions;

namespace Cursus.Data.Reports.Counts;

/// <summary>To which groups clicks belong by what they tell: hosts to networks, codes to their names, hours to weekdays. What the question doesn't
/// ask for belongs to none.</summary>
internal static class ToldGroups
{
    /// <summary>Key and label by place of the dimensions that clicks decide, of each value that the question asks for.</summary>
    /// <param name="detail">The one thing that clicks tell.</param>
    /// <param name="comparisonKey">What of their links clicks are held against, as dimensions say it; null where nothing is.</param>
    /// <param name="told">Its values, each with the channel or link that it is held against.</param>
    public static async Task<IReadOnlyDictionary<(string Value, Guid? Held), (string Key, string Label)[]>> Of(
        Snapshot snapshot,
        Question question,
        IReadOnlyList<Dimension> dimensions,
        ClickDetail detail,
        string? comparisonKey,
        IReadOnlyCollection<(string Value, Guid? Held)> told,
        CancellationToken cancel
    )
    {
        var ofClick = dimensions.Where(d => !d.IsOfLink).ToList();
        var held = comparisonKey ?? "held";
        return (
            await snapshot.Read(
                [.. question.Parameters, ("values", told.Select(t => t.Value).ToArray()), ("helds", told.Select(t => t.Held).ToArray())],
                $"""
                with counted as (select t.value as told, t.value{(
                    detail.Reading == TallyReading.Values ? "" : "::int"
                )} as {detail.Column}, t.held as {held} from unnest(@values, @helds::uuid[]) as t (value, held))
                select c.told, c.{held}{string.Concat(ofClick.Select(d => $", {d.Key}, {d.Label}"))}
                from counted c {CountedSql.Joins(question, dimensions)} where true {CountedSql.ClickFilters(question)}
                """,
                row =>
                    (
                        Told: (row.GetString(0), row.IsDBNull(1) ? (Guid?)null : row.GetGuid(1)),
                        Groups: ofClick.Select((_, place) => (row.GetString(2 + 2 * place), row.GetString(3 + 2 * place))).ToArray()
                    ),
                cancel
            )
        ).ToDictionary(r => r.Told, r => r.Groups);
    }
}
