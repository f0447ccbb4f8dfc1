using System.Text;
using Cursus.Core.Batches;
using Cursus.Web.Batches;
using Cursus.Web.Lists;

namespace Cursus.Web.Tests.Batches;

/// <summary>The rules of RFC 4180, section 2, by their numbers, with its own examples, of what is read and of what is written.</summary>
public class CsvRulesTests
{
    private static IReadOnlyList<IReadOnlyList<string>> Read(string text, out ListTable table)
    {
        ListFile.TryRead(Encoding.UTF8.GetBytes(text), out var read, out var error, TestContext.Current.CancellationToken).ShouldBeTrue(error?.Text);
        table = read!;
        return [.. table.Rows.Select(r => r.Cells)];
    }

    private static IReadOnlyList<IReadOnlyList<string>> Read(string text) => Read("url,title,note\r\n" + text, out _);

    [Fact]
    public void Rules_1_and_2_each_record_is_a_line_and_the_last_may_lack_its_line_break()
    {
        string[][] expected =
        [
            ["aaa", "bbb", "ccc"],
            ["zzz", "yyy", "xxx"],
        ];
        Read("aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n").ShouldBe(expected);
        Read("aaa,bbb,ccc\r\nzzz,yyy,xxx").ShouldBe(expected);
        Read("aaa,bbb,ccc\nzzz,yyy,xxx\n").ShouldBe(expected);
    }

    [Fact]
    public void Rule_3_a_header_line_names_the_columns()
    {
        Read("url,title,price\r\naaa,bbb,ccc\r\nzzz,yyy,xxx\r\n", out var table).Count.ShouldBe(2);
        (table.HasNames, string.Join(' ', table.Columns)).ShouldBe((true, "url title price"));
    }

    [Fact]
    public void Rule_4_a_last_field_may_be_empty_and_a_short_line_is_no_mistake()
    {
        Read("aaa,bbb,\r\nzzz\r\n")
            .ShouldBe([
                ["aaa", "bbb", ""],
                ["zzz"],
            ]);
    }

    [Fact]
    public void Rule_5_fields_may_or_may_not_be_enclosed_in_quotes() =>
        Read("\"aaa\",\"bbb\",\"ccc\"\r\nzzz,yyy,xxx")
            .ShouldBe([
                ["aaa", "bbb", "ccc"],
                ["zzz", "yyy", "xxx"],
            ]);

    [Fact]
    public void Rule_6_line_breaks_quotes_and_commas_stand_inside_quotes() =>
        Read("\"aaa\",\"b \r\nbb\",\"c,cc\"\r\nzzz,yyy,xxx")
            .ShouldBe([
                ["aaa", "b \r\nbb", "c,cc"],
                ["zzz", "yyy", "xxx"],
            ]);

    [Fact]
    public void Rule_7_a_quote_inside_quotes_is_doubled() =>
        Read("\"aaa\",\"b\"\"bb\",\"ccc\"")
            .ShouldBe([
                ["aaa", "b\"bb", "ccc"],
            ]);

    [Fact]
    public void What_is_written_is_read_back_whatever_stands_in_it()
    {
        string[][] rows =
        [
            ["northmoor.example/a,b", "He said “no”, she \"yes\"", "two\r\nlines"],
            ["northmoor.example/ä?x=1;2|3", "tab\there", "日本語 ☾"],
            ["northmoor.example", "", "'"],
        ];
        var file = CsvFile.Of(
            [
                ["url", "title", "note"],
                .. rows,
            ],
            "links.csv"
        );
        Read(Encoding.UTF8.GetString(file.FileContents.Span), out _).ShouldBe(rows);
    }
}
