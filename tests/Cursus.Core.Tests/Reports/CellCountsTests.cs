using System.Globalization;
using CsCheck;
using Cursus.Core.Clicks.Tallies;
using Cursus.Core.Reports;
using NodaTime;

namespace Cursus.Core.Tests.Reports;

public class CellCountsTests
{
    private static readonly LocalDate Month = new(2026, 3, 1);

    private static readonly Gen<DateRange[]> Ranges = Gen.Select(Gen.Int[-40, 40], Gen.Int[0, 60])
        .Select((from, days) => new DateRange(Month.PlusDays(from), Month.PlusDays(from + days), null))
        .Array[1, 2];

    private static readonly Gen<(int Day, int Hour, int Count)[]> Hours = Gen.Select(Gen.Int[1, 31], Gen.Int[0, 23], Gen.Int[1, 9])
        .Array[0, 40]
        .Select(c => c.OrderBy(x => x.Item1).ToArray());

    [Fact]
    public void Each_step_of_the_calendar_has_the_counts_of_its_days() =>
        Gen.Select(Ranges, Hours, Gen.Enum<CountStep>())
            .Sample(
                (ranges, counts, step) =>
                {
                    var (cells, numbers) = Add(ranges, counts, step, isByWeekHour: false);
                    var expected =
                        from span in ranges.Index()
                        from count in counts
                        let day = Month.PlusDays(count.Day - 1)
                        where day >= span.Item.First && day <= span.Item.Last
                        group count.Count by (
                            span.Index,
                            At: span.Index > 0 ? null : StepOf(day, count.Hour, step, span.Item.Last),
                            Value: step == CountStep.Hour ? "all" : $"{count.Hour}"
                        );
                    cells
                        .All.Select(c => ((c.Cell.Span, c.Cell.At, numbers[c.Value]), c.Clicks))
                        .ShouldBe(expected.Select(e => (e.Key, (long)e.Sum())), ignoreOrder: true);
                },
                iter: 500
            );

    [Fact]
    public void Hours_of_the_week_follow_from_the_day() =>
        Gen.Select(Ranges, Hours)
            .Sample(
                (ranges, counts) =>
                {
                    var (cells, numbers) = Add([ranges[0]], counts, CountStep.Whole, isByWeekHour: true);
                    var expected =
                        from count in counts
                        let day = Month.PlusDays(count.Day - 1)
                        where day >= ranges[0].First && day <= ranges[0].Last
                        group count.Count by $"{((int)day.DayOfWeek - 1) * 24 + count.Hour}";
                    cells.All.Select(c => (numbers[c.Value], c.Clicks)).ShouldBe(expected.Select(e => (e.Key, (long)e.Sum())), ignoreOrder: true);
                },
                iter: 300
            );

    [Fact]
    public void A_link_counts_in_each_group_that_it_is_in()
    {
        var numbers = new ValueNumbers();
        var cells = new CellCounts([new(Month, Month, null)], CountStep.Whole, false, numbers, numbers.Of("all"));
        cells.Add([3, 5], 7, Month, [new(1, 0, 4)]);
        cells.Add([5], 7, 0, 0, 2);
        cells.All.ShouldBe([(new Cell(3, 7, 0, null), 0, 4), (new Cell(5, 7, 0, null), 0, 6)], ignoreOrder: true);
    }

    /// <summary>What is compared with is summed up, unless it is asked for by unit as well.</summary>
    [Theory]
    [InlineData(0)]
    [InlineData(1)]
    [InlineData(2)]
    public void Posts_are_counted_apart_where_that_is_asked_for(int spans)
    {
        var numbers = new ValueNumbers();
        var cells = new CellCounts([new(Month, Month, null), new(Month, Month, null)], CountStep.Whole, false, numbers, numbers.Of("all"), spans);
        cells.Add([2], 0, Month, [new(1, 0, 4)], unit: 7);
        cells.Add([2], 0, Month, [new(1, 0, 5)], unit: 8);
        cells.Add([2], 0, 0, 0, 1, unit: 8);
        cells
            .All.Where(c => c.Cell.Span == 0)
            .Select(c => (c.Cell.Unit, c.Clicks))
            .ShouldBe(spans > 0 ? [(7, 4L), (8, 6L)] : [(0, 10L)], ignoreOrder: true);
        cells
            .All.Where(c => c.Cell.Span == 1)
            .Select(c => (c.Cell.Unit, c.Clicks))
            .ShouldBe(spans > 1 ? [(7, 4L), (8, 5L)] : [(0, 9L)], ignoreOrder: true);
    }

    [Fact]
    public void Links_of_many_groups_are_counted_apart_month_by_month() =>
        Gen.Select(Gen.Int[0, 300], Gen.Int[0, 2], Gen.Int[0, 2], Gen.Int[0, 20], Gen.Long[1, 50])
            .Array[1, 400]
            .Sample(
                rows =>
                {
                    var numbers = new ValueNumbers();
                    var cells = new CellCounts([new(Month, Month.PlusMonths(3), null)], CountStep.Month, false, numbers, numbers.Of("all"));
                    foreach (var (group, held, month, value, count) in rows)
                    {
                        cells.Add([group], held, Month.PlusMonths(month), [new(1, value, (int)count)]);
                    }

                    var expected = rows.GroupBy(r => (new Cell(r.Item1, r.Item2, 0, Month.PlusMonths(r.Item3).AtMidnight()), Value: r.Item4))
                        .Select(g => (g.Key.Item1, g.Key.Value, g.Sum(r => r.Item5)));
                    cells.All.ShouldBe(expected, ignoreOrder: true);
                },
                iter: 100
            );

    private static (CellCounts Cells, ValueNumbers Numbers) Add(
        DateRange[] ranges,
        (int Day, int Hour, int Count)[] counts,
        CountStep step,
        bool isByWeekHour
    )
    {
        var numbers = new ValueNumbers();
        var cells = new CellCounts(ranges, step, isByWeekHour, numbers, numbers.Of("all"));
        cells.Add([0], 0, Month, [.. counts.Select(c => new DayValue(c.Day, numbers.Of(c.Hour.ToString(CultureInfo.InvariantCulture)), c.Count))]);
        return (cells, numbers);
    }

    private static LocalDateTime? StepOf(LocalDate day, int hour, CountStep step, LocalDate last) =>
        step switch
        {
            CountStep.Whole => null,
            CountStep.SevenDays => Enumerable.Range(0, 60).Select(week => last.PlusDays(-6 - 7 * week)).First(from => from <= day).AtMidnight(),
            CountStep.Hour => day.AtMidnight().PlusHours(hour),
            CountStep.Week => day.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday)).AtMidnight(),
            CountStep.Month => day.With(DateAdjusters.StartOfMonth).AtMidnight(),
            _ => day.AtMidnight(),
        };
}
