using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using AngleSharp.Dom;
using AngleSharp.Html.Parser;
using CsCheck;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;

namespace Cursus.Core.Tests.Retargeting;

public class HandoffPageTests
{
    private static readonly HandoffQuestion Question = new(
        "en",
        ConsentWords.In("en"),
        "Northmoor Observatory",
        "https://www.northmoor.example/privacy"
    );

    private static HandoffPage Page(
        HandoffQuestion? question = null,
        HandoffLook? look = null,
        PixelValues? values = null,
        string slug = "geminids-perch",
        string query = "",
        string? destination = null
    ) =>
        new(
            slug,
            Ticket,
            query,
            destination ?? SampleNetworks.Values.Destination,
            [new(SampleNetworks.Picture, "FL-204417"), new(SampleNetworks.Calls, "9f2c41d07ab3"), new(SampleNetworks.List, "GH20441733")],
            values ?? SampleNetworks.Values,
            800,
            HidesReferrer: false,
            question,
            look ?? HandoffLook.Blank
        );

    private static readonly HandoffTicket Ticket = new(LinkPage.Fallback, [Guid.NewGuid(), Guid.NewGuid(), Guid.NewGuid()]);

    private static IDocument Parse(HandoffPage page) => new HtmlParser().ParseDocument(Encoding.UTF8.GetString(page.Write().Html));

    private static JsonElement DataOf(IDocument page) => JsonDocument.Parse(page.GetElementById("d")!.TextContent).RootElement;

    [Fact]
    public void The_block_of_data_says_what_fires_and_where_it_goes_on()
    {
        var data = DataOf(Parse(Page()));
        data.GetProperty("to").GetString().ShouldBe(SampleNetworks.Values.Destination);
        data.GetProperty("wait").GetInt32().ShouldBe(800);
        data.GetProperty("pixels").EnumerateArray().Select(p => p.GetProperty("kind").GetString()).ShouldBe(["image", "script", "container"]);
        var calls = data.GetProperty("pixels")[1].GetProperty("calls");
        calls[0].ToString().ShouldBe("""["begin","9f2c41d07ab3"]""");
        calls[1][2].GetProperty("address").GetString().ShouldBe("https://nmoor.example/geminids-perch");
        calls[1][2].GetProperty("value").GetInt32().ShouldBe(1);
        data.GetProperty("pixels")[2].GetProperty("calls")[0].GetProperty("pixel").GetString().ShouldBe("GH20441733");
    }

    /// <summary>Checked with another reader of HTML than browsers, by the same standard.</summary>
    [Fact]
    public void No_text_of_anybody_becomes_markup_script_or_style()
    {
        var plain = Parse(
            Page(Question, new HandoffLook("x", "data:image/webp;base64,AAAA", "#000000", "#ffffff"), slug: "x", query: "x", destination: "x")
        );
        var (elements, attributes) = Shape(plain);
        var script = plain.Scripts[1].TextContent;
        Gen.Select(PixelTemplateTests.Hostile, PixelTemplateTests.Hostile, PixelTemplateTests.Hostile, PixelTemplateTests.Hostile)
            .Sample(
                (a, b, c, d) =>
                {
                    var question = new HandoffQuestion("en", new ConsentWords(a + "{networks}", a, a, b, c, d), a, "https://x.example/");
                    var values = new PixelValues(a, b, c, d, a, b, c, d, 1);
                    var hostile = Parse(Page(question, new HandoffLook(a, b, c, d), values, slug: b, query: c, destination: d));
                    Shape(hostile).ShouldBe((elements, attributes));
                    hostile.Scripts[1].TextContent.ShouldBe(script);
                    hostile.QuerySelector("style")!.TextContent.ShouldNotContain("*");
                    if (!d.Any(char.IsSurrogate))
                    {
                        DataOf(hostile).GetProperty("to").GetString().ShouldBe(d);
                    }
                }
            );
    }

    [Fact]
    public void A_networks_calls_can_not_leave_the_block_of_data_either()
    {
        PixelTemplateTests
            .Hostile.Where(t => !t.Any(char.IsSurrogate))
            .Sample(text =>
            {
                var network = SampleNetworks.List with
                {
                    Name = text,
                    Event = text,
                    Fires = SampleNetworks.List.Fires with
                    {
                        Calls = [JsonSerializer.SerializeToElement(new Dictionary<string, string> { [text] = text })],
                    },
                };
                var page = Parse(Page() with { Pixels = [new(network, "GH20441733")] });
                page.Scripts.Length.ShouldBe(2);
                DataOf(page).GetProperty("pixels")[0].GetProperty("calls")[0].TryGetProperty(text, out _).ShouldBeTrue();
            });
    }

