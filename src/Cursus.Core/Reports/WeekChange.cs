namespace Cursus.Core.Reports;

/// <summary>Whether a week differs from the one before by more than the luck of its posts.</summary>
public static class WeekChange
{
    /// <summary>The busier week's lead over the other. A post that was clicked in both is one unit of both.</summary>
    /// <param name="week">A group's units of the week, in the order of their numbers.</param>
    /// <param name="before">Its units of the week before, by the same numbers.</param>
    /// <param name="units">What both are of.</param>
    public static Verdict Of(UnitCount[] week, UnitCount[] before, ClickUnits units)
    {
        ArgumentNullException.ThrowIfNull(week);
        ArgumentNullException.ThrowIfNull(before);
        return week.Sum(u => u.Clicks) >= before.Sum(u => u.Clicks) ? Verdict.Between(week, before, units) : Verdict.Between(before, week, units);
    }
}
