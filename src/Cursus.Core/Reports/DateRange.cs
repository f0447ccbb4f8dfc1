using NodaTime;

namespace Cursus.Core.Reports;

/// <summary>A range of time as the roll-ups hold it: whole days, and the part of a day at its end, which only the clicks themselves can
/// tell.</summary>
/// <param name="First">Its first day.</param>
/// <param name="Last">Its last whole day; the one before <paramref name="First"/> where there is none.</param>
/// <param name="Rest">The part of a day; null where it ends with a day.</param>
public sealed record DateRange(LocalDate First, LocalDate Last, Interval? Rest)
{
    /// <summary>The last day of which anything belongs to it.</summary>
    public LocalDate LastDay => Rest is null ? Last : Last.PlusDays(1);

    /// <summary>The first days of the months that its whole days lie in.</summary>
    public IEnumerable<LocalDate> Months
    {
        get
        {
            for (var month = First.With(DateAdjusters.StartOfMonth); month <= Last && First <= Last; month = month.PlusMonths(1))
            {
                yield return month;
            }
        }
    }

    /// <summary>Whether its whole days are all of these, or none of them.</summary>
    /// <param name="until">The day after the last.</param>
    public bool IsAllOrNoneOf(LocalDate from, LocalDate until) => (First <= from && Last >= until.PlusDays(-1)) || First >= until || Last < from;

    /// <summary>Whole days.</summary>
    public static DateRange Of(Period period)
    {
        ArgumentNullException.ThrowIfNull(period);
        return new(period.From, period.To, null);
    }

    /// <summary>From the beginning of a day to a moment.</summary>
    public static DateRange Of(LocalDate from, Instant end, DateTimeZone zone)
    {
        ArgumentNullException.ThrowIfNull(zone);
        var last = end.InZone(zone).Date;
        var startOfLast = zone.AtStartOfDay(last).ToInstant();
        return new(from, LocalDate.Max(last, from).PlusDays(-1), startOfLast < end ? new Interval(startOfLast, end) : null);
    }
}