    [Fact]
    public void The_policy_names_the_pages_own_script_and_style_and_just_the_networks_hosts()
    {
        var page = Page(Question);
        var (html, policy) = page.Write();
        var parsed = new HtmlParser().ParseDocument(Encoding.UTF8.GetString(html));
        var rules = policy.Split("; ").ToDictionary(r => r.Split(' ')[0], r => r.Split(' ')[1..]);
        rules["default-src"].ShouldBe(["'none'"]);
        rules["script-src"]
            .ShouldBe([
                Hash(parsed.Scripts[1].TextContent),
                "https://ads.guildhall.example",
                "https://collect.beaconry.example",
                "https://tag.beaconry.example",
            ]);
        rules["style-src"].ShouldBe([Hash(parsed.QuerySelector("style")!.TextContent)]);
        rules["img-src"]
            .ShouldBe([
                "'self'",
                "data:",
                "https://ads.guildhall.example",
                "https://collect.beaconry.example",
                "https://px.fairlead.example",
                "https://tag.beaconry.example",
            ]);
        rules["connect-src"]
            .ShouldBe(["'self'", "https://ads.guildhall.example", "https://collect.beaconry.example", "https://tag.beaconry.example"]);
        rules["form-action"].ShouldBe(["'self'"]);
        rules["frame-ancestors"].ShouldBe(["'none'"]);
        static string Hash(string text) => $"'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(text)))}'";
    }

    [Fact]
    public void A_picture_alone_lets_no_script_of_anybody_run() =>
        (Page() with { Pixels = [new(SampleNetworks.Picture, "FL-204417")] })
            .Write()
            .ContentSecurity.ShouldSatisfyAllConditions(
                p => p.Split("; ").Single(r => r.StartsWith("script-src", StringComparison.Ordinal)).Split(' ').Length.ShouldBe(2),
                p => p.ShouldContain("connect-src 'self';")
            );

    /// <summary>As browsers ask for it, packed; a logo takes at most 960 bytes, which packing makes no smaller.</summary>
    [Fact]
    public void With_three_networks_a_logo_and_the_question_it_weighs_less_than_4_kB()
    {
        var noise = new byte[960];
        Random.Shared.NextBytes(noise);
        var look = new HandoffLook("Northmoor Observatory", "data:image/webp;base64," + Convert.ToBase64String(noise), "#fffdf9", "#231b22");
        Page(Question, look).WritePacked().Html.Length.ShouldBeLessThan(4096);
        Page(look: look).WritePacked().Html.Length.ShouldBeLessThan(4096);
        Page(Question).Write().Html.Length.ShouldBeLessThan(4096);
    }

    [Fact]
    public void Packed_it_is_the_same_page()
    {
        using var unpacked = new StreamReader(new GZipStream(new MemoryStream(Page(Question).WritePacked().Html), CompressionMode.Decompress));
        unpacked.ReadToEnd().ShouldBe(Encoding.UTF8.GetString(Page(Question).Write().Html));
    }

    [Fact]
    public void Without_scripts_pictures_fire_and_a_refresh_goes_on_but_never_before_the_question()
    {
        var page = Encoding.UTF8.GetString(Page().Write().Html);
        var noscript = page[page.IndexOf("<noscript>", StringComparison.Ordinal)..page.IndexOf("</noscript>", StringComparison.Ordinal)];
        noscript.ShouldContain("http-equiv=\"refresh\"");
        noscript.ShouldContain("https://px.fairlead.example/hit?p=FL-204417&amp;");
        noscript.ShouldNotContain("tag.beaconry.example");
        Encoding.UTF8.GetString(Page(Question).Write().Html).ShouldNotContain("<noscript>");
    }

    [Fact]
    public void The_question_can_be_answered_by_a_plain_form_and_favours_no_answer()
    {
        var form = Parse(Page(Question, slug: "geminids-perch", query: "?a=1")).QuerySelector("form")!;
        form.TextContent.ShouldContain(
            "May Fairlead, Beaconry and Guildhall Ads remember your visit, so that Northmoor Observatory can show you its adverts elsewhere?"
        );
        var buttons = form.QuerySelectorAll("button");
        buttons.Select(b => b.GetAttribute("value")).ShouldBe(["yes", "no"]);
        buttons.ShouldAllBe(b => b.Attributes.Length == 2);
        form.QuerySelectorAll("input").Select(i => i.GetAttribute("value")).ShouldBe(["geminids-perch", Ticket.ToString(), "?a=1"]);
    }

    [Fact]
    public void What_the_destination_learns_is_what_the_links_options_say()
    {
        Page().ReferrerPolicy.ShouldBe("strict-origin-when-cross-origin");
        (Page() with { HidesReferrer = true }).ReferrerPolicy.ShouldBe("no-referrer");
    }

    private static (string Elements, string Attributes) Shape(IDocument page) =>
        (
            string.Join(' ', page.All.Select(e => e.LocalName)),
            string.Join(' ', page.All.SelectMany(e => e.Attributes.Select(a => $"{e.LocalName}.{a.Name}")))
        );
}
