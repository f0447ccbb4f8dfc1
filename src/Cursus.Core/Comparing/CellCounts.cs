using System.Globalization;
using System.Runtime.CompilerServices;
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
    private readonly List<(int Group, int Held, int Span, int Step)> counted = [];
    private readonly List<Sum> sums = [];

    // Places in the lists. Where all of a stretch is one step there may be tens of thousands of groups, of which each row meets another one: their places are found without hashing.
    private readonly Dictionary<(int Group, int Held, int Span, int Step), int> places = [];
    private readonly int[][] placesOfGroups = [.. spans.Select(_ => Array.Empty<int>())];
    private (LocalDate Month, int Before) last = (Epoch, -1);
    private readonly bool isStepped = step != CountStep.Whole;
    private readonly int[] weekHours = isByWeekHour ? [.. Enumerable.Range(0, HoursOfWeek).Select(h => numbers.Of(h.ToString(CultureInfo.InvariantCulture)))] : [];
    private readonly List<int> hours = [];

    /// <summary>What was counted of one cell, by number of the value: that of few values side by side with that of other cells, where the processor finds it at once.</summary>
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
                var (cell, sum) = (new Cell(group, held, span, span > 0 ? null : AtOf(number)), sums[place]);
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

    /// <summary>Adds days of a link.</summary>
    /// <param name="groups">The groups that the link is in.</param>
    /// <param name="month">Any day of the month of the days.</param>
    public void Add(ReadOnlySpan<int> groups, int held, LocalDate month, ReadOnlySpan<DayValue> counts)
    {
        // Rows of one month come one after the other.
        if (last.Month != month)
        {
            last = (month, NumberOf(month) - month.Day);
        }

        for (var span = 0; span < days.Length; span++)
        {
            foreach (var group in groups)
            {
                Add(group, held, span, last.Before, counts);
            }
        }
    }

    private void Add(int group, int held, int span, int beforeMonth, ReadOnlySpan<DayValue> counts)
    {
        var (first, last) = days[span];
        var (day, isInside, hourOfWeek, number) = (int.MinValue, false, 0, int.MinValue);
        ref var sum = ref Unsafe.NullRef<Sum>();
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
            if (Unsafe.IsNullRef(ref sum) || now != number)
            {
                number = now;
                sum = ref SumOf(group, held, span, now);
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
