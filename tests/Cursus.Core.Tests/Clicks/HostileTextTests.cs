using System.Text.RegularExpressions;
using CsCheck;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Core.Retargeting;
using Cursus.Core.Tests.Retargeting;

namespace Cursus.Core.Tests.Clicks;

/// <summary>Texts that anybody may send or paste: each is read as something, none breaks anything.</summary>
public class HostileTextTests
{
    /// <summary>Pieces that readers look for, and whatever may stand between them.</summary>
    private static Gen<string> Of(params string[] pieces) =>
        Gen.OneOf(Gen.Int[0, pieces.Length - 1].Select(i => pieces[i]), Gen.String[0, 12], Gen.Char.Array[0, 4].Select(c => new string(c)))
            .Array[0, 12]
            .Select(string.Concat);

    /// <summary>Against RFC 9110, section 12.5.4, and RFC 5646, section 2.2.1, read by a regular expression.</summary>
    [Fact]
    public void A_language_is_the_first_primary_subtag_or_none() =>
        Of("en", "de-AT", "zh-Hant;q=0.8", ",", ";q=", "-", "_", "*", " ", "eng", "english", "İ")
            .Sample(
                header =>
                {
                    Span<char> to = stackalloc char[PrimaryLanguage.MaxLength];
                    var expected = Regex.Match(header, @"^\s*([A-Za-z]{2,3})(?![^-_,; ])").Groups[1].Value.ToLowerInvariant();
                    to[..PrimaryLanguage.Read(header, to)].ToString().ShouldBe(expected);
                },
                iter: 20_000
            );

    [Fact]
    public void Every_user_agent_is_read_as_something() =>
        Of(
                "Mozilla/5.0",
                "(X11; Linux x86_64)",
                "AppleWebKit/537.36 (KHTML, like Gecko)",
                "Chrome/",
                "141.0",
                "Firefox/",
                "Mobile",
                "Safari",
                "; ",
                "Build/",
                "(",
                ")",
                "CFNetwork/",
                "bot",
                "${",
                "Android ",
                "iPhone OS ",
                "Windows NT",
                "\0",
                "\ud800"
            )
            .Sample(
                agent =>
                {
                    var cut = agent[..Math.Min(agent.Length, Click.MaxUserAgent)];
                    var (full, brief) = (UserAgentReading.Of(cut, default), UserAgentReading.InBrief(cut, default));
                    full.Browser.ShouldNotBeEmpty();
                    full.Os.ShouldNotBeEmpty();
                    brief.Kind.ShouldBe(full.Kind);
                    brief.Browser.ShouldBe("Other");
                },
                iter: 3_000
            );

    [Fact]
    public void What_is_pasted_as_a_pixel_is_one_of_a_network_or_told_to_be_none()
    {
        string[] pieces =
        [
            "<script>",
            "</script>",
            "<img src=\"https://",
            "px.fairlead.example/hit?p=",
            "FL-204417",
            "beaconry( 'begin', '",
            "9f2c41d07ab3",
            "pixel: '",
            "GH20441733",
            "'",
            "\"",
            "<!--",
            "-->",
            "&amp;",
            "&p=",
            "\\u003c",
            "javascript:",
            "\n",
        ];
        Of(pieces)
            .Sample(
                pasted =>
                {
                    var (readings, error) = PixelSnippet.Read(pasted, SampleNetworks.All);
                    (readings.Count == 0).ShouldBe(error is not null);
                    readings.ShouldAllBe(r => PixelSnippet.Check(r.Network, r.Reference) == null);
                },
                iter: 5_000
            );
    }
}
