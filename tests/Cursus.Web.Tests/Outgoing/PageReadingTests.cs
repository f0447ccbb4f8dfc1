using System.Text;
using Cursus.Web.Outgoing;

namespace Cursus.Web.Tests.Outgoing;

/// <summary>What is read of pages, honest and hostile ones.</summary>
public class PageReadingTests
{
    private const int Megabyte = 1 << 20;

    [Fact]
    public void A_page_says_what_it_is_called_and_what_stands_on_it()
    {
        var page = Read(
            """
            <!doctype html><html lang=en><head><meta charset=utf-8><title> Geminids &amp; more </title>
            <meta property="OG:Title" content="Geminids night"><meta name=description content="Look &#39;up&#39;">
            <style>h1 { color: red }</style><script>if (1 < 2) document.write("<h1>No</h1>")</script></head>
            <body><h1>Geminids <em>night</em></h1><p>Bring a blanket.<noscript>Switch scripts on</noscript><template><p>Unseen</p></template>
            <textarea><b>raw</b></textarea><h2>When</h2><h2>Where<h2>Why</h2></body></html>
            """
        );
        page.Title.ShouldBe(" Geminids & more ");
        (page.Meta("og:title"), page.Meta("description"), page.Meta("og:image")).ShouldBe(("Geminids night", "Look 'up'", null));
        page.Headings.ShouldBe(["Geminids night", "When", "Where"]);
        string.Join(' ', page.Text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries))
            .ShouldBe("Geminids nightBring a blanket. <b>raw</b>WhenWhereWhy");
    }

    [Theory]
    [InlineData("iso-8859-2", "<meta charset=\"iso-8859-2\"><title>Żółć</title>")]
    [InlineData("windows-1251", "<meta http-equiv=Content-Type content='text/html; charset=windows-1251'><title>Луна</title>")]
    [InlineData("utf-8", "<meta charset=nothing-known><title>Luna ☾</title>")]
    public void Letters_are_those_of_the_encoding_that_a_page_names(string encoding, string html)
    {
        Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);
        PageReading
            .Of(Encoding.GetEncoding(encoding).GetBytes(html))
            .Title.ShouldBe(html[(html.IndexOf("<title>", StringComparison.Ordinal) + 7)..^8]);
    }

    /// <summary>Each of them kept a processor for minutes where a tree of elements was built, or would where attributes are compared with one
    /// another. The limit of time only ends what would never end.</summary>
    [Theory(Timeout = 120_000)]
    [InlineData("<div>")]
    [InlineData("<b>")]
    [InlineData("<a href=x><b><i><u>")]
    [InlineData("<table><tr><td><table>")]
    [InlineData("<svg><foreignObject><math><mi>")]
    [InlineData("<template>")]
    [InlineData("<h1>")]
    [InlineData("<meta name=a content=b>")]
    [InlineData("&amp;&#65;&notanentity;")]
    [InlineData("<!--")]
    [InlineData("<title>")]
    [InlineData("<script>")]
    [InlineData("</p>")]
    [InlineData("<")]
    [InlineData("\0")]
    public async Task A_megabyte_of_anything_is_read_to_its_end(string piece)
    {
        var body = Encoding.UTF8.GetBytes("<h2>First</h2>" + string.Concat(Enumerable.Repeat(piece, Megabyte / piece.Length)));
        var page = await Task.Run(() => PageReading.Of(body), TestContext.Current.CancellationToken);
        page.Headings.Count.ShouldBeLessThanOrEqualTo(3);
        page.Metas.Count.ShouldBeLessThanOrEqualTo(200);
    }

    [Theory(Timeout = 120_000)]
    [InlineData("<p ", " a{0}=1")]
    [InlineData("<p ", " a=1")]
    [InlineData("<meta ", " name=x{0}")]
    [InlineData("<p x=\"", "{0}")]
    [InlineData("<p", "{0}")]
    public async Task A_tag_of_a_megabyte_is_read_to_its_end(string begin, string piece)
    {
        var tag = new StringBuilder(begin, Megabyte);
        for (var i = 0; tag.Length < Megabyte; i++)
        {
            tag.Append(piece.Replace("{0}", $"{i}", StringComparison.Ordinal));
        }

        var body = Encoding.UTF8.GetBytes(tag.Append("\"><title>After</title>").ToString());
        (await Task.Run(() => PageReading.Of(body), TestContext.Current.CancellationToken)).Title.ShouldBe("After");
    }

    private static PageReading Read(string html) => PageReading.Of(Encoding.UTF8.GetBytes(html));
}
