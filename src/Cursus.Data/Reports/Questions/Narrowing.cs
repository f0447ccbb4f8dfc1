using Cursus.Data.Reports.Counts;

namespace Cursus.Data.Reports.Questions;

/// <summary>The filters of a report by name; the filters themselves use keys and IDs.</summary>
/// <param name="Filter">The dimension.</param>
/// <param name="Key">One of the requested values.</param>
/// <param name="Label">What a person reads; the key itself where it has no other name.</param>
public sealed record Narrowing(string Filter, string Key, string Label)
{
    /// <summary>All that a question is narrowed to, in the order of its filters.</summary>
    internal static async Task<IReadOnlyList<Narrowing>> Of(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var asked = question.Filters.Keys.Where(f => Dimensions.All[f].NamesSql is not null).ToList();
        var names =
            asked.Count == 0
                ? []
                : await snapshot.Read(
                    question,
                    string.Join("\nunion all ", asked.Select(filter => $"select '{filter}', n.* from ({Dimensions.All[filter].NamesSql}) n")),
                    row => (Filter: row.GetString(0), Key: row.GetString(1), Name: row.GetString(2)),
                    cancel
                );
        var named = names.ToDictionary(n => (n.Filter, n.Key), n => n.Name);
        return
        [
            .. question.Filters.SelectMany(f =>
                f.Value.Select(key => new Narrowing(f.Key, key, named.GetValueOrDefault((f.Key, key)) ?? Usual(f.Key, key)))
            ),
        ];
    }

    private static string Usual(string filter, string key) =>
        Dimensions.All[filter].KeyNames.GetValueOrDefault(key) ?? (key.Length == 0 ? "none" : Dimensions.All[filter].Shown(key));
}
