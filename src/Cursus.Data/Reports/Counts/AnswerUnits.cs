using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using NodaTime;

namespace Cursus.Data.Reports.Counts;

/// <summary>What the verdicts of an answer are made of: its clicks by group and post, or week, or channel.</summary>
internal static class AnswerUnits
{
    private static readonly LocalDate Epoch = new(1970, 1, 1);

    /// <param name="counted">With units counted apart in that span; by weeks, in steps of seven days.</param>
    /// <param name="span">0 for what is asked, 1 for what it is compared with.</param>
    public static ClickUnits Of(Question question, UnitKind kind, Counted counted, int span)
    {
        var isOfLink = Dimensions.All[question.By].IsOfLink;
        var weeks = new Dictionary<LocalDateTime, int>();
        var clicks = new Dictionary<(int Group, int Unit), long>();
        foreach (var cell in counted.Cells)
        {
            if (cell.IsOfPeople && cell.Span == span)
            {
                var unit =
                    kind == UnitKind.Week
                        ? weeks.TryGetValue(cell.At!.Value, out var week)
                            ? week
                            : weeks[cell.At!.Value] = weeks.Count
                        : cell.Unit;
                clicks[(cell.Group, unit)] = clicks.GetValueOrDefault((cell.Group, unit)) + cell.Count;
            }
        }

        var (days, period) = (counted.Links?.UnitDays ?? [], question.Ranges[span]);
        bool IsNew(int unit) => kind == UnitKind.Post && days[unit] >= period.First && days[unit] <= period.LastDay;
        if (kind == UnitKind.Post && isOfLink && counted.Links is { } links)
        {
            // What went out in the period and was not clicked is one of the group's posts, too.
            foreach (var link in links.All.Where(l => !l.IsDeleted && IsNew(l.Unit)))
            {
                foreach (var group in link.Groups)
                {
                    clicks.TryAdd((counted.NumberOf(group), link.Unit), 0);
                }
            }
        }

        var groups = clicks
            .GroupBy(c => c.Key.Group)
            .ToDictionary(
                g => counted.Groups.All[g.Key][0].Key,
                g => g.Select(c => new UnitCount(c.Key.Unit, c.Value, IsNew(c.Key.Unit))).OrderBy(u => u.Unit).ToArray()
            );
        return new(
            kind,
            kind == UnitKind.Post ? [.. days.Select(d => NodaTime.Period.DaysBetween(Epoch, d))] : null,
            isShared: !(kind == UnitKind.Post && isOfLink),
            groups
        );
    }

    /// <summary>By key of each group, the verdict on the busier of both periods.</summary>
    public static IReadOnlyDictionary<string, Verdict> Changes(ClickUnits units, ClickUnits before, Breakdown breakdown) =>
        breakdown.Rows.ToDictionary(r => r.Count.Key, r => WeekChange.Of(units.Of(r.Count.Key), before.Of(r.Count.Key), units));
}
