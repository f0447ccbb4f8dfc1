using CsCheck;
using Cursus.Core.Clicks.Tallies;

namespace Cursus.Core.Tests.Clicks;

public class MonthTallyTests
{
    private static readonly Gen<string> Values = Gen.OneOf("", "GB", "perch.localhost", "Ξένος", "a\0b", new string('x', 300));

    private static readonly Gen<SortedDictionary<int, SortedDictionary<string, int>>> Months = Gen.SortedDictionary(
        Gen.Int[1, 31],
        Gen.SortedDictionary(Values, Gen.OneOf(Gen.Int[1, 200], Gen.Int[1, 10_000_000]))[0, 6]
    )[0, 31];

    [Fact]
    public void What_was_put_together_comes_apart_again() =>
        Months.Sample(
            month =>
                Unpacked(Pack(month))
                    .ShouldBe(month.SelectMany(day => day.Value.OrderBy(c => c.Key, StringComparer.Ordinal).Select(c => (day.Key, c.Key, c.Value)))),
            iter: 500
        );

    [Fact]
    public void Totals_are_what_the_days_come_to() =>
        Months.Sample(
            month =>
            {
                var (numbers, totals) = (new ValueNumbers(), new List<DayValue>());
                MonthTally.UnpackTotals(Pack(month), numbers, totals);
                totals
                    .ToDictionary(t => numbers[t.Value], t => t.Count)
                    .ShouldBe(
                        month
                            .Values.SelectMany(d => d)
                            .GroupBy(c => c.Key, StringComparer.Ordinal)
                            .ToDictionary(g => g.Key, g => g.Sum(c => c.Value)),
                        ignoreOrder: true
                    );
            },
            iter: 300
        );

    [Fact]
    public void Some_days_can_be_counted_anew() =>
        Gen.Select(Months, Months)
            .Sample(
                (before, anew) =>
                {
                    var expected = new SortedDictionary<int, SortedDictionary<string, int>>(before);
                    foreach (var (day, counts) in anew)
                    {
                        expected[day] = counts;
                    }

                    MonthTally.With(Pack(before), [.. anew.Select(Day)]).ShouldBe(Pack(expected));
                },
                iter: 300
            );

    [Fact]
    public void The_same_counts_make_the_same_bytes_and_others_do_not() =>
        Gen.Select(Months, Months)
            .Sample(
                (one, other) =>
                    Pack(one).AsSpan().SequenceEqual(Pack(new(one)))
                    && (Unpacked(Pack(one)).SequenceEqual(Unpacked(Pack(other))) == Pack(one).AsSpan().SequenceEqual(Pack(other))),
                iter: 300
            );

    [Fact]
    public void A_month_of_small_counts_takes_two_bytes_a_count_and_two_a_day()
    {
        var month = new SortedDictionary<int, SortedDictionary<string, int>>(
            Enumerable.Range(1, 30).ToDictionary(day => day, day => new SortedDictionary<string, int> { ["GB"] = day, ["DE"] = 2 * day })
        );
        Pack(month).Length.ShouldBe(1 + 2 * (1 + 2 + 2) + 30 * (2 + 2 * 2));
    }

    [Theory]
    [InlineData(new byte[] { 0x02, 0x01, 0x41 })]
    [InlineData(new byte[] { 0x01, 0x01, 0x41, 0x01, 0x05, 0x01, 0x01, 0x01 })]
    [InlineData(new byte[] { 0xff, 0xff, 0xff, 0xff, 0xff, 0xff })]
    [InlineData(new byte[] { 0x01, 0x01, 0x41, 0x01, 0x05, 0xff, 0x7f })]
    public void Bytes_that_are_none_are_refused(byte[] bytes) => Should.Throw<FormatException>(() => Unpacked(bytes));

    [Theory]
    [InlineData(2, new byte[] { 0x02 })]
    [InlineData(127, new byte[] { 0x7f })]
    [InlineData(128, new byte[] { 0x80, 0x01 })]
    [InlineData(129, new byte[] { 0x81, 0x01 })]
    [InlineData(12857, new byte[] { 0xb9, 0x64 })]
    public void Numbers_are_written_as_in_the_examples_of_the_standard(int number, byte[] expected)
    {
        // The examples of unsigned LEB128 in "DWARF Debugging Information Format", version 5, section 7.6; from memory.
        var packed = MonthTally.Pack([(1, [new("", number)])]);
        packed.AsSpan(^expected.Length..).ToArray().ShouldBe(expected);
    }

    private static byte[] Pack(SortedDictionary<int, SortedDictionary<string, int>> month) => MonthTally.Pack([.. month.Select(Day)]);

    private static (int Day, IReadOnlyList<KeyValuePair<string, int>> Counts) Day(KeyValuePair<int, SortedDictionary<string, int>> day) =>
        (day.Key, [.. day.Value.OrderBy(c => c.Key, StringComparer.Ordinal)]);

    private static List<(int, string, int)> Unpacked(byte[] packed)
    {
        var (numbers, counts) = (new ValueNumbers(), new List<DayValue>());
        MonthTally.Unpack(packed, numbers, counts);
        return counts.ConvertAll(c => (c.Day, numbers[c.Value], c.Count));
    }
}
