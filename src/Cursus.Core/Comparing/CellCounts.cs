using System.Globalization;
using System.Runtime.InteropServices;
using Cursus.Core.Clicks;
using NodaTime;

namespace Cursus.Core.Comparing;

/// <summary>Into what steps of the calendar clicks are summed up.</summary>
public enum CountStep
{
    /// <summary>All of a stretch into one.</summary>
    Whole,
    Hour,
    Day,

    /// <summary>From Monday.</summary>
    Week,
    Month,
}

/// <summary>Where something counted belongs.</summary>
/// <param name="Group">Number of the group that the link is in.</param>
/// <param name="Held">Number of what the click is held against, such as its link's channel.</param>
/// <param name="Span">0 for what is asked, 1 for what it is compared with.</param>
/// <param name="At">When its step begins, on the workspace's clock; null where all is summed up, as always in what is compared with.</param>
public readonly record struct Cell(int Group, int Held, int Span, LocalDateTime? At);

/// <summary>Adds roll-ups up by <see cref="Cell"/> and value. Whoever reads them says of each link where it belongs.</summary>
/// <param name="spans">The stretches of time that are asked about; a day may lie in several.</param>
/// <param name="step">Hours are counted where the values are hours of the day; all of them then count for <paramref name="whole"/>.</param>
/// <param name="isByWeekHour">Whether the values are hours of the day, to be counted as hours of the week, from 0 (Monday, midnight to one) to 167.</param>
/// <param name="whole">Number of the value that clicks by hour count for.</param>
public sealed class CellCounts(IReadOnlyList<Stretch> spans, CountStep step, bool isByWeekHour, ValueNumbers numbers, int whole)
{
    private const int HoursOfDay = 24;
    private const int HoursOfWeek = 7 * HoursOfDay;

    private static readonly LocalDate Epoch = new(1970, 1, 1);

    private readonly (int First, int Last)[] days = [.. spans.Select(s => (NumberOf(s.First), NumberOf(s.Last)))];
    private readonly Dictionary<(int Group, int Held, int Span, int Step), Sum> sums = [];
    private readonly bool isStepped = step != CountStep.Whole;
    private readonly int[] weekHours = isByWeekHour ? [.. Enumerable.Range(0, HoursOfWeek).Select(h => numbers.Of(h.ToString(CultureInfo.InvariantCulture)))] : [];
    private readonly List<int> hours = [];

    /// <summary>What was counted of one cell, by number of the value.</summary>
    private sealed class Sum
    {
        private long[] clicks = new long[8];

        public ReadOnlySpan<long> Clicks => clicks;

        public void Add(int value, long count)
        {
            if (value >= clicks.Length)
            {
                Array.Resize(ref clicks, Math.Max(value + 1, 2 * clicks.Length));
            }

            clicks[value] += count;
        }
    }

    /// <summary>Everything that was counted.</summary>
    public IEnumerable<(Cell Cell, int Value, long Clicks)> All
    {
        get
        {
            foreach (var ((group, held, span, number), sum) in sums)
            {
                var cell = new Cell(group, held, span, span > 0 ? null : AtOf(number));
                for (var value = 0; value < sum.Clicks.Length; value++)
                {
                    if (sum.Clicks[value] > 0)
                    {
                        yield return (cell, value, sum.Clicks[value]);
                    }
                }
            }
        }
    }

    /// <summary>Adds days of a link.</summary>
    /// <param name="groups">The groups that the link is in.</param>
    /// <param name="month">Any day of the month of the days.</param>
    public void Add(ReadOnlySpan<int> groups, int held, LocalDate month, ReadOnlySpan<DayValue> counts)
    {
        var beforeMonth = NumberOf(month) - month.Day;
        for (var span = 0; span < days.Length; span++)
        {
            foreach (var group in groups)
            {
                Add(group, held, span, beforeMonth, counts);
            }
        }
    }

    private void Add(int group, int held, int span, int beforeMonth, ReadOnlySpan<DayValue> counts)
    {
        var (first, last) = days[span];
        var (day, isInside, hourOfWeek, number) = (int.MinValue, false, 0, int.MinValue);
        Sum? sum = null;
        foreach (var count in counts)
        {
            if (beforeMonth + count.Day != day)
            {
                day = beforeMonth + count.Day;
                isInside = day >= first && day <= last;
                hourOfWeek = WeekdayOf(day) * HoursOfDay;
            }

            if (!isInside)
            {
                continue;
            }

            var now = isStepped && span == 0 ? StepOf(day, count.Value, beforeMonth) : 0;
            if (sum is null || now != number)
            {
                (number, sum) = (now, SumOf(group, held, span, now));
            }

            sum.Add(isByWeekHour ? weekHours[hourOfWeek + HourOf(count.Value)] : step == CountStep.Hour ? whole : count.Value, count.Count);
        }
    }

    /// <summary>Adds clicks of a part of a day, whose hours have been made the value's.</summary>
    public void Add(ReadOnlySpan<int> groups, int held, int span, int value, long clicks)
    {
        foreach (var group in groups)
        {
            SumOf(group, held, span, 0).Add(value, clicks);
        }
    }

    private Sum SumOf(int group, int held, int span, int number) =>
        CollectionsMarshal.GetValueRefOrAddDefault(sums, (group, held, span, number), out _) ??= new Sum();

    private int StepOf(int day, int value, int beforeMonth) => step switch
    {
        CountStep.Hour => day * HoursOfDay + HourOf(value),
        CountStep.Day => day,
        CountStep.Week => day - WeekdayOf(day),
        CountStep.Month => beforeMonth + 1,
        _ => 0,
    };

    private int HourOf(int value)
    {
        while (hours.Count <= value)
        {
            hours.Add(int.TryParse(numbers[hours.Count], NumberStyles.None, CultureInfo.InvariantCulture, out var hour) ? hour : -1);
        }

        return hours[value];
    }

    private LocalDateTime? AtOf(int number) => step switch
    {
        CountStep.Whole => null,
        CountStep.Hour => Epoch.AtMidnight().PlusHours(number),
        _ => Epoch.PlusDays(number).AtMidnight(),
    };

    private static int NumberOf(LocalDate day) => NodaTime.Period.DaysBetween(Epoch, day);

    // The epoch was a Thursday.
    private static int WeekdayOf(int day) => (((day + 3) % 7) + 7) % 7;
}
