using System.Globalization;
using System.Runtime.InteropServices;
using Cursus.Core.Clicks.Tallies;
using NodaTime;

namespace Cursus.Data.Reports.Counts;

/// <summary>Reads in which hours placements were clicked, one placement after the other into one list: there may be tens of thousands of them, with
/// millions of hours. Hours are counted from an epoch, since a calendar's are slow to count.</summary>
internal sealed class PlacementHours
{
    /// <summary>What the roll-ups hold of a placement.</summary>
    public sealed class Held
    {
        /// <summary>Key and label of the groups that it is in.</summary>
        public List<(string Key, string Label)> Groups { get; } = [];

        /// <summary>Adds a group that it is in, unless it is known; its months come once with each. Says whether it is the first.</summary>
        public bool Add(string key, string label)
        {
            var place = Groups.FindIndex(g => g.Key == key);
            if (place < 0)
            {
                place = Groups.Count;
                Groups.Add((key, label));
            }

            return place == 0;
        }

        /// <summary>The day on which it went out.</summary>
        public LocalDate PlacedOn { get; init; }

        /// <summary>When its link opened; null where it was open from the beginning.</summary>
        public Instant? OpenedAt { get; init; }

        public List<(LocalDate Month, byte[] Hours)> Months { get; } = [];

        public List<(LocalDate Day, int[] Hours)> OpenDays { get; } = [];
    }

    private const int HoursOfDay = 24;

    private static readonly LocalDate Epoch = new(1970, 1, 1);

    private readonly ValueNumbers numbers = new();
    private readonly List<DayValue> counts = [];
    private readonly List<(int Hour, long Clicks)> hours = [];

    public PlacementHours()
    {
        // Each hour of the day is its own number.
        foreach (var hour in Enumerable.Range(0, HoursOfDay))
        {
            numbers.Of(hour.ToString(CultureInfo.InvariantCulture));
        }
    }

    /// <summary>Clicks by hour, in no order. They hold until the next ones are read.</summary>
    public Span<(int Hour, long Clicks)> Of(Held placement)
    {
        hours.Clear();
        foreach (var (month, packed) in placement.Months)
        {
            MonthTally.Unpack(packed, numbers, counts);
            var first = NumberOf(month.AtMidnight());
            foreach (var (day, hour, clicks) in counts)
            {
                hours.Add((first + (day - 1) * HoursOfDay + hour, clicks));
            }
        }

        foreach (var (day, ofDay) in placement.OpenDays)
        {
            var first = NumberOf(day.AtMidnight());
            hours.AddRange(ofDay.Index().Where(h => h.Item > 0).Select(h => (first + h.Index, (long)h.Item)));
        }

        return CollectionsMarshal.AsSpan(hours);
    }

    /// <summary>The first hour of a day of a packed month that was clicked in.</summary>
    public int FirstOf(byte[] month, LocalDate day)
    {
        MonthTally.Unpack(month, numbers, counts);
        return counts.Where(c => c.Day == day.Day).Min(c => c.Value);
    }

    /// <summary>The number of an hour, from the epoch.</summary>
    public static int NumberOf(LocalDateTime hour) => Period.DaysBetween(Epoch, hour.Date) * HoursOfDay + hour.Hour;

    /// <summary>When an hour begins.</summary>
    public static LocalDateTime BeginOf(int number) => Epoch.AtMidnight().PlusHours(number);
}
