using Cursus.Core.Addresses.Tagging;
using Cursus.Core.Addresses.Urls;

namespace Cursus.Core.Tests.Addresses;

/// <summary>Source: WHATWG URL Standard, by way of Node's implementation of it.</summary>
public class WebAddressAgainstNodeTests
{
    private static readonly string[] Hosts =
    [
        "example.org",
        "EXAMPLE.org",
        "www.northmoor.example",
        "bücher.example",
        "xn--bcher-kva.example",
        "faß.example",
        "例え.テスト",
        "localhost",
        "a.b.c.d.example",
        "127.0.0.1",
        "0x7f.1",
        "0177.0.0.1",
        "2130706433",
        "256.1.1.1",
        "1.2.3",
        "1.2.3.4.5",
        "[::1]",
        "[2001:DB8::0:1]",
        "[1:2::3:4]",
        "[::ffff:192.0.2.1]",
        "[::1",
        "ex%41mple.org",
        "exa mple.org",
        "exa<mple.org",
        "exam%2Fple.org",
        "a_b.example",
        "-a.example",
        "example.org.",
        "0.0.0.0x",
        "foo.0x4",
        "9.example",
        "",
    ];

    private static readonly string[] Ports = ["", "", "", "", ":80", ":443", ":8080", ":", ":0", ":65535", ":65536", ":8o"];

    private static readonly string[] Paths =
    [
        "",
        "/",
        "/a",
        "/a/b/c.html",
        "/a/./b/../c",
        "/../..",
        "/a//b",
        "/%7Euser",
        "/%zz",
        "/a b",
        "/ü",
        "/a/%2e%2E/b",
        "/a/.%2e",
        "\\a\\b",
        "/a;b=1,c",
        "/{x}|yz`",
        "/\"q\"<r>",
        "/a/..;/b",
        "/100%",
        "/emoji/😀",
        "/a'b",
        "/a\tb\nc",
        "/.../",
        "/a/.",
        "/a/..",
    ];

    private static readonly string[] Queries =
    [
        "",
        "",
        "?",
        "?a=1&b=2",
        "?q=a b",
        "?q=ü&x=%FC",
        "?a=1&a=2&=3",
        "?it's",
        "?<>\"#",
        "?a?b",
        "?%",
        "?utm_source=x&utm_source=y",
        "?a[]=1",
        "?`{}|^",
    ];

    private static readonly string[] Fragments = ["", "", "", "#", "#top", "#a b", "#ü", "#a#b", "#`<>\"", "#%20"];

    [Fact]
    public void Addresses_are_read_as_browsers_read_them()
    {
        var random = new Random(3986);
        string Any(string[] choices) => choices[random.Next(choices.Length)];
        var texts = Enumerable
            .Range(0, 6000)
            .Select(_ =>
                Any(["http://", "https://", "HTTP://", "http:/", "https:", "http:\\\\", " https://"])
                + Any(Hosts)
                + Any(Ports)
                + Any(Paths)
                + Any(Queries)
                + Any(Fragments)
            )
            .Distinct()
            .ToList();

        var expected = NodeUrl.Read([.. texts.Select(t => new string?[] { t, null })]);

        texts.Count.ShouldBeGreaterThan(5000);
        Differences(texts, expected, text => WebAddress.Parse(text, null, out _)).ShouldBeEmpty();
    }

    /// <summary>The standard counts ^ among the characters to encode in a path since 2024; Node 20 does not yet, so it stands apart from the
    /// corpus.</summary>
    [Fact]
    public void A_caret_in_a_path_is_encoded() => WebAddress.Parse("https://example.org/a^b", null, out _)!.Path.ShouldBe("/a%5Eb");

    [Fact]
    public void References_are_resolved_as_browsers_resolve_them()
    {
        const string Base = "https://example.org/x/y;z?q=1#old";
        var random = new Random(54);
        string Any(string[] choices) => choices[random.Next(choices.Length)];
        var texts = Enumerable
            .Range(0, 3000)
            .Select(_ => Any(["", "", "/", "//" + Any(Hosts), "./", "../", "https:", "\\", "?x", "#y"]) + Any(Paths) + Any(Queries) + Any(Fragments))
            .Distinct()
            .ToList();
        var origin = WebAddress.Parse(Base, null, out _);

        var expected = NodeUrl.Read([.. texts.Select(t => new string?[] { t, Base })]);

        Differences(texts, expected, text => WebAddress.Parse(text, origin, out _)).ShouldBeEmpty();
    }

    [Fact]
    public void Written_tags_do_not_change_how_a_browser_reads_the_rest()
    {
        var tags = new UtmTags(TagValue.Of("guild hall"), TagValue.Of("söcial&x=1"), TagValue.Of("winter#1"), Content: TagValue.Of("a+b"));
        var texts = Paths.SelectMany(p => Queries.Select(q => "https://example.org" + p + q + "#top")).ToList();
        var written = texts.Select(t => tags.WriteInto(WebAddress.Parse(t, null, out _)!).ToString()).ToList();

        NodeUrl.Read([.. written.Select(w => new string?[] { w, null })]).ShouldBe(written);
    }

    private static List<string> Differences(IReadOnlyList<string> texts, string?[] expected, Func<string, WebAddress?> read) =>
        [
            .. texts
                .Zip(expected, (text, href) => (text, href, ours: read(text)?.ToString()))
                .Where(t => t.href != t.ours)
                .Select(t => $"{t.text} → {t.ours ?? "refused"}, a browser: {t.href ?? "refused"}"),
        ];
}
