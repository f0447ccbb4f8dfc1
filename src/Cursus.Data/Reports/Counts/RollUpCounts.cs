using System.Globalization;
using System.Runtime.InteropServices;
using Cursus.Core.Clicks.Tallies;
using Cursus.Core.Reports;
using Cursus.Data.Clicks;
using Cursus.Data.Reports.Questions;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Reports.Counts;

/// <summary>
/// What the roll-ups hold of the links that are asked about, added up: months up to the first day that isn't sealed, days from it on, and the clicks
/// themselves for a part of a day. Reading it takes most of the time of an answer, so that all of a row that an answer needs is added in one go.
/// </summary>
internal sealed class RollUpCounts
{
    /// <summary>People's clicks among <see cref="DayOfLink.Counted"/>.</summary>
    public const string Clicks = "clicks";

    /// <summary>People, each anew on each link and day, among <see cref="DayOfLink.Counted"/>.</summary>
    public const string Visitors = "visitors";

    private const int HoursOfDay = 24;

    private readonly ValueNumbers numbers = new();
    private readonly PackedBytes bytes = new();
    private readonly List<DayValue> kinds = [];
    private readonly List<DayValue> values = [];
    private readonly List<Guid?> helds = [null];
    private readonly Dictionary<Guid, int> heldNumbers = [];
    private readonly PickedLinks picked;
    private readonly IReadOnlyList<DateRange> ranges;
    private readonly ClickDetail? detail;
    private readonly PostStarts? starts;
    private readonly string? column;
    private readonly bool needsDays;
    private readonly bool needsKinds;
    private readonly string? comparisonKey;
    private readonly int clicks;
    private readonly int visitors;
    private readonly int[] ages;
    private readonly CellCounts cells;
    private readonly CellCounts all;

    /// <param name="detail">The one thing that clicks tell and that is counted by; null where they all count alike.</param>
    /// <param name="starts">When posts went out, where that matters.</param>
    /// <param name="comparisonKey">What of its link a click is held against, as dimensions say it.</param>
    /// <param name="needsAll">Whether <see cref="All"/> is needed, and which links were clicked.</param>
    /// <param name="unitSpans">In how many of the ranges, from the first, units are counted apart.</param>
    private RollUpCounts(
        PickedLinks picked,
        IReadOnlyList<DateRange> ranges,
        CountStep step,
        ClickDetail? detail,
        PostStarts? starts,
        string? comparisonKey,
        bool needsAll,
        int unitSpans,
        IsoDayOfWeek weekStart
    )
    {
        (this.picked, this.ranges, this.detail, this.starts, this.comparisonKey) = (picked, ranges, detail, starts, comparisonKey);
        column = step == CountStep.Hour ? ClickDetail.Hours : detail?.Tally;
        needsKinds = needsAll || column is null;
        needsDays = step is not (CountStep.Whole or CountStep.Month) || column == ClickDetail.Hours;
        (clicks, visitors) = (numbers.Of(Clicks), numbers.Of(Visitors));
        ages = [.. PostAge.All.Select((_, place) => numbers.Of(place.ToString(CultureInfo.InvariantCulture)))];
        cells = new(ranges, step, detail?.Reading == TallyReading.HoursOfWeek, numbers, clicks, unitSpans, weekStart);
        all = new(ranges, CountStep.Whole, false, numbers, clicks);
    }

    /// <summary>People's clicks of each cell and value, where one is observed.</summary>
    public IEnumerable<(Cell Cell, string Value, Guid? Held, long Count)> Cells =>
        cells.All.Select(c => (c.Cell, numbers[c.Value], helds[c.Cell.Held], c.Clicks));

    /// <summary>People's clicks, and visitors, of each cell, where nothing is observed. The other kinds are only told of all groups
    /// together.</summary>
    public IEnumerable<CountedCell> OfPeople =>
        cells
            .All.Where(c => c.Value == clicks || c.Value == visitors)
            .Select(c => new CountedCell(c.Cell.Group, c.Cell.Span, c.Cell.At, c.Cell.Unit, c.Value == clicks, c.Clicks));

