using System.Diagnostics.CodeAnalysis;
using System.Text;
using Cursus.Core;
using Cursus.Core.Batches;

namespace Cursus.Web.Batches;

/// <summary>Reads a list of links to make: a pasted text, a CSV file or an XLSX workbook. What it is, is read from its content, not from its
/// name.</summary>
internal static class ListFile
{
    /// <summary>A hundred thousand lines of three hundred characters. Reading takes six times as much memory.</summary>
    public const int MaxBytes = 32 * 1024 * 1024;
    public const int MaxRows = 100_000;
    public const int MaxColumns = 100;

    private const int Sample = 4096;

    /// <summary>The list in <paramref name="content"/>, or why it can't be read.</summary>
    public static bool TryRead(
        byte[] content,
        [NotNullWhen(true)] out ListTable? table,
        [NotNullWhen(false)] out ValidationError? error,
        CancellationToken cancel
    )
    {
        (table, error) = Read(content, cancel);
        if (table is { Rows.Count: 0 })
        {
            error = new ValidationError("list-empty", "This list is empty. Paste addresses, one per line, or choose another file.");
            table = null;
        }

        return table is not null;
    }

    private static (ListTable? Table, ValidationError? Error) Read(byte[] content, CancellationToken cancel)
    {
        if (content.AsSpan().StartsWith("PK\x03\x04"u8))
        {
            return XlsxList.Read(content, cancel);
        }

        if (content.AsSpan().StartsWith((ReadOnlySpan<byte>)[0xD0, 0xCF, 0x11, 0xE0]))
        {
            return (
                null,
                new ValidationError("list-old-workbook", "This is an old Excel file (.xls). Save it as .xlsx or CSV, then upload it again.")
            );
        }

        var encoding = EncodingOf(content);
        return encoding is null || content.AsSpan().StartsWith("%PDF"u8)
            ? (
                null,
                new ValidationError(
                    "list-not-text",
                    "This isn’t a text file or an XLSX workbook. Save the list as CSV or XLSX, then upload it again."
                )
            )
            : CsvList.Read(
                TextOf(content, encoding),
                encoding.WebName == "windows-1252" ? "The file isn’t UTF-8, so it was read as Windows-1252. Check accented letters below." : null
            );
    }

    private static string TextOf(byte[] content, Encoding encoding)
    {
        using var reader = new StreamReader(new MemoryStream(content), encoding, detectEncodingFromByteOrderMarks: true);
        return reader.ReadToEnd();
    }

    /// <summary>By byte order mark, else by where zero bytes stand, else UTF-8 where it is that; else the code page that spreadsheets in Western
    /// Europe save in. Null for what is no text. (Unicode Standard, section 23.8, for the marks; the rest is common practice, no source.)</summary>
    private static Encoding? EncodingOf(byte[] content)
    {
        if (content is [0xFF, 0xFE, ..] or [0xFE, 0xFF, ..] or [0xEF, 0xBB, 0xBF, ..])
        {
            return Encoding.UTF8;
        }

        var start = content.AsSpan(0, Math.Min(content.Length, Sample) & ~1);
        var (zerosAtEven, zerosAtOdd) = (0, 0);
        for (var i = 0; i < start.Length; i += 2)
        {
            zerosAtEven += start[i] == 0 ? 1 : 0;
            zerosAtOdd += start[i + 1] == 0 ? 1 : 0;
        }

        if (zerosAtEven + zerosAtOdd > 0)
        {
            return zerosAtEven == 0 && zerosAtOdd > start.Length / 4 ? Encoding.Unicode
                : zerosAtOdd == 0 && zerosAtEven > start.Length / 4 ? Encoding.BigEndianUnicode
                : null;
        }

        return System.Text.Unicode.Utf8.IsValid(content) ? Encoding.UTF8 : CodePagesEncodingProvider.Instance.GetEncoding(1252);
    }
}
