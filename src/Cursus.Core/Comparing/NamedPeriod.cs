using NodaTime;

namespace Cursus.Core.Comparing;

/// <summary>The periods that people name instead of two days. Weeks begin on Monday (ISO 8601). Those that begin with "this" are whole, also where part of them is to come.</summary>
public static class NamedPeriod
{
    private static readonly Dictionary<string, Func<LocalDate, Period>> All = new()
    {
        ["today"] = today => new(today, today),
        ["yesterday"] = today => new(today.PlusDays(-1), today.PlusDays(-1)),
        ["last-7"] = today => Period.Last(7, today),
        ["last-28"] = today => Period.Last(28, today),
        ["last-30"] = today => Period.Last(30, today),
        ["last-90"] = today => Period.Last(90, today),
        ["this-week"] = today => Weeks(today, 0),
        ["last-week"] = today => Weeks(today, -1),
        ["this-month"] = today => Months(today, 1, 0),
        ["last-month"] = today => Months(today, 1, -1),
        ["this-quarter"] = today => Months(today, 3, 0),
        ["last-quarter"] = today => Months(today, 3, -1),
        ["this-year"] = today => Months(today, 12, 0),
        ["last-year"] = today => Months(today, 12, -1),
    };

    /// <summary>All names.</summary>
    public static IReadOnlyCollection<string> Names => All.Keys;

    /// <summary>The days that a name means on a day; null for a name that isn't known.</summary>
    public static Period? Of(string name, LocalDate today) => All.TryGetValue(name, out var period) ? period(today) : null;

    private static Period Weeks(LocalDate today, int later)
    {
        var monday = today.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday)).PlusWeeks(later);
        return new(monday, monday.PlusDays(6));
    }

    /// <param name="length">Months of the unit: 1, 3 or 12, each beginning as many months after January.</param>
    private static Period Months(LocalDate today, int length, int later)
    {
        var first = new LocalDate(today.Year, (today.Month - 1) / length * length + 1, 1).PlusMonths(later * length);
        return new(first, first.PlusMonths(length).PlusDays(-1));
    }
}