    /// <summary>What was counted of each kind in what is asked and in what it is compared with, whatever clicks tell. A link counts once, in however
    /// many groups it is.</summary>
    public IReadOnlyDictionary<(int Span, string Kind), long>? All =>
        !needsKinds ? null : all.All.ToDictionary(c => (c.Cell.Span, numbers[c.Value]), c => c.Clicks);

    /// <summary>Reads and adds all that a question asks for.</summary>
    public static async Task<RollUpCounts> Read(
        Snapshot snapshot,
        Question question,
        PickedLinks picked,
        IReadOnlyList<DateRange> ranges,
        CountStep step,
        ClickDetail? detail,
        string? comparisonKey,
        bool needsAll,
        int unitSpans,
        CancellationToken cancel
    )
    {
        var counts = new RollUpCounts(picked, ranges, step, detail, question.Starts, comparisonKey, needsAll, unitSpans, question.WeekStart);
        await counts.AddMonths(snapshot, question, cancel);
        await counts.AddDays(snapshot, question, cancel);
        foreach (var (span, range) in ranges.Index())
        {
            if (range.Rest is { } rest)
            {
                await snapshot.Each(
                    [.. question.Parameters],
                    CountedSql.InPartOfDay(question, range, rest, detail),
                    row => counts.AddPart(span, row.GetGuid(0), row.GetString(1), row.GetInt64(2)),
                    cancel
                );
            }
        }

        return counts;
    }

    private async Task AddMonths(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var months = ranges.SelectMany(s => s.Months).Distinct().Where(m => m < snapshot.SealedUntil).ToArray();
        if (months.Length == 0)
        {
            return;
        }

        var whole = needsDays
            ? []
            : months.Where(m => ranges.All(s => s.IsAllOrNoneOf(m, LocalDate.Min(m.PlusMonths(1), snapshot.SealedUntil)))).ToHashSet();
        var (last, isWhole) = (LocalDate.MinIsoValue, false);
        var columns = needsKinds && column is not null ? $"r.kinds, r.{column}" : $"r.{column ?? "kinds"}";
        await snapshot.Each(
            [.. question.Parameters, ("months", months)],
            $"""
            with {CountedSql.Picked(question, [])}
            select r.link_id, r.month, {columns} from link_months r join picked l on l.id = r.link_id where r.month = any(@months)
            """,
            row =>
            {
                var month = row.GetFieldValue<LocalDate>(1);
                if (month != last)
                {
                    (last, isWhole) = (month, whole.Contains(month));
                }

                if (needsKinds)
                {
                    Unpack(2, kinds);
                }

                if (column is not null)
                {
                    Unpack(needsKinds ? 3 : 2, values);
                }

                Add(row.GetGuid(0), month);

                void Unpack(int place, List<DayValue> into)
                {
                    var packed = bytes.Of(row, place);
                    if (isWhole)
                    {
                        MonthTally.UnpackTotals(packed, numbers, into);
                    }
                    else
                    {
                        MonthTally.Unpack(packed, numbers, into);
                    }
                }
            },
            cancel
        );
    }

    private async Task AddDays(Snapshot snapshot, Question question, CancellationToken cancel)
    {
        var open = ranges.Select(s => (First: LocalDate.Max(s.First, snapshot.SealedUntil), s.Last)).Where(s => s.First <= s.Last).Index().ToList();
        if (open.Count == 0)
        {
            return;
        }

        var counts = string.Join(", ", DayOfLink.Counted.Select(k => $"r.{k}"));
        var tallies = column switch
        {
            null => "",
            ClickDetail.Hours => ", r.hours",
            _ => $", r.{column}_values, r.{column}_counts",
        };
        var days = string.Join(" or ", open.Select(o => $"r.day between @first{o.Index} and @last{o.Index}"));
        await snapshot.Each(
            [
                .. question.Parameters,
                .. open.SelectMany(o => new (string, object)[] { ($"first{o.Index}", o.Item.First), ($"last{o.Index}", o.Item.Last) }),
            ],
            $"""
            with {CountedSql.Picked(question, [])}
            select r.link_id, r.day, {counts}{tallies}
            from open_days r join picked l on l.id = r.link_id where {days}
            """,
            row =>
            {
                var day = row.GetFieldValue<LocalDate>(1);
                kinds.Clear();
                values.Clear();
                foreach (var (place, kind) in DayOfLink.Counted.Index())
                {
                    ReadCount(kinds, day.Day, kind, row.GetInt32(2 + place));
                }

                if (column is not null)
                {
                    ReadDay(row, day.Day);
                }

                Add(row.GetGuid(0), day);
            },
            cancel
        );
    }

