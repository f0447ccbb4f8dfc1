using NodaTime;

namespace Cursus.Core.Reports;

/// <summary>The periods that people name instead of two days. Weeks begin on the day that the workspace has chosen. Those that begin with "this" are
/// whole, also where part of them is to come.</summary>
public static class NamedPeriod
{
    private static readonly Dictionary<string, Func<LocalDate, IsoDayOfWeek, Period>> All = new()
    {
        ["today"] = (today, _) => new(today, today),
        ["yesterday"] = (today, _) => new(today.PlusDays(-1), today.PlusDays(-1)),
        ["last-7"] = (today, _) => Period.Last(7, today),
        ["last-28"] = (today, _) => Period.Last(28, today),
        ["last-30"] = (today, _) => Period.Last(30, today),
        ["last-90"] = (today, _) => Period.Last(90, today),
        ["this-week"] = (today, weekStart) => Weeks(today, weekStart, 0),
        ["last-week"] = (today, weekStart) => Weeks(today, weekStart, -1),
        ["this-month"] = (today, _) => Months(today, 1, 0),
        ["last-month"] = (today, _) => Months(today, 1, -1),
        ["this-quarter"] = (today, _) => Months(today, 3, 0),
        ["last-quarter"] = (today, _) => Months(today, 3, -1),
        ["this-year"] = (today, _) => Months(today, 12, 0),
        ["last-year"] = (today, _) => Months(today, 12, -1),
    };

    /// <summary>All names.</summary>
    public static IReadOnlyCollection<string> Names => All.Keys;

    /// <summary>The days that a name means on a day; null for a name that isn't known.</summary>
    public static Period? Of(string name, LocalDate today, IsoDayOfWeek weekStart) =>
        All.TryGetValue(name, out var period) ? period(today, weekStart) : null;

    private static Period Weeks(LocalDate today, IsoDayOfWeek weekStart, int later)
    {
        var first = WeekOf(today, weekStart).PlusWeeks(later);
        return new(first, first.PlusDays(6));
    }

    /// <summary>The first day of the week that a day lies in.</summary>
    public static LocalDate WeekOf(LocalDate day, IsoDayOfWeek weekStart) => day.With(DateAdjusters.PreviousOrSame(weekStart));

    /// <param name="length">Months of the unit: 1, 3 or 12, each beginning as many months after January.</param>
    private static Period Months(LocalDate today, int length, int later)
    {
        var first = new LocalDate(today.Year, (today.Month - 1) / length * length + 1, 1).PlusMonths(later * length);
        return new(first, first.PlusMonths(length).PlusDays(-1));
    }
}
