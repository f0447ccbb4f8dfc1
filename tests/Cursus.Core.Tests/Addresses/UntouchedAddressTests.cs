using Cursus.Core.Addresses;

namespace Cursus.Core.Tests.Addresses;

/// <summary>A valid address is saved as it was given, and pasting changes nothing in it either.</summary>
public class UntouchedAddressTests
{
    /// <summary>What addresses may end with or hold in path, query and fragment by the URL Standard ("URL code points", section 4.3) and by the
    /// habits of sites; common practice, no source.</summary>
    private static readonly string[] Awkward =
    [
        ".",
        "!",
        "?",
        ",",
        ";",
        ":",
        "'",
        "*",
        ")",
        "(",
        "[1]",
        "$",
        "&",
        "+",
        "=",
        "@",
        "~",
        "_",
        "-",
        "…",
        "»",
        "«",
        "”",
        "“",
        "’",
        "‘",
        "|",
        "{id}",
        "^",
        "`",
        "%",
        "%zz",
        "%22",
        "\"",
        "<b>",
        "a<b",
        "(star)",
        "((a)",
        "a))",
        "!!",
        "...",
        "'s",
        "*-*",
        "Y!",
        "What?!",
        "a,b,",
        "a;b;",
        "x:",
        "@you",
        "$5",
        "1+1=2",
        "~me",
        "100%",
        "50%25",
        "a%20b",
        "%E2%98%85",
        "&amp;",
        "&amp;b=1",
        "&copy=2",
        "&lt=3",
        "می\u200cخواهم",
        "👩\u200d🚀",
        "👩\u200d👩\u200d👧",
        "क्\u200dष",
        "a\u00adb",
        "\u2060x",
        "\ufeffx",
        "straße",
        "Øresund",
        "日本語",
        "ελληνικά",
        "שלום",
        "\u200fשלום\u200f",
        "e\u0301",
        "<URL:http://other.example/>",
        "<http://other.example/>",
        "(http://other.example/)",
        "[x](http://other.example/)",
        "http://other.example/",
        "https://other.example/?a=1&b=2",
        "//other.example",
        "../up",
        "./here",
        "a/b//c",
        "a//",
        "a/./b",
        "a/../b",
        "a\\b",
        "=?utf-8?q?",
        "=20",
        "=3D",
        ">quoted",
        "| cell",
        "•",
        "–",
        "—",
        "-",
        "--",
        "ﬁ",
        "１２",
        "٣",
        "#",
        "##",
        "#a#b",
        "#.",
        "#!",
        "#:~:text=a,b",
        "?",
        "??",
        "?a",
        "?a=",
        "?=a",
        "?&",
        "?&&a",
        "?a&a",
        "?a=b=c",
        "?a=b?c",
        "?next=<http://other.example/>",
        "?next=http://other.example/.",
        "?q=\"exact\"",
        "?q=(a)",
        "?q='a'",
        "?q=a*",
        "?q=a+b+",
        "?q=a%2Bb",
        "?q=a;b",
        "?q=a|b",
        "?q={a}",
        "?q=[a]",
        "?q[]=1&q[]=2",
        "?q=💫",
        "?utm_source=a&utm_source=b",
        "?UTM_SOURCE=A",
        "?fbclid=x.",
        "?a=1&amp=2",
        "?a=1&amp;b=2",
        "?a=%26amp;",
        "?$filter=x",
        "?@type=y",
        "?!",
        "?.",
        "?,",
        "?)",
        "?*",
        "?~",
        "?`",
        "?\u200b",
        "?a=\u200d",
        "?a=\u00a0",
        "a\u00a0b",
        "\u3000",
        "a\u2028b",
    ];

    public static TheoryData<string> Addresses()
    {
        var addresses = new TheoryData<string>();
        foreach (var end in Awkward)
        {
            addresses.Add($"https://www.northmoor.example/p/{end}");
            addresses.Add($"http://a.localhost:8080/{end}x?k={end.Replace("#", "", StringComparison.Ordinal)}#{end}");
        }

        return addresses;
    }

    [Theory]
    [MemberData(nameof(Addresses))]
    public void A_valid_address_is_kept_as_it_is(string address)
    {
        if (!Destination.TryParse(address, out var destination, out var error))
        {
            throw new ArgumentException(error.Text, nameof(address));
        }

        destination.AsEntered.ShouldBe(address.TrimEnd(' '));
        if (!address.Any(char.IsWhiteSpace))
        {
            PastedAddress.Clean(address).ShouldBe(address);
        }
    }

    [Fact]
    public void There_are_at_least_150_of_them() => Awkward.Distinct().Count().ShouldBeGreaterThanOrEqualTo(150);
}
