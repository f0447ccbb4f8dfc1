using System.Globalization;
using System.Runtime.CompilerServices;
using System.Runtime.InteropServices;
using Cursus.Core.Clicks.Tallies;
using NodaTime;

namespace Cursus.Core.Reports;

/// <summary>Into what steps of the calendar clicks are summed up.</summary>
public enum CountStep
{
    /// <summary>All of a range into one.</summary>
    Whole,
    Hour,
    Day,

    /// <summary>From the day on which the workspace's weeks begin.</summary>
    Week,
    Month,

    /// <summary>Seven days, counted back from the last day of the range; the first may have fewer.</summary>
    SevenDays,
}

/// <summary>Where something counted belongs.</summary>
/// <param name="Group">Number of the group that the link is in.</param>
/// <param name="Held">Number of what the click is held against, such as its link's channel.</param>
/// <param name="Span">0 for what is asked, 1 for what it is compared with.</param>
/// <param name="At">When its step begins, on the workspace's clock; null where all is summed up, as always in what is compared with.</param>
/// <param name="Unit">Number of the unit, such as a post, where these are counted apart; else 0.</param>
public readonly record struct Cell(int Group, int Held, int Span, LocalDateTime? At, int Unit = 0);

/// <summary>Adds roll-ups up by <see cref="Cell"/> and value. Whoever reads them says of each link where it belongs.</summary>
/// <param name="spans">The ranges of time that are asked about; a day may lie in several.</param>
/// <param name="step">Hours are counted where the values are hours of the day; all of them then count for <paramref name="whole"/>.</param>
/// <param name="isByWeekHour">Whether the values are hours of the day, to be counted as hours of the week, from 0 (Monday, midnight to one) to
/// 167.</param>
/// <param name="whole">Number of the value that clicks by hour count for.</param>
/// <param name="unitSpans">In how many of the ranges, from the first, units are counted apart; only where all of a range is summed up.</param>
/// <param name="weekStart">The day on which weeks begin.</param>
public sealed class CellCounts(
    IReadOnlyList<DateRange> spans,
    CountStep step,
    bool isByWeekHour,
    ValueNumbers numbers,
    int whole,
    int unitSpans = 0,
    IsoDayOfWeek weekStart = IsoDayOfWeek.Monday
)
{
    private const int HoursOfDay = 24;
    private const int HoursOfWeek = 7 * HoursOfDay;
    private const int MostDays = 31;

    private static readonly LocalDate Epoch = new(1970, 1, 1);

    private readonly (int First, int Last)[] days = [.. spans.Select(s => (NumberOf(s.First), NumberOf(s.Last)))];
    private readonly List<(int Group, int Held, int Span, int Step)> counted = [];
    private readonly List<Sum> sums = [];

    // Places in the lists. Where all of a range is one step there may be tens of thousands of groups, of which each row meets another one: their
    // places are found without hashing.
    private readonly Dictionary<(int Group, int Held, int Span, int Step), int> places = [];
    private readonly int[][] placesOfGroups = [.. spans.Select(_ => Array.Empty<int>())];
    private readonly bool isStepped = step != CountStep.Whole;
    private readonly int[] weekHours = isByWeekHour
        ? [.. Enumerable.Range(0, HoursOfWeek).Select(h => numbers.Of(h.ToString(CultureInfo.InvariantCulture)))]
        : [];
    private int[] hours = [];

    // Rows of one month come one after the other. Its days begin at these hours of the week.
    private LocalDate? current;
    private int beforeMonth;
    private readonly int[] midnights = new int[MostDays + 1];

    /// <summary>What was counted of one cell, by number of the value: that of few values side by side with that of other cells, where the processor
    /// finds it at once.</summary>
    private struct Sum
    {
        private Few few;
        private long[]? more;

        public readonly int Length => Few.Length + (more?.Length ?? 0);

        public readonly long this[int value] => value < Few.Length ? few[value] : more![value - Few.Length];

        public void Add(int value, long count)
        {
            if (value < Few.Length)
            {
                few[value] += count;
                return;
            }

            if (value - Few.Length >= (more?.Length ?? 0))
            {
                Array.Resize(ref more, Math.Max(value + 1, 2 * Length) - Few.Length);
            }

            more![value - Few.Length] += count;
        }
    }

    [InlineArray(Length)]
    private struct Few
    {
        public const int Length = 8;

        private long first;
    }

    /// <summary>Everything that was counted.</summary>
    public IEnumerable<(Cell Cell, int Value, long Clicks)> All
    {
        get
        {
            for (var place = 0; place < counted.Count; place++)
            {
                var (group, held, span, number) = counted[place];
                var (cell, sum) = (new Cell(group, held, span, span > 0 ? null : AtOf(number), isStepped ? 0 : number), sums[place]);
                for (var value = 0; value < sum.Length; value++)
                {
                    if (sum[value] > 0)
                    {
                        yield return (cell, value, sum[value]);
                    }
                }
            }
        }
    }

    /// <summary>How much of a value was counted of a cell that is one for all of its range.</summary>
    public long CountOf(int group, int held, int span, int value) =>
        PlaceOf(group, held, span, 0) is > 0 and var place && sums[place - 1] is var sum && value < sum.Length ? sum[value] : 0;

    /// <summary>Adds days of a link.</summary>
    /// <param name="groups">The groups that the link is in.</param>
    /// <param name="month">Any day of the month of the days.</param>
    /// <param name="unit">The unit that the link belongs to.</param>
    public void Add(ReadOnlySpan<int> groups, int held, LocalDate month, ReadOnlySpan<DayValue> counts, int unit = 0)
    {
        Turn(month);
        for (var span = 0; span < days.Length; span++)
        {
            var (first, last) = (days[span].First - beforeMonth, days[span].Last - beforeMonth);
            foreach (var group in groups)
            {
                if (isStepped && span == 0)
                {
                    AddSteps(group, held, first, last, counts);
                }
                else
                {
                    AddWhole(group, held, span, span < unitSpans ? unit : 0, first, last, counts);
                }
            }
        }
    }

    /// <summary>Goes over to another month, where it is one.</summary>
    private void Turn(LocalDate month)
    {
        if (current != month)
        {
            (current, beforeMonth) = (month, NumberOf(month) - month.Day);
            for (var day = 1; day <= MostDays; day++)
            {
                midnights[day] = WeekdayOf(beforeMonth + day) * HoursOfDay;
            }
        }

        if (hours.Length < numbers.Count && (isByWeekHour || step == CountStep.Hour))
        {
            hours =
            [
                .. Enumerable
                    .Range(0, numbers.Count)
                    .Select(n => int.TryParse(numbers[n], NumberStyles.None, CultureInfo.InvariantCulture, out var hour) ? hour : -1),
            ];
        }
    }

    private void AddWhole(int group, int held, int span, int number, int first, int last, ReadOnlySpan<DayValue> counts)
    {
        ref var sum = ref Unsafe.NullRef<Sum>();
        foreach (ref readonly var count in counts)
        {
            if (count.Day >= first && count.Day <= last)
            {
                sum = ref Unsafe.IsNullRef(ref sum) ? ref SumOf(group, held, span, number) : ref sum;
                sum.Add(ValueOf(count), count.Count);
            }
        }
    }

    private void AddSteps(int group, int held, int first, int last, ReadOnlySpan<DayValue> counts)
    {
        var number = int.MinValue;
        ref var sum = ref Unsafe.NullRef<Sum>();
        foreach (ref readonly var count in counts)
        {
            if (count.Day < first || count.Day > last)
            {
                continue;
            }

            var now = StepOf(beforeMonth + count.Day, count.Value);
            if (now != number)
            {
                number = now;
                sum = ref SumOf(group, held, 0, now);
            }

            sum.Add(ValueOf(count), count.Count);
        }
    }

    /// <summary>Adds clicks of a part of a day, whose hours have been made the value's.</summary>
    public void Add(ReadOnlySpan<int> groups, int held, int span, int value, long clicks, int unit = 0)
    {
        foreach (var group in groups)
        {
            SumOf(group, held, span, span < unitSpans ? unit : 0).Add(value, clicks);
        }
    }

    /// <summary>Holds until the next one is asked for.</summary>
    private ref Sum SumOf(int group, int held, int span, int number)
    {
        ref var place = ref PlaceOf(group, held, span, number);
        if (place == 0)
        {
            counted.Add((group, held, span, number));
            sums.Add(default);
            place = counted.Count;
        }

        return ref CollectionsMarshal.AsSpan(sums)[place - 1];
    }

    /// <summary>Its place, counted from one; zero, to be set, where it has none yet.</summary>
    private ref int PlaceOf(int group, int held, int span, int number)
    {
        if (held != 0 || number != 0)
        {
            return ref CollectionsMarshal.GetValueRefOrAddDefault(places, (group, held, span, number), out _);
        }

        ref var ofGroups = ref placesOfGroups[span];
        if (group >= ofGroups.Length)
        {
            Array.Resize(ref ofGroups, Math.Max(group + 1, 2 * ofGroups.Length));
        }

        return ref ofGroups[group];
    }

    private int ValueOf(in DayValue count) =>
        isByWeekHour ? weekHours[midnights[count.Day] + hours[count.Value]]
        : step == CountStep.Hour ? whole
        : count.Value;

    private int StepOf(int day, int value) =>
        step switch
        {
            CountStep.Hour => day * HoursOfDay + hours[value],
            CountStep.Day => day,
            CountStep.Week => day - WeekdayOf(day - (int)weekStart + (int)IsoDayOfWeek.Monday),
            CountStep.Month => beforeMonth + 1,
            CountStep.SevenDays => days[0].Last - (days[0].Last - day) / 7 * 7 - 6,
            _ => 0,
        };

    private LocalDateTime? AtOf(int number) =>
        step switch
        {
            CountStep.Whole => null,
            CountStep.Hour => Epoch.AtMidnight().PlusHours(number),
            _ => Epoch.PlusDays(number).AtMidnight(),
        };

    private static int NumberOf(LocalDate day) => NodaTime.Period.DaysBetween(Epoch, day);

    // The epoch was a Thursday.
    private static int WeekdayOf(int day) => (((day + 3) % 7) + 7) % 7;
}
