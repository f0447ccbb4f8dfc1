using System.IO.Compression;
using System.Text;
using Cursus.Core.Batches;
using Cursus.Web.Batches;
using MiniExcelLibs;

namespace Cursus.Web.Tests.Batches;

/// <summary>Lists as people have them: pasted, saved by spreadsheets of several countries, and broken.</summary>
public class ListFileTests
{
    private static ListTable Read(byte[] content)
    {
        ListFile.TryRead(content, out var table, out var error, TestContext.Current.CancellationToken).ShouldBeTrue(error?.Text);
        return table!;
    }

    private static ListTable Read(string text) => Read(Encoding.UTF8.GetBytes(text));

    private static string CodeOf(byte[] content)
    {
        ListFile.TryRead(content, out _, out var error, TestContext.Current.CancellationToken).ShouldBeFalse();
        error!.Text.ShouldContain(". ");
        return error.Code;
    }

    [Fact]
    public void A_pasted_list_is_one_address_a_line_whatever_stands_in_the_addresses()
    {
        var table = Read("\n northmoor.example/winter?a=1,2;3|4 \r\n\r\nhttps://northmoor.example/shop\n");
        table
            .Rows.Select(r => (r.Line, r.Cells.Single()))
            .ShouldBe([(2, "northmoor.example/winter?a=1,2;3|4"), (4, "https://northmoor.example/shop")]);
        table.Fields.ShouldBe([ListField.Destination]);
    }

    [Fact]
    public void Cells_copied_from_a_spreadsheet_without_names_come_apart_at_tabs()
    {
        var table = Read("northmoor.example/winter\tWinter sky, part 1\nnorthmoor.example/shop\tShop");
        table.Columns.ShouldBe(["Column 1", "Column 2"]);
        table.Rows[0].Cells.ShouldBe(["northmoor.example/winter", "Winter sky, part 1"]);
        table.Fields.ShouldBe([ListField.Destination, null]);
    }

    [Theory]
    [InlineData(",")]
    [InlineData(";")]
    [InlineData("\t")]
    [InlineData("|")]
    public void Named_columns_may_be_separated_in_any_usual_way(string separator)
    {
        var table = Read(
            string.Join(separator, "URL", "Title", "Price") + "\n" + string.Join(separator, "northmoor.example", "\"Sky, night; more|less\"", "3")
        );
        table.Fields.ShouldBe([ListField.Destination, ListField.Title, null]);
        table.Rows.Single().Cells.ShouldBe(["northmoor.example", "Sky, night; more|less", "3"]);
    }

    [Fact]
    public void The_separator_line_that_spreadsheets_write_is_no_row()
    {
        var table = Read("sep=;\r\nurl;title\r\nnorthmoor.example;Sky\r\n");
        (table.Columns.Count, table.Rows.Single().Line).ShouldBe((2, 3));
    }

    /// <summary>RFC 4180, section 2, rules 6 and 7: line breaks, commas and doubled quotation marks inside quotation marks.</summary>
    [Fact]
    public void Line_breaks_inside_quotation_marks_belong_to_the_cell_and_lines_are_counted_as_an_editor_does()
    {
        var table = Read("url,title\r\na.example,\"one\r\ntwo, \"\"three\"\"\"\r\n\r\nb.example,four\r\n");
        table.Rows.Select(r => (r.Line, r.Cells[1])).ShouldBe([(2, "one\r\ntwo, \"three\""), (5, "four")]);
    }

