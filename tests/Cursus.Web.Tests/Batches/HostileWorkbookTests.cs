using System.IO.Compression;
using System.Text;
using CsCheck;
using Cursus.Web.Batches;

namespace Cursus.Web.Tests.Batches;

/// <summary>Workbooks that say of themselves what no spreadsheet can hold. Each is small and would keep a reader that believes it busy for hours, or
/// fill the memory.</summary>
public class HostileWorkbookTests
{
    /// <summary>What may be allocated for a file of a few kilobytes, in bytes.</summary>
    private const long Budget = 200L * 1024 * 1024;

    public static TheoryData<string, string> Sheets =>
        new()
        {
            { "list-too-long", Row("<row r=\"2147483647\"><c r=\"A2147483647\" t=\"inlineStr\"><is><t>northmoor.example</t></is></c></row>") },
            { "list-too-long", Row("<row r=\"99999999999999999999\"><c r=\"A1\"/></row>") },
            { "list-too-wide", Row("<row r=\"1\"><c r=\"ZZZZZZ1\" t=\"inlineStr\"><is><t>northmoor.example</t></is></c></row>") },
            { "list-cell-too-long", Row($"<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>{new string('x', 20_000_000)}</t></is></c></row>") },
            { "list-damaged", Row(string.Concat(Enumerable.Repeat("<row>", 5000))) },
            {
                "list-damaged",
                "<!DOCTYPE x [<!ENTITY a \"aaaa\"><!ENTITY b \"&a;&a;&a;&a;\">]>"
                    + Row("<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>&b;</t></is></c></row>")
            },
        };

    [Theory, MemberData(nameof(Sheets))]
    public void A_sheet_that_no_spreadsheet_can_hold_is_refused_for_what_it_says(string code, string sheet) => ShouldBeRefused(Workbook(sheet), code);

    [Fact]
    public void Endless_shared_texts_are_refused()
    {
        var texts =
            "<sst xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\">"
            + string.Concat(Enumerable.Repeat("<si><t/></si>", ListFile.MaxRows * 20 + 1))
            + "</sst>";
        ShouldBeRefused(Workbook(Row("<row r=\"1\"><c r=\"A1\" t=\"s\"><v>0</v></c></row>"), texts), "list-too-long");
    }

    [Fact]
    public void Whoever_has_gone_is_not_read_for()
    {
        using var gone = new CancellationTokenSource();
        gone.Cancel();
        Should.Throw<OperationCanceledException>(() => ListFile.TryRead(Workbook(Row("<row r=\"1\"/>")), out _, out _, gone.Token));
    }

    /// <summary>Files that were changed at random are read or refused, and never fail otherwise.</summary>
    [Fact]
    public void Whatever_bytes_a_workbook_or_its_parts_have_it_is_read_or_refused()
    {
        var sheet = Row(
            "<row r=\"1\"><c r=\"A1\" t=\"inlineStr\"><is><t>Address</t></is></c></row><row r=\"2\"><c r=\"A2\" t=\"s\"><v>0</v></c><c r=\"B2\"><v>45000.5</v></c></row>"
        );
        const string texts = "<sst xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\"><si><t>northmoor.example</t></si></sst>";
        var whole = Workbook(sheet, texts);
        ListFile.TryRead(whole, out var table, out var error, TestContext.Current.CancellationToken).ShouldBeTrue(error?.Text);
        table!.Rows.Count.ShouldBe(1);
        Gen.Select(Gen.Bool, Gen.Select(Gen.Int[0, 100_000], Gen.Byte).Array[1, 6])
            .Sample(
                (isOfPart, changes) =>
                {
                    var bytes = isOfPart ? Encoding.UTF8.GetBytes(sheet) : [.. whole];
                    foreach (var (where, with) in changes)
                    {
                        bytes[where % bytes.Length] = with;
                    }

                    var isRead = ListFile.TryRead(
                        isOfPart ? Workbook(Encoding.UTF8.GetString(bytes), texts) : bytes,
                        out _,
                        out var refused,
                        TestContext.Current.CancellationToken
                    );
                    (isRead || refused!.Text.Length > 0).ShouldBeTrue();
                },
                iter: 500
            );
    }

    private static void ShouldBeRefused(byte[] workbook, string code)
    {
        var before = GC.GetAllocatedBytesForCurrentThread();
        ListFile.TryRead(workbook, out _, out var error, TestContext.Current.CancellationToken).ShouldBeFalse();
        error!.Code.ShouldBe(code);
        (GC.GetAllocatedBytesForCurrentThread() - before).ShouldBeLessThan(Budget);
    }

    private static string Row(string rows) =>
        $"<worksheet xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\"><sheetData>{rows}</sheetData></worksheet>";

    private static byte[] Workbook(string sheet, string? texts = null)
    {
        using var file = new MemoryStream();
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            Part("[Content_Types].xml", "<Types xmlns=\"http://schemas.openxmlformats.org/package/2006/content-types\"/>");
            Part(
                "xl/workbook.xml",
                "<workbook xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\" xmlns:r=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships\"><sheets><sheet name=\"Links\" sheetId=\"1\" r:id=\"rId1\"/></sheets></workbook>"
            );
            Part(
                "xl/_rels/workbook.xml.rels",
                "<Relationships xmlns=\"http://schemas.openxmlformats.org/package/2006/relationships\"><Relationship Id=\"rId1\" Type=\"http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet\" Target=\"worksheets/sheet1.xml\"/></Relationships>"
            );
            Part("xl/worksheets/sheet1.xml", sheet);
            if (texts is not null)
            {
                Part("xl/sharedStrings.xml", texts);
            }

            void Part(string name, string content)
            {
                using var stream = zip.CreateEntry(name).Open();
                stream.Write(Encoding.UTF8.GetBytes(content));
            }
        }

        return file.ToArray();
    }
}
