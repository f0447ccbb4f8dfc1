using Cursus.Core.Batches;

namespace Cursus.Web.Batches;

/// <summary>One line of a list, by what its columns say.</summary>
internal sealed class ListLine(ListRow row, IReadOnlyDictionary<ListField, int> columns)
{
    private static readonly char[] BetweenWords = [',', ';', '|'];

    public int Line => row.Line;

    /// <summary>The cell of <paramref name="field"/>; null where there is no such column or nothing in it.</summary>
    public string? this[ListField field] =>
        columns.TryGetValue(field, out var column) && row.Cells.ElementAtOrDefault(column) is { Length: > 0 } text ? text : null;

    /// <summary>Several words in one cell.</summary>
    public IReadOnlyList<string> Words(ListField field) =>
        this[field]?.Split(BetweenWords, StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries) ?? [];
}