    public static TheoryData<string, byte[]> Encodings =>
        new()
        {
            { "UTF-8", Encoding.UTF8.GetBytes("url,title\nnörd.example,Größe") },
            { "UTF-8 with mark", [.. Encoding.UTF8.Preamble, .. Encoding.UTF8.GetBytes("url,title\nnörd.example,Größe")] },
            { "UTF-16", [.. Encoding.Unicode.Preamble, .. Encoding.Unicode.GetBytes("url,title\nnörd.example,Größe")] },
            {
                "UTF-16, other order",
                [.. Encoding.BigEndianUnicode.Preamble, .. Encoding.BigEndianUnicode.GetBytes("url,title\nnörd.example,Größe")]
            },
            { "UTF-16 without mark", Encoding.Unicode.GetBytes("url,title\nnörd.example,Größe") },
            { "UTF-16, other order without mark", Encoding.BigEndianUnicode.GetBytes("url,title\nnörd.example,Größe") },
            { "Windows-1252", Encoding.Latin1.GetBytes("url,title\nnörd.example,Größe") },
        };

    [Theory]
    [MemberData(nameof(Encodings))]
    public void Every_usual_encoding_is_read(string name, byte[] content)
    {
        var table = Read(content);
        string.Join(" ", table.Columns.Concat(table.Rows.Single().Cells)).ShouldBe("url title nörd.example Größe", name);
        (table.Remark is not null).ShouldBe(name == "Windows-1252");
    }

    [Fact]
    public void A_workbook_is_read_with_its_dates_and_numbers()
    {
        using var stream = new MemoryStream();
        stream.SaveAs(
            new[]
            {
                new
                {
                    Address = "northmoor.example/winter",
                    Title = (object)2026,
                    Published = new DateTime(2026, 3, 24),
                },
            }
        );
        var table = Read(stream.ToArray());
        table.Fields.ShouldBe([ListField.Destination, ListField.Title, ListField.PublishedOn]);
        (table.Rows.Single().Line, string.Join(" ", table.Rows.Single().Cells)).ShouldBe((2, "northmoor.example/winter 2026 2026-03-24"));
    }

    [Fact]
    public void A_list_of_a_million_and_one_lines_is_refused_with_what_to_do() =>
        CodeOf(Encoding.UTF8.GetBytes("url\n" + string.Concat(Enumerable.Repeat("a.example/1\n", 1_000_001)))).ShouldBe("list-too-long");

    [Fact]
    public void An_archive_made_to_fill_memory_is_refused_before_it_does()
    {
        using var stream = new MemoryStream();
        using (var archive = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            using var sheet = archive.CreateEntry("xl/worksheets/sheet1.xml", CompressionLevel.Fastest).Open();
            var spaces = new byte[1024 * 1024];
            spaces.AsSpan().Fill((byte)' ');
            for (var mebibytes = 0; mebibytes < 300; mebibytes++)
            {
                sheet.Write(spaces);
            }
        }

        stream.Length.ShouldBeLessThan(8 * 1024 * 1024);
        CodeOf(stream.ToArray()).ShouldBe("list-unpacks-too-large");
    }

    public static TheoryData<string, byte[]> Unreadable =>
        new()
        {
            { "list-empty", [] },
            { "list-empty", "\n\n  \n"u8.ToArray() },
            { "list-empty", "url,title\n"u8.ToArray() },
            { "list-old-workbook", [0xD0, 0xCF, 0x11, 0xE0, 0xA1, 0xB1, 0x1A, 0xE1] },
            { "list-not-text", "%PDF-1.7 and so on"u8.ToArray() },
            { "list-not-text", [0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A, 0, 0, 0, 0x0D] },
            { "list-damaged", "PK\x03\x04 and then nothing of an archive"u8.ToArray() },
            { "list-open-quote", "url,title\na.example,\"open\nb.example,two\nc.example,three\n"u8.ToArray() },
            {
                "list-line-too-long",
                Encoding.UTF8.GetBytes("url,title\na.example,\"open\n" + string.Concat(Enumerable.Repeat("b.example,x\n", 80_000)))
            },
            { "list-too-wide", Encoding.UTF8.GetBytes("url" + new string(',', 150) + "\na.example" + new string(',', 150)) },
        };

    [Theory]
    [MemberData(nameof(Unreadable))]
    public void What_is_no_list_is_refused_with_what_to_do(string code, byte[] content) => CodeOf(content).ShouldBe(code);
}
