using Cursus.Core.Clicks;
using Cursus.Web.Reports.Counts;

namespace Cursus.Web.Reports.Questions;

/// <summary>The filters of a report by name; the filters themselves use keys and IDs.</summary>
/// <param name="Filter">The dimension.</param>
/// <param name="Key">One of the requested values.</param>
/// <param name="Label">What a person reads; the key itself where it has no other name.</param>
public sealed record Narrowing(string Filter, string Key, string Label)
{
    /// <summary>By filter, where the workspace gives names: keys and names of those that are asked for.</summary>
    private static readonly Dictionary<string, string> Named = new()
    {
        ["channel"] = "select key, name from channels where workspace_id = @workspace and key = any(@f_channel)",
        ["campaign"] = "select key, name from campaigns where workspace_id = @workspace and key = any(@f_campaign)",
        ["network"] = "select key, name from channels where workspace_id = @workspace and key = any(@f_network)",
        ["post"] = "select id::text, title from posts where workspace_id = @workspace and id::text = any(@f_post)",
        ["link"] =
            "select l.id::text, d.name || '/' || l.slug from links l join domains d on d.id = l.domain_id where l.workspace_id = @workspace and l.id::text = any(@f_link)",
        ["pixel"] = "select id::text, name from pixels where workspace_id = @workspace and id::text = any(@f_pixel)",
        ["code"] = """
            select co.link_id || '/' || co.number, l.title || ' · ' || co.name from link_codes co join links l on l.id = co.link_id
            where l.workspace_id = @workspace and co.link_id || '/' || co.number = any(@f_code)
            """,
    };

    /// <summary>By filter and key, where Cursus gives names.</summary>
    private static readonly Dictionary<(string Filter, string Key), string> Fixed = new()
    {
        [("network", "own")] = "own site",
        [("site", "own")] = "own site",
        [("site", "social")] = "social network",
        [("site", "messenger")] = "messenger",
        [("site", "other")] = "another site",
        [("elsewhere", "own-channel")] = "on its own channel",
        [("elsewhere", "elsewhere")] = "shared elsewhere",
        [("scan", "clicked")] = "by a click",
        [("scan", "scanned")] = "by QR code",
    };

    /// <summary>All that a question is narrowed to, in the order of its filters.</summary>
    internal static async Task<IReadOnlyList<Narrowing>> Of(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var asked = question.Filters.Keys.Where(Named.ContainsKey).ToList();
        var names =
            asked.Count == 0
                ? []
                : await snapshot.Read(
                    question,
                    string.Join("\nunion all ", asked.Select(filter => $"select '{filter}', n.* from ({Named[filter]}) n")),
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
        filter == "country" ? CountryNames.Of(key)
        : key.Length == 0 ? "none"
        : Fixed.GetValueOrDefault((filter, key), key);
}
