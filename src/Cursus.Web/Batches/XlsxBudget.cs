using System.Globalization;
using System.IO.Compression;
using System.Xml;
using Cursus.Core;

namespace Cursus.Web.Batches;

/// <summary>
/// Looks through a workbook before it is read, without keeping anything of it: how much it unpacks to, and whether its sheets say of themselves what
/// no spreadsheet can hold. A reader believes such a file: it makes a row for each number up to two thousand million, and a text as long as the file
/// says.
/// </summary>
internal static class XlsxBudget
{
    /// <summary>An honest sheet of the most rows taken is well below this when unpacked.</summary>
    private const long MaxUnpacked = 256L * 1024 * 1024;

    /// <summary>Characters of one text. A cell has 32,767 at most (limits of spreadsheet programs, common practice, no source); formatted text is cut
    /// into several.</summary>
    private const int MaxText = 32_767;

    private const int MaxParts = 2000;
    private const int MaxDepth = 64;

    // Texts that several cells share may be many, but each is somewhere in a cell.
    private const int MaxTexts = ListFile.MaxRows * 20;

    private static readonly ValidationError TooLarge = new(
        "list-unpacks-too-large",
        $"This workbook unpacks to more than {MaxUnpacked / 1024 / 1024} MB, far more than a list of links. Save the one sheet as CSV and upload that."
    );

    private static readonly ValidationError TooLongText = new(
        "list-cell-too-long",
        $"A cell of this workbook has more than {MaxText:N0} characters. Shorten it, then upload the workbook again."
    );

    /// <summary>Why the workbook is not read; null where nothing speaks against it.</summary>
    /// <exception cref="XmlException">A part is not XML.</exception>
    /// <exception cref="InvalidDataException">It is no ZIP archive, or damaged.</exception>
    public static ValidationError? ErrorOf(byte[] content, CancellationToken cancel)
    {
        using var archive = new ZipArchive(new MemoryStream(content), ZipArchiveMode.Read);
        if (archive.Entries.Count > MaxParts)
        {
            return TooLarge;
        }

        var left = MaxUnpacked;
        foreach (var part in archive.Entries)
        {
            // The sizes that an archive tells of itself may be lies, so what comes out is counted.
            using var stream = new CountedStream(part.Open(), left, cancel);
            var isSheet =
                part.FullName.StartsWith("xl/", StringComparison.OrdinalIgnoreCase)
                && part.FullName.EndsWith(".xml", StringComparison.OrdinalIgnoreCase);
            if ((isSheet ? ErrorOf(stream) : null) is { } error)
            {
                return error;
            }

            stream.CopyTo(Stream.Null);
            left -= stream.Count;
            if (stream.IsOver)
            {
                return TooLarge;
            }
        }

        return null;
    }

    private static ValidationError? ErrorOf(CountedStream part)
    {
        using var reader = XmlReader.Create(
            part,
            new XmlReaderSettings
            {
                DtdProcessing = DtdProcessing.Prohibit,
                XmlResolver = null,
                CheckCharacters = false,
            }
        );
        var buffer = new char[4096];
        var texts = 0;
        while (reader.Read())
        {
            if (part.IsOver)
            {
                return TooLarge;
            }

            if (reader.Depth > MaxDepth)
            {
                throw new XmlException("nested too deep");
            }

            if (reader.NodeType == XmlNodeType.Element)
            {
                if (reader.LocalName == "row" && RowOf(reader.GetAttribute("r")) > ListFile.MaxRows + 1)
                {
                    return CsvList.TooLong();
                }

                if (reader.LocalName == "c" && ColumnOf(reader.GetAttribute("r")) > ListFile.MaxColumns)
                {
                    return CsvList.TooWide();
                }

                texts += reader.LocalName == "si" ? 1 : 0;
                if (texts > MaxTexts)
                {
                    return CsvList.TooLong();
                }
            }
            else if (reader.NodeType is XmlNodeType.Text or XmlNodeType.CDATA)
            {
                var length = 0;
                for (int read; length <= MaxText && (read = reader.ReadValueChunk(buffer, 0, buffer.Length)) > 0; )
                {
                    length += read;
                }

                if (length > MaxText)
                {
                    return TooLongText;
                }
            }
        }

        return null;
    }

    /// <summary>The number of a row as it says itself; more than any where it says no number.</summary>
    private static long RowOf(string? said) =>
        said is null ? 0
        : long.TryParse(said, NumberStyles.None, CultureInfo.InvariantCulture, out var row) ? row
        : long.MaxValue;

    /// <summary>The number of the column in a cell's name: 1 for A, 27 for AA.</summary>
    private static long ColumnOf(string? cell)
    {
        var column = 0L;
        foreach (var letter in (cell ?? "").TakeWhile(char.IsAsciiLetter).Take(8))
        {
            column = column * 26 + (char.ToUpperInvariant(letter) - 'A' + 1);
        }

        return column;
    }

    /// <summary>Counts what is read, and ends where it is more than there may be.</summary>
    private sealed class CountedStream(Stream inner, long most, CancellationToken cancel) : Stream
    {
        public long Count { get; private set; }

        public bool IsOver => Count > most;

        public override bool CanRead => true;

        public override bool CanSeek => false;

        public override bool CanWrite => false;

        public override long Length => throw new NotSupportedException();

        public override long Position
        {
            get => Count;
            set => throw new NotSupportedException();
        }

        public override int Read(byte[] buffer, int offset, int count) => Read(buffer.AsSpan(offset, count));

        public override int Read(Span<byte> buffer)
        {
            cancel.ThrowIfCancellationRequested();
            if (IsOver)
            {
                return 0;
            }

            var read = inner.Read(buffer);
            Count += read;
            return read;
        }

        public override void Flush() { }

        public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

        public override void SetLength(long value) => throw new NotSupportedException();

        public override void Write(byte[] buffer, int offset, int count) => throw new NotSupportedException();

        protected override void Dispose(bool disposing)
        {
            inner.Dispose();
            base.Dispose(disposing);
        }
    }
}
