namespace Cursus.Core.Reports;

/// <summary>What the independent observations behind an answer are. Clicks of one unit may share a cause; clicks of two units don't.</summary>
public enum UnitKind
{
    /// <summary>A post on all its channels, or a link that belongs to no post.</summary>
    Post,

    /// <summary>Seven days, counted back from the end of the period; for weekdays and hours.</summary>
    Week,

    /// <summary>The link of a post on one channel, paired by channel; for comparing single posts.</summary>
    Link,
}

/// <summary>What one unit brought to one group.</summary>
/// <param name="Unit">Its number in <see cref="ClickUnits"/>.</param>
/// <param name="IsNew">True if it went out in the period, and so counts as one of the group's posts.</param>
public readonly record struct UnitCount(int Unit, long Clicks, bool IsNew);

/// <summary>The units behind an answer, and what each of them brought to each group.</summary>
public sealed class ClickUnits
{
    private readonly IReadOnlyDictionary<string, UnitCount[]> groups;
    private readonly Lazy<(UnitCount Count, int Groups)[]> all;

    /// <param name="days">By number of the unit, the day on which it went out, counted from any day and never falling; null if units come by the
    /// calendar, so that how many there are is not a matter of chance.</param>
    /// <param name="isShared">True if every unit can bring clicks to every group, as posts do to countries; false if links decide, as they do for
    /// channels.</param>
    /// <param name="groups">By key of the group, its units in the order of their numbers, each once.</param>
    public ClickUnits(UnitKind kind, IReadOnlyList<int>? days, bool isShared, IReadOnlyDictionary<string, UnitCount[]> groups)
    {
        (Kind, Days, IsShared, this.groups) = (kind, days, isShared, groups);
        all = new(Sum);
    }

    /// <summary>For answers from which nothing is concluded.</summary>
    public static ClickUnits None { get; } = new(UnitKind.Link, null, false, new Dictionary<string, UnitCount[]>());

    /// <summary>True if nothing is known of any unit.</summary>
    public bool IsEmpty => groups.Count == 0;

    public UnitKind Kind { get; }

    public IReadOnlyList<int>? Days { get; }

    public bool IsShared { get; }

    /// <summary>The units of a group, in the order of their numbers.</summary>
    public UnitCount[] Of(string key) => groups.GetValueOrDefault(key) ?? [];

    /// <summary>The units of all groups but one, each with the sum of its clicks there.</summary>
    public UnitCount[] AllBut(string key)
    {
        var (own, next) = (Of(key), 0);
        var others = new List<UnitCount>(all.Value.Length);
        foreach (var (count, ofGroups) in all.Value)
        {
            var mine = next < own.Length && own[next].Unit == count.Unit ? own[next++] : default(UnitCount?);
            if (mine is null || ofGroups > 1)
            {
                others.Add(count with { Clicks = count.Clicks - (mine?.Clicks ?? 0) });
            }
        }

        return [.. others];
    }

    private (UnitCount Count, int Groups)[] Sum()
    {
        var sums = new Dictionary<int, (UnitCount Count, int Groups)>();
        foreach (var unit in groups.Values.SelectMany(g => g))
        {
            var (count, ofGroups) = sums.GetValueOrDefault(unit.Unit);
            sums[unit.Unit] = (new(unit.Unit, count.Clicks + unit.Clicks, count.IsNew || unit.IsNew), ofGroups + 1);
        }

        return [.. sums.Values.OrderBy(s => s.Count.Unit)];
    }
}
