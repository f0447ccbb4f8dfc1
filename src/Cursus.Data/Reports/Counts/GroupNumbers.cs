namespace Cursus.Data.Reports.Counts;

/// <summary>Gives each group that is met a number, from 0, so that there may be tens of thousands of them and what is counted of each stands in a
/// list.</summary>
internal sealed class GroupNumbers
{
    private readonly Dictionary<string, int> numbers = new(StringComparer.Ordinal);
    private readonly List<(string Key, string Label)[]> groups = [];

    /// <summary>Key and label of each group, by its number and then by place of the dimensions that make it.</summary>
    public IReadOnlyList<(string Key, string Label)[]> All => groups;

    /// <summary>The number of a group that one dimension makes.</summary>
    public int Of(string key, string label) => numbers.TryGetValue(key, out var number) ? number : Add(key, [(key, label)]);

    /// <summary>The number of a group that several dimensions make, or none.</summary>
    public int Of((string Key, string Label)[] group)
    {
        var key = group is [var only] ? only.Key : string.Join('\n', group.Select(g => g.Key));
        return numbers.TryGetValue(key, out var number) ? number : Add(key, group);
    }

    private int Add(string key, (string Key, string Label)[] group)
    {
        numbers[key] = groups.Count;
        groups.Add(group);
        return groups.Count - 1;
    }
}
