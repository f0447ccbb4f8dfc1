using NodaTime;
using NodaTime.TimeZones;

namespace Cursus.Core.Reports;

/// <summary>What a period is held against.</summary>
public enum Comparison
{
    None,

    /// <summary>The period before it; see <see cref="Period.Before"/>.</summary>
    PeriodBefore,

    /// <summary>The same days of the year before.</summary>
    YearBefore,
}

/// <summary>A run of whole calendar days in the workspace's time zone, both ends included.</summary>
public sealed record Period
{
    /// <summary>The longest period that is answered, in days.</summary>
    public const int MaxDays = 3660;

    private static readonly ZoneLocalMappingResolver FirstMomentOfDay = Resolvers.CreateMappingResolver(
        Resolvers.ReturnEarlier,
        Resolvers.ReturnStartOfIntervalAfter
    );

    /// <param name="from">First day.</param>
    /// <param name="to">Last day, not before <paramref name="from"/>.</param>
    /// <exception cref="ArgumentException">The last day is before the first, or more than <see cref="MaxDays"/> lie between.</exception>
    public Period(LocalDate from, LocalDate to)
    {
        if (Check(from, to) is { } error)
        {
            throw new ArgumentException(error.Text, nameof(to));
        }

        (From, To) = (from, to);
    }

    public LocalDate From { get; }

    public LocalDate To { get; }

    /// <summary>Number of calendar days, at least one.</summary>
    public int Days => NodaTime.Period.DaysBetween(From, To) + 1;

    /// <summary>The period that ends the day before this one begins: as many whole months where this one is whole months of the calendar, else as
    /// many days.</summary>
    public Period Before =>
        WholeMonths is { } months ? new(From.PlusMonths(-months), From.PlusDays(-1)) : new(From.PlusDays(-Days), From.PlusDays(-1));

    /// <summary>The same days a year ago; 29 February then ends on the 28th.</summary>
    public Period YearBefore => new(From.PlusYears(-1), WholeMonths is null ? To.PlusYears(-1) : To.PlusDays(1).PlusYears(-1).PlusDays(-1));

    private int? WholeMonths =>
        From.Day == 1 && To.PlusDays(1) is { Day: 1 } next ? NodaTime.Period.Between(From, next, PeriodUnits.Months).Months : null;

    /// <summary>Both days, as <c>2026-11-01..2026-11-28</c>.</summary>
    public override string ToString() => $"{From:uuuu-MM-dd}..{To:uuuu-MM-dd}";

    /// <summary>What is wrong with such a period, or null.</summary>
    public static ValidationError? Check(LocalDate from, LocalDate to) =>
        to < from
            ? new ValidationError("period-reversed", $"The period ends ({to:uuuu-MM-dd}) before it begins ({from:uuuu-MM-dd}). Swap the two days.")
        : NodaTime.Period.DaysBetween(from, to) >= MaxDays
            ? new ValidationError("period-too-long", $"A period may have at most {MaxDays:N0} days. Choose a shorter one.")
        : null;

    /// <summary>The last <paramref name="days"/> days, today included.</summary>
    public static Period Last(int days, LocalDate today) => new(today.PlusDays(1 - days), today);

    /// <summary>The instants between which the days lie in <paramref name="zone"/>: start included, end excluded.
    /// Days of a clock change have 23 or 25 hours; a day that the zone left out (Samoa's 30 December 2011) has none.</summary>
    public Interval In(DateTimeZone zone) => new(StartOf(From, zone), StartOf(To.PlusDays(1), zone));

    /// <summary>What this period is compared with; null where it isn't.</summary>
    public Period? Earlier(Comparison with) =>
        with switch
        {
            Comparison.PeriodBefore => Before,
            Comparison.YearBefore => YearBefore,
            _ => null,
        };

    /// <summary>The range of an <paramref name="earlier"/> period to hold against this one: where this one is unfinished at <paramref name="now"/>,
    /// only as much of the earlier one as of this one has passed.</summary>
    public Interval UpToNow(Period earlier, DateTimeZone zone, Instant now)
    {
        ArgumentNullException.ThrowIfNull(earlier);
        var (mine, whole) = (In(zone), earlier.In(zone));
        if (now >= mine.End || now <= mine.Start)
        {
            return whole;
        }

        // As many days on, at the same time of day, so that a clock change between the two does not shift the comparison.
        var local = now.InZone(zone).LocalDateTime;
        var sameTime = earlier.From.PlusDays(NodaTime.Period.DaysBetween(From, local.Date)).At(local.TimeOfDay);
        return new Interval(whole.Start, Instant.Min(whole.End, zone.AtLeniently(sameTime).ToInstant()));
    }

    private static Instant StartOf(LocalDate day, DateTimeZone zone) => zone.ResolveLocal(day.AtMidnight(), FirstMomentOfDay).ToInstant();
}
