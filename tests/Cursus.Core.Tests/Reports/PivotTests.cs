using CsCheck;
using Cursus.Core.Reports;

namespace Cursus.Core.Tests.Reports;

public class PivotTests
{
    private static readonly Gen<PivotCell[]> Cells = Gen.Select(Gen.Int[0, 90], Gen.Int[0, 60], Gen.Long[1, 1000])
        .Select((row, column, clicks) => new PivotCell($"r{row}", $"Row {row}", $"c{column}", $"Column {column}", clicks))
        .Array[1, 400];

    [Fact]
    public void Nothing_is_lost_however_many_groups_there_are() =>
        Cells.Sample(
            cells =>
            {
                var pivot = Pivot.Of(cells);
                pivot.Rows.Count.ShouldBeLessThanOrEqualTo(Pivot.MostRows + 1);
                pivot.Columns.Count.ShouldBeLessThanOrEqualTo(Pivot.MostColumns + 1);
                pivot.Cells.Sum(r => r.Sum()).ShouldBe(cells.Sum(c => c.Clicks));
                pivot.Rows.Select(r => r.Clicks).ShouldBe(pivot.Cells.Select(r => r.Sum()));
                pivot.Columns.Select((c, i) => (c.Clicks, i)).ShouldAllBe(c => c.Clicks == pivot.Cells.Sum(r => r[c.i]));
            },
            iter: 100
        );

    [Fact]
    public void Rows_rank_by_clicks_and_what_belongs_nowhere_stands_last()
    {
        var pivot = Pivot.Of([new("", "No channel", "a", "A", 50), new("perch", "Perch", "a", "A", 3), new("guildhall", "Guildhall", "b", "B", 9)]);
        pivot.Rows.Select(r => r.Label).ShouldBe(["Guildhall", "Perch", "No channel"]);
        pivot.Cells.ShouldBe([
            [0, 9],
            [3, 0],
            [50, 0],
        ]);
    }

    [Fact]
    public void An_order_of_its_own_shows_also_what_never_came()
    {
        var pivot = Pivot.Of([new("2", "Tuesday", "a", "A", 4)], [("1", "Monday"), ("2", "Tuesday")]);
        pivot.Rows.Select(r => (r.Label, r.Clicks)).ShouldBe([("Monday", 0), ("Tuesday", 4)]);
    }
}
