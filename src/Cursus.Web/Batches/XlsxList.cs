using System.Globalization;
using System.Xml;
using Cursus.Core;
using Cursus.Core.Batches;
using MiniExcelLibs;

namespace Cursus.Web.Batches;

/// <summary>Reads a list from the first sheet of an XLSX workbook (ECMA-376, which is a ZIP archive of XML parts).</summary>
internal static class XlsxList
{
    public static (ListTable? Table, ValidationError? Error) Read(byte[] content, CancellationToken cancel)
    {
        try
        {
            if (XlsxBudget.ErrorOf(content, cancel) is { } error)
            {
                return (null, error);
            }

            using var stream = new MemoryStream(content);
            return ReadRows(stream, cancel);
        }
        catch (Exception e)
            when (e
                    is InvalidDataException
                        or XmlException
                        or KeyNotFoundException
                        or ArgumentException
                        or InvalidOperationException
                        or FormatException
                        or NotSupportedException
                        or NullReferenceException
                        or IndexOutOfRangeException
            )
        {
            // A damaged archive can fail in the reader in any of these ways; none is worth telling apart.
            return (
                null,
                new ValidationError(
                    "list-damaged",
                    "This workbook can’t be opened: it is damaged or protected by a password. Save it again as XLSX or CSV, then retry."
                )
            );
        }
    }

    private static (ListTable? Table, ValidationError? Error) ReadRows(MemoryStream stream, CancellationToken cancel)
    {
        List<string>? names = null;
        var rows = new List<ListRow>();
        var line = 0;
        foreach (IDictionary<string, object?> cells in stream.Query(useHeaderRow: false, excelType: ExcelType.XLSX))
        {
            cancel.ThrowIfCancellationRequested();
            line++;
            if (cells.Count > ListFile.MaxColumns)
            {
                return (null, CsvList.TooWide());
            }

            List<string> texts = [.. cells.Values.Select(TextOf)];
            if (texts.TrueForAll(t => t.Length == 0))
            {
                continue;
            }

            if (rows.Count == 0 && names is null && texts.Exists(t => ColumnNames.FieldOf(t) is not null))
            {
                names = texts;
                continue;
            }

            rows.Add(new ListRow(line, texts));
            if (rows.Count > ListFile.MaxRows)
            {
                return (null, CsvList.TooLong());
            }
        }

        return (CsvList.Table(names, rows, remark: null), null);
    }

    private static string TextOf(object? cell) =>
        cell switch
        {
            null => "",
            DateTime day => day.ToString(day.TimeOfDay == TimeSpan.Zero ? "yyyy-MM-dd" : "yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
            IFormattable value => value.ToString(null, CultureInfo.InvariantCulture),
            _ => cell.ToString()!.Trim(),
        };
}
