using System.Globalization;
using CsvHelper;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Lists;

/// <summary>A table as a CSV file to take away (RFC 4180). Cells that a spreadsheet would run as formulas are defused.</summary>
internal static class CsvFile
{
    public const string ContentType = "text/csv; charset=utf-8";

    /// <param name="rows">The header first.</param>
    /// <param name="hasByteOrderMark">Spreadsheets know UTF-8 by it; other programs may stumble over it.</param>
    public static FileContentHttpResult Of(IEnumerable<string?[]> rows, string name, bool hasByteOrderMark = true)
    {
        using var content = new MemoryStream();
        using (var writer = Begin(content, hasByteOrderMark))
        {
            foreach (var row in rows)
            {
                Write(writer, row);
            }
        }

        return TypedResults.File(content.ToArray(), ContentType, name);
    }

    /// <summary>A number as every program reads it.</summary>
    public static string Text(long number) => number.ToString(CultureInfo.InvariantCulture);

    /// <summary>A moment by the clock of a zone (RFC 3339).</summary>
    public static string Time(Instant at, DateTimeZone zone) => OffsetDateTimePattern.Rfc3339.Format(at.InZone(zone).ToOffsetDateTime());

    /// <summary>A table that is written row by row; the stream stays open.</summary>
    public static CsvWriter Begin(Stream stream, bool hasByteOrderMark = true) =>
        CsvWriter.Create(stream, new CsvWriterOptions { WriteByteOrderMark = hasByteOrderMark, Injection = CsvInjection.Escape }, leaveOpen: true);

    public static void Write(CsvWriter writer, string?[] row)
    {
        foreach (var cell in row)
        {
            writer.WriteField(cell ?? "");
        }

        writer.EndRecord();
    }
}
