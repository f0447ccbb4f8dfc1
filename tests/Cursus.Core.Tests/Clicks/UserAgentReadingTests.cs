using System.Text.Json;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;

namespace Cursus.Core.Tests.Clicks;

public class UserAgentReadingTests
{
    private static string Reference(string name) => Path.Combine(AppContext.BaseDirectory, "ReferenceData", name);

    /// <summary>The uap-core project's own cases for browsers and operating systems; see ReferenceData/README.md.</summary>
    [Fact]
    public void Families_are_those_of_the_open_patterns_own_cases()
    {
        var cases = JsonSerializer.Deserialize<string[][]>(File.ReadAllText(Reference("uap-cases.json")))!;
        var wrong = cases
            .Where(c =>
                (c[0] == "browser" ? UserAgentReading.Families(c[1], hasRobots: true).Browser : UserAgentReading.Families(c[1], hasRobots: true).Os)
                != c[2]
            )
            .ToList();
        wrong.Select(c => $"{c[0]} {c[2]}: {c[1]}").ShouldBeEmpty();
        cases.Length.ShouldBeGreaterThan(2000);
    }

    [Theory]
    [InlineData(
        "Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.6 Safari/605.1.15",
        "computer",
        "Safari",
        "macOS"
    )]
    [InlineData("Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:143.0) Gecko/20100101 Firefox/143.0", "computer", "Firefox", "Windows")]
    [InlineData(
        "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0.0.0 Safari/537.36",
        "computer",
        "Chrome",
        "Linux"
    )]
    [InlineData(
        "Mozilla/5.0 (X11; CrOS x86_64 14541.0.0) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0.0.0 Safari/537.36",
        "computer",
        "Chrome",
        "Chrome OS"
    )]
    [InlineData(
        "Mozilla/5.0 (iPhone; CPU iPhone OS 18_6 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.6 Mobile/15E148 Safari/604.1",
        "phone",
        "Mobile Safari",
        "iOS"
    )]
    [InlineData(
        "Mozilla/5.0 (iPad; CPU OS 18_6 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/18.6 Mobile/15E148 Safari/604.1",
        "tablet",
        "Mobile Safari",
        "iOS"
    )]
    [InlineData(
        "Mozilla/5.0 (Linux; Android 15; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0.0.0 Mobile Safari/537.36",
        "phone",
        "Chrome Mobile",
        "Android"
    )]
    [InlineData(
        "Mozilla/5.0 (Linux; Android 14; K) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0.0.0 Safari/537.36",
        "tablet",
        "Chrome",
        "Android"
    )]
    [InlineData("Mozilla/5.0 (Android 14; Tablet; rv:143.0) Gecko/143.0 Firefox/143.0", "tablet", "Firefox Mobile", "Android")]
    [InlineData(
        "Mozilla/5.0 (PlayStation; PlayStation 5/9.00) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/15.4 Safari/605.1.15",
        "console",
        "Safari",
        "Other"
    )]
    [InlineData(
        "Mozilla/5.0 (SMART-TV; Linux; Tizen 6.0) AppleWebKit/537.36 (KHTML, like Gecko) SamsungBrowser/2.1 Chrome/56.0.2924.0 TV Safari/537.36",
        "television",
        "Samsung Internet",
        "Tizen"
    )]
    public void A_Mac_is_a_Mac_and_a_tablet_no_phone(string agent, string device, string browser, string os)
    {
        var reading = UserAgentReading.Of(agent, default);
        (reading.Kind, reading.Device, reading.Browser, reading.Os).ShouldBe((ClickKind.Person, device, browser, os));
    }

    /// <summary>Some of the open patterns take any words for the name of an app.</summary>
    [Theory]
    [InlineData("Mozilla/5.0 Quorlish Gecko/7.1 CFNetwork/1404.0.5 Darwin/22.3.0")]
    [InlineData("Mozilla/5.0 AppleWebKit Quorlish-iPhone/7.1 CFNetwork/1404.0.5 Darwin/22.3.0")]
    public void Nobody_can_make_up_browsers_for_the_reports(string agent)
    {
        UserAgentReading.Families(agent, hasRobots: true).Browser.ShouldContain("Quorlish", customMessage: "the patterns by themselves would");
        UserAgentReading.Of(agent, default).ShouldBe(new(ClickKind.Person, "phone", "CFNetwork", "iOS"));
    }

    [Fact]
    public void No_everyday_browser_stays_without_a_device()
    {
        var agents = File.ReadAllLines(Reference("everyday-browsers.txt"));
        agents.Length.ShouldBeGreaterThanOrEqualTo(60);
        agents.Where(a => UserAgentReading.Of(a, default) is { Device: "other" } or { Browser: "Other" } or { Os: "Other" }).ShouldBeEmpty();
    }

    /// <summary>A browser on an Android tablet that asks for pages made for computers names Linux; its hint tells.</summary>
    [Theory]
    [InlineData("\"Android\"", "?0", null, "tablet", "Android")]
    [InlineData("\"Android\"", "?1", null, "phone", "Android")]
    [InlineData("\"Linux\"", "?0", null, "computer", "Linux")]
    [InlineData(null, null, null, "computer", "Linux")]
    [InlineData("\"Android\"", "?1", "\"Mobile\", \"Tablet\"", "tablet", "Android")]
    [InlineData("\"Linux\"", "?0", "\"Tablet\"", "tablet", "Linux")]
    [InlineData("\"Windows\"", "?0", "\"Desktop\", \"Tablet\"", "computer", "Windows")]
    [InlineData(null, null, "Tablet", "computer", "Linux")]
    public void What_a_browser_says_beside_its_user_agent_decides(string? platform, string? mobile, string? formFactors, string device, string os)
    {
        var hints = ClientHints.Read(platform, mobile, formFactors);
        var traits = new RequestTraits(hints, RequestSigns.Told | RequestSigns.HasBrands);
        RequestTraits.OfNumber(traits.ToNumber()).ShouldBe(traits);
        var reading = UserAgentReading.Of(
            "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0.0.0 Safari/537.36",
            new RequestTraits(hints, RequestSigns.Untold)
        );
        (reading.Device, reading.Os).ShouldBe((device, os));
    }
}