    private void ReadDay(NpgsqlDataReader row, int day)
    {
        var after = 2 + DayOfLink.Counted.Count;
        if (column == ClickDetail.Hours)
        {
            foreach (var (hour, count) in row.GetFieldValue<int[]>(after).Index())
            {
                ReadCount(values, day, $"{hour}", count);
            }

            return;
        }

        foreach (var (value, count) in row.GetFieldValue<string[]>(after).Zip(row.GetFieldValue<int[]>(after + 1)))
        {
            ReadCount(values, day, value, count);
        }
    }

    /// <summary>Takes a count as months have it: what did not come is not in it.</summary>
    private void ReadCount(List<DayValue> into, int day, string value, int count)
    {
        if (count > 0)
        {
            into.Add(new(day, numbers.Of(value), count));
        }
    }

    /// <summary>Adds what was read of a link's month or day.</summary>
    /// <param name="month">Any day of the month.</param>
    private void Add(Guid id, LocalDate month)
    {
        if (picked.Of(id) is not { } link)
        {
            return;
        }

        if (detail?.Reading == TallyReading.HoursSincePost)
        {
            BecomeAges(values, month, starts!.Of(id));
        }

        cells.Add(link.Groups, HeldOf(link), month, Of(column is null ? kinds : values), link.Unit);
        if (!needsKinds)
        {
            return;
        }

        var before = ClicksAsked;
        all.Add([0], 0, month, Of(kinds));
        link.IsClicked = link.IsClicked || ClicksAsked > before;
    }

    /// <summary>Makes counts by hour of the day counts by the age of the link's post.</summary>
    /// <param name="month">Any day of the month of the counts.</param>
    private void BecomeAges(List<DayValue> hours, LocalDate month, LocalDateTime? wentOut)
    {
        var before = PlacementHours.NumberOf(month.With(DateAdjusters.StartOfMonth).AtMidnight()) - HoursOfDay;
        var start = wentOut is { } at ? PlacementHours.NumberOf(at) : (int?)null;
        foreach (ref var hour in CollectionsMarshal.AsSpan(hours))
        {
            var age = PostAge.PlaceOf(before + hour.Day * HoursOfDay + int.Parse(numbers[hour.Value], CultureInfo.InvariantCulture) - start);
            hour = hour with { Value = ages[age] };
        }
    }

    /// <summary>People's clicks in what is asked, as far as they are counted.</summary>
    private long ClicksAsked => all.CountOf(0, 0, 0, clicks);

    private void AddPart(int span, Guid id, string told, long count)
    {
        if (picked.Of(id) is { } link)
        {
            all.Add([0], 0, span, clicks, count);
            cells.Add(link.Groups, HeldOf(link), span, column is null ? clicks : numbers.Of(told), count, link.Unit);
        }
    }

    private int HeldOf(PickedLink link)
    {
        if (
            (
                comparisonKey switch
                {
                    null => null,
                    "channel_id" => link.ChannelId,
                    _ => link.Id,
                }
            )
            is not { } against
        )
        {
            return 0;
        }

        if (!heldNumbers.TryGetValue(against, out var number))
        {
            heldNumbers[against] = number = helds.Count;
            helds.Add(against);
        }

        return number;
    }

    private static ReadOnlySpan<T> Of<T>(List<T> list) => CollectionsMarshal.AsSpan(list);
}
