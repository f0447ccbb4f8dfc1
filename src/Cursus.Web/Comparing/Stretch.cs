using NodaTime;

namespace Cursus.Web.Comparing;

/// <summary>
/// A stretch of time as the roll-ups hold it: whole months that are sealed, the days left over, and the part of a day at its end, which only the clicks themselves can tell.
/// </summary>
/// <param name="Months">First days of the months.</param>
/// <param name="Days">Runs of days, both ends included; no day lies in one of the months.</param>
/// <param name="Rest">The part of a day; null where it ends with a day.</param>
internal sealed record Stretch(IReadOnlyList<LocalDate> Months, IReadOnlyList<(LocalDate First, LocalDate Last)> Days, Interval? Rest)
{
    /// <summary>Whole days.</summary>
    public static Stretch Of(Core.Comparing.Period period, IReadOnlySet<LocalDate> sealedMonths) => Of(period.From, period.To, null, sealedMonths);

    /// <summary>From the beginning of a day to a moment.</summary>
    public static Stretch Of(LocalDate from, Instant end, DateTimeZone zone, IReadOnlySet<LocalDate> sealedMonths)
    {
        var last = end.InZone(zone).Date;
        var startOfLast = zone.AtStartOfDay(last).ToInstant();
        return Of(from, last.PlusDays(-1), startOfLast < end ? new Interval(startOfLast, end) : null, sealedMonths);
    }

    private static Stretch Of(LocalDate from, LocalDate to, Interval? rest, IReadOnlySet<LocalDate> sealedMonths)
    {
        var months = new List<LocalDate>();
        var days = new List<(LocalDate First, LocalDate Last)>();
        for (var at = from; at <= to;)
        {
            var next = new LocalDate(at.Year, at.Month, 1).PlusMonths(1);
            if (at.Day == 1 && next.PlusDays(-1) <= to && sealedMonths.Contains(at))
            {
                months.Add(at);
                at = next;
                continue;
            }

            var last = LocalDate.Min(next.PlusDays(-1), to);
            if (days.Count > 0 && days[^1].Last == at.PlusDays(-1))
            {
                days[^1] = (days[^1].First, last);
            }
            else
            {
                days.Add((at, last));
            }

            at = last.PlusDays(1);
        }

        return new(months, days, rest);
    }
}
