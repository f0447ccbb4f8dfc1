using System.Text.RegularExpressions;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Links;

namespace Cursus.Core.Tests.Links;

/// <summary>Redirects that other servers follow. The forms were also followed by nginx 1.22.1 and Apache 2.4.71 themselves, by hand.</summary>
public partial class RedirectListTests
{
    private static readonly KeptRedirect[] Redirects =
    [
        new("Geminids", "https://northmoor.example/events?utm_source=perch&utm_medium=social#top", [1, 3]),
        new("price", WebAddress.Parse("https://northmoor.example/shop/$5%20off?q='a'\\b", null, out _)!.ToString(), [1]),
    ];

    [Fact]
    public void Nginx_reads_each_slug_in_lower_case_and_each_address_as_it_is()
    {
        var text = RedirectList.Nginx("nmoor.localhost", Redirects);
        var read = NginxEntry()
            .Matches(text)
            .ToDictionary(
                m => m.Groups[1].Value,
                m =>
                    m.Groups[2]
                        .Value.Replace("\\\"", "\"", StringComparison.Ordinal)
                        .Replace("\\\\", "\\", StringComparison.Ordinal)
                        .Replace("${cursus_dollar}", "$", StringComparison.Ordinal)
            );
        read.ShouldBe(new Dictionary<string, string> { ["/geminids"] = Redirects[0].To, ["/price"] = Redirects[1].To });
        NginxEntry()
            .Replace(text, "")
            .Split('\n')
            .Where(l => !l.StartsWith('#'))
            .ShouldBe(["geo $cursus_dollar { default \"$\"; }", "map $uri $cursus_to {", "  default \"\";", "", "", "}", ""]);
    }

    [Fact]
    public void Rules_that_other_servers_cannot_follow_stand_in_a_comment_of_one_line_whatever_they_are_called()
    {
        KeptRedirect[] routed = [new("App", "https://northmoor.example/app", [1], "A\n}\u2028--><b>: northmoor.example/b")];
        var nginx = RedirectList.Nginx("nmoor.localhost", routed).Split('\n');
        nginx.ShouldContain("  # /App leads everybody to one page here. Its rules were: A } --><b>: northmoor.example/b");
        nginx.Count(l => l.Contains("--><b>", StringComparison.Ordinal)).ShouldBe(1);
        RedirectList.Apache("nmoor.localhost", routed).ShouldContain("\n# /App leads everybody to one page here.");
        var page = RedirectList.Page(routed[0]);
        page.ShouldContain("<!-- /App leads everybody");
        page.Split("-->").Length.ShouldBe(2, "nothing ends the comment but its end");
    }

    [Fact]
    public void Apache_reads_a_key_a_space_and_an_address_from_each_line() =>
        RedirectList
            .Apache("nmoor.localhost", Redirects)
            .Split('\n', StringSplitOptions.RemoveEmptyEntries)
            .Where(l => !l.StartsWith('#'))
            .Select(l => l.Split(' '))
            .ShouldBe([
                ["/geminids", Redirects[0].To],
                ["/price", Redirects[1].To],
            ]);

    [Fact]
    public void A_page_leads_on_and_lies_where_clicks_and_scans_look_for_it()
    {
        RedirectList.Page(Redirects[0]).ShouldContain("url=https://northmoor.example/events?utm_source=perch&amp;utm_medium=social#top\"");
        RedirectList.Page(Redirects[1] with { To = "https://a.example/\"><script>" }).ShouldNotContain("<script>");
        RedirectList
            .Paths(Redirects[0])
            .ShouldBe([
                "Geminids/index.html",
                "Geminids/1/index.html",
                "Geminids/3/index.html",
                "geminids/index.html",
                "geminids/1/index.html",
                "geminids/3/index.html",
                "GEMINIDS/index.html",
                "GEMINIDS/1/index.html",
                "GEMINIDS/3/index.html",
            ]);
        RedirectList.Paths(Redirects[1]).Count.ShouldBe(4);
    }

    [GeneratedRegex("^  (/\\S+) \"(.*)\";$", RegexOptions.Multiline)]
    private static partial Regex NginxEntry();
}
