namespace Cursus.Core.Batches;

/// <summary>A list of links to make, as rows and columns of text.</summary>
/// <param name="Columns">Names of the columns; made up as “Column 1” where the list has none.</param>
/// <param name="Rows">Lines with something in them; the line with the columns' names is not among them.</param>
/// <param name="Fields">What each column probably says; null where nobody can tell.</param>
/// <param name="HasNames">Whether the columns' names are the list's own.</param>
/// <param name="Remark">Something the person should know about how the list was read; null where there is nothing.</param>
public sealed record ListTable(
    IReadOnlyList<string> Columns,
    IReadOnlyList<ListRow> Rows,
    IReadOnlyList<ListField?> Fields,
    bool HasNames = false,
    string? Remark = null
);

/// <summary>One line of a list.</summary>
/// <param name="Line">Counted from one as a text editor or spreadsheet counts, the header and empty lines included.</param>
/// <param name="Cells">May be fewer or more than there are columns.</param>
public sealed record ListRow(int Line, IReadOnlyList<string> Cells);
