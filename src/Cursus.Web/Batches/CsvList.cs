using System.Text.RegularExpressions;
using CsvHelper;
using Cursus.Core;
using Cursus.Core.Batches;

namespace Cursus.Web.Batches;

/// <summary>Reads a list from text: comma, semicolon, tab or bar between columns (RFC 4180 for quoting), or simply one address a line.</summary>
internal static partial class CsvList
{
    private const int MaxRecordBytes = 256 * 1024;

    public static (ListTable? Table, ValidationError? Error) Read(string text, string? remark)
    {
        var hint = SeparatorHint().Match(text);
        var body = text[hint.Length..];
        var skipped = hint.Success ? 1 : 0;
        var first = body.AsSpan().TrimStart("\r\n \t").ToString().Split('\n', 2)[0].TrimEnd('\r');
        char? separator = hint.Success ? hint.Groups[1].Value[0] : SeparatorOf(first);
        try
        {
            var hasHeader = CellsOf(first, separator).Any(cell => ColumnNames.FieldOf(cell) is not null);
            if (!hasHeader && !hint.Success && first is not ['"', ..] && separator != '\t')
            {
                // Addresses may have commas, semicolons and bars in them, so that without named columns each line is one address.
                separator = null;
            }

            return separator is null ? ReadLines(body, hasHeader, skipped, remark) : ReadRecords(body, separator.Value, hasHeader, skipped, remark);
        }
        catch (CsvFormatException)
        {
            // The one thing not recovered from: a line longer than any list needs.
            return (
                null,
                new ValidationError(
                    "list-line-too-long",
                    $"A line of this list is longer than {MaxRecordBytes / 1024} kB. A quotation mark is probably left open; correct it, then upload the file again."
                )
            );
        }
    }

    /// <summary>Rows that are too many to be taken in one go.</summary>
    public static ValidationError TooLong() =>
        new("list-too-long", $"This list has more than {ListFile.MaxRows:N0} lines. Cut it into parts and drop them one after the other.");

    public static ValidationError TooWide() =>
        new("list-too-wide", $"This list has more than {ListFile.MaxColumns} columns. Leave those that say nothing about the links out of it.");

    /// <summary>The separator that stands most often outside quotation marks; null where there is none.</summary>
    private static char? SeparatorOf(string line)
    {
        var plain = Quoted().Replace(line, "");
        var (separator, count) = "\t;,|".Select(c => (c, plain.Count(p => p == c))).MaxBy(c => c.Item2);
        return count > 0 ? separator : null;
    }

    private static List<string> CellsOf(string line, char? separator)
    {
        if (separator is null)
        {
            return [line];
        }

        using var reader = CsvReader.FromText(line, Options(separator.Value));
        return reader.Read() ? Cells(reader) : [];
    }

    private static (ListTable? Table, ValidationError? Error) ReadRecords(string body, char separator, bool hasHeader, int skipped, string? remark)
    {
        // An open quotation mark would swallow every line after it, so that a list with one is not guessed at.
        var openQuote = 0L;
        using var reader = CsvReader.FromText(
            body,
            Options(separator, m => openQuote = m.Reason == CsvMalformedReason.UnterminatedQuote ? m.LineNumber : openQuote)
        );
        List<string>? names = null;
        var rows = new List<ListRow>();
        while (reader.Read())
        {
            if (openQuote > 0)
            {
                return (null, OpenQuote(openQuote + skipped));
            }

            var cells = Cells(reader);
            if (cells.Count > ListFile.MaxColumns)
            {
                return (null, TooWide());
            }

            if (hasHeader && names is null)
            {
                names = cells;
            }
            else if (cells.Any(c => c.Length > 0) && !Add(rows, (int)reader.LineNumber + skipped, cells))
            {
                return (null, TooLong());
            }
        }

        return (Table(names, rows, remark), null);
    }

    private static (ListTable? Table, ValidationError? Error) ReadLines(string body, bool hasHeader, int skipped, string? remark)
    {
        List<string>? names = null;
        var rows = new List<ListRow>();
        var line = skipped;
        foreach (var range in body.AsSpan().Split('\n'))
        {
            line++;
            var text = body.AsSpan(range).Trim().ToString();
            if (text.Length == 0)
            {
                continue;
            }

            if (hasHeader && names is null)
            {
                names = [text];
            }
            else if (!Add(rows, line, [text]))
            {
                return (null, TooLong());
            }
        }

        return (Table(names, rows, remark), null);
    }

    private static ValidationError OpenQuote(long line) =>
        new(
            "list-open-quote",
            $"A quotation mark on line {line:N0} is never closed, so the lines after it can’t be told apart. Close it, then upload the file again."
        );

    private static bool Add(List<ListRow> rows, int line, IReadOnlyList<string> cells)
    {
        rows.Add(new ListRow(line, cells));
        return rows.Count <= ListFile.MaxRows;
    }

    /// <summary>The rows under their names, or under made-up ones with the first column taken for the address.</summary>
    public static ListTable Table(IReadOnlyList<string>? names, IReadOnlyList<ListRow> rows, string? remark)
    {
        var width = Math.Max(names?.Count ?? 0, rows.Count == 0 ? 0 : rows.Max(r => r.Cells.Count));
        IReadOnlyList<string> columns =
        [
            .. Enumerable.Range(0, width).Select(i => names?.ElementAtOrDefault(i) is { Length: > 0 } name ? name : $"Column {i + 1}"),
        ];
        IReadOnlyList<ListField?> fields = names is null
            ? [.. columns.Select((_, i) => i == 0 ? ListField.Destination : (ListField?)null)]
            : ColumnNames.FieldsOf(columns);
        return new ListTable(columns, rows, fields, names is not null, remark);
    }

    private static List<string> Cells(CsvReader reader) => [.. Enumerable.Range(0, reader.FieldCount).Select(i => reader.GetString(i).Trim())];

    private static CsvReaderOptions Options(char separator, Action<CsvMalformedRecord>? malformed = null) =>
        new()
        {
            Separator = separator,
            HasHeader = false,
            TrackLineNumbers = true,
            TrimWhitespace = true,
            MaxRecordSize = MaxRecordBytes,
            IncludeValuesInExceptions = false,
            OnMalformedRecord = malformed,
        };

    /// <summary>A first line that names the separator, as spreadsheets write it.</summary>
    [GeneratedRegex(@"\Asep=([,;|\t])\r?\n", RegexOptions.IgnoreCase)]
    private static partial Regex SeparatorHint();

    [GeneratedRegex("\"[^\"]*\"")]
    private static partial Regex Quoted();
}
