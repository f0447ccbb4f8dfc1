namespace Cursus.Core.Reports;

/// <summary>People's clicks that belong to one group of each of two dimensions.</summary>
public sealed record PivotCell(string RowKey, string RowLabel, string ColumnKey, string ColumnLabel, long Clicks);

/// <summary>A row or a column.</summary>
/// <param name="Key">Null for the sum of those that are not listed one by one.</param>
public sealed record PivotSide(string? Key, string Label, long Clicks);

/// <summary>A table of clicks by two dimensions. What does not fit is summed up in a last row and column, so that nothing is cut silently.</summary>
/// <param name="Cells">For each row, the clicks in each column.</param>
public sealed record Pivot(IReadOnlyList<PivotSide> Rows, IReadOnlyList<PivotSide> Columns, IReadOnlyList<IReadOnlyList<long>> Cells)
{
    /// <summary>The most rows that are listed one by one.</summary>
    public const int MostRows = 50;

    /// <summary>The most columns that are listed one by one.</summary>
    public const int MostColumns = 30;

    /// <param name="rowOrder">All rows in an order of their own; null ranks them by clicks, those without a key last.</param>
    /// <param name="columnOrder">The same for columns.</param>
    public static Pivot Of(
        IReadOnlyCollection<PivotCell> cells,
        IReadOnlyList<(string Key, string Label)>? rowOrder = null,
        IReadOnlyList<(string Key, string Label)>? columnOrder = null
    )
    {
        var rows = Sides(cells.Select(c => (c.RowKey, c.RowLabel, c.Clicks)), rowOrder, MostRows);
        var columns = Sides(cells.Select(c => (c.ColumnKey, c.ColumnLabel, c.Clicks)), columnOrder, MostColumns);
        var placeOfRow = PlaceOf(rows);
        var placeOfColumn = PlaceOf(columns);
        var table = rows.Select(_ => new long[columns.Count]).ToArray();
        foreach (var cell in cells)
        {
            table[placeOfRow(cell.RowKey)][placeOfColumn(cell.ColumnKey)] += cell.Clicks;
        }

        return new(rows, columns, table);
    }

    private static List<PivotSide> Sides(
        IEnumerable<(string Key, string Label, long Clicks)> cells,
        IReadOnlyList<(string Key, string Label)>? order,
        int most
    )
    {
        var groups = cells.GroupBy(c => c.Key).ToDictionary(g => g.Key, g => new PivotSide(g.Key, g.First().Label, g.Sum(c => c.Clicks)));
        if (order is not null)
        {
            return [.. order.Select(o => groups.GetValueOrDefault(o.Key) ?? new PivotSide(o.Key, o.Label, 0))];
        }

        var ranked = groups.Values.OrderBy(g => g.Key == "").ThenByDescending(g => g.Clicks).ThenBy(g => g.Label, StringComparer.Ordinal).ToList();
        return ranked.Count <= most
            ? ranked
            : [.. ranked.Take(most), new PivotSide(null, $"{ranked.Count - most} others", ranked.Skip(most).Sum(g => g.Clicks))];
    }

    private static Func<string, int> PlaceOf(List<PivotSide> sides)
    {
        var places = sides.Index().Where(s => s.Item.Key is not null).ToDictionary(s => s.Item.Key!, s => s.Index);
        return key => places.GetValueOrDefault(key, sides.Count - 1);
    }
}
