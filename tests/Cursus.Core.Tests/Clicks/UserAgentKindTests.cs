using System.Text.Json;
using System.Text.RegularExpressions;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;

namespace Cursus.Core.Tests.Clicks;

/// <summary>Source: the examples of an open list of crawlers, and browsers as people have them (ReferenceData/README.md).</summary>
public class UserAgentKindTests
{
    private static readonly (string Kind, string Agent)[] Crawlers =
    [
        .. JsonSerializer.Deserialize<string[][]>(File.ReadAllText(Data("crawler-instances.json")))!.Select(c => (c[0], c[1])),
    ];

    public static TheoryData<string> EverydayBrowsers => new(File.ReadAllLines(Data("everyday-browsers.txt")));

    [Fact]
    public void Nearly_every_known_crawler_and_preview_fetcher_is_taken_for_one()
    {
        Crawlers.Length.ShouldBeGreaterThan(2000);
        var missed = Crawlers.Count(c => UserAgentKind.Of(c.Agent) == ClickKind.Person);
        missed.ShouldBeLessThanOrEqualTo(Crawlers.Length / 50);
    }

    [Fact]
    public void Fetchers_of_previews_are_told_from_other_machines()
    {
        var previews = Crawlers.Where(c => c.Kind == "preview").ToList();
        previews.Count.ShouldBeGreaterThan(80);
        previews.ShouldAllBe(c => UserAgentKind.Of(c.Agent) == ClickKind.Preview);
        Crawlers.Count(c => c.Kind == "machine" && UserAgentKind.Of(c.Agent) == ClickKind.Preview).ShouldBeLessThan(Crawlers.Length / 50);
    }

    [Theory, MemberData(nameof(EverydayBrowsers))]
    public void No_everyday_browser_is_called_a_machine(string agent) => UserAgentKind.Of(agent).ShouldBe(ClickKind.Person);

    [Fact]
    public void There_are_enough_everyday_browsers_to_tell() => EverydayBrowsers.Count.ShouldBeGreaterThanOrEqualTo(60);

    /// <summary>Written from memory of what browsers, apps and programs send; no source. Before the rules were made for it, 24 of 215 people were
    /// taken for machines and 23 of 166 machines for people.</summary>
    [Fact]
    public void Of_people_and_machines_at_least_99_of_100_are_told_rightly()
    {
        var agents = Agents().ToList();
        agents.Count.ShouldBeGreaterThanOrEqualTo(300);
        foreach (var isPerson in new[] { true, false })
        {
            var kind = agents.Where(a => a.IsPerson == isPerson).ToList();
            var wrong = kind.Where(a => (UserAgentKind.Of(a.Agent) == ClickKind.Person) != isPerson).Select(a => a.Agent).ToList();
            wrong.Count.ShouldBeLessThanOrEqualTo(kind.Count / 100, string.Join('\n', wrong));
        }
    }

    /// <summary>Browsers of the open patterns' own cases, most of them old: those taken for machines are programs, or too old to matter.</summary>
    [Fact]
    public void Nearly_no_browser_of_the_open_cases_is_taken_for_a_machine()
    {
        var browsers = JsonSerializer
            .Deserialize<string[][]>(File.ReadAllText(Data("uap-cases.json")))!
            .Where(c =>
                c[0] == "browser"
                && c[1].StartsWith("Mozilla/5.0 (", StringComparison.Ordinal)
                && Regex.IsMatch(c[2], "^(Chrome|Firefox|Safari|Mobile Safari|Edge|Opera|Samsung Internet|Facebook|Instagram)")
            )
            .ToList();
        browsers.Count.ShouldBeGreaterThan(250);
        browsers
            .Count(c => UserAgentKind.Of(c[1]) != ClickKind.Person && !c[1].Contains("bot", StringComparison.OrdinalIgnoreCase))
            .ShouldBeLessThanOrEqualTo(browsers.Count / 100);
    }

    [Fact]
    public void Devices_browsers_and_systems_are_told_as_they_are()
    {
        var wrong = Agents()
            .Where(a => a.Known.Length > 0)
            .Select(a => (a.Agent, Known: a.Known.Split('|'), Read: UserAgentReading.Of(a.Agent, default)))
            .Where(a => Differs(a.Known[0], a.Read.Device) || Differs(a.Known[1], a.Read.Browser) || Differs(a.Known[2], a.Read.Os))
            .Select(a => $"{a.Read} for {a.Agent}")
            .ToList();
        wrong.ShouldBeEmpty();

        static bool Differs(string known, string read) => known.Length > 0 && known != read;
    }

    [Theory]
    [InlineData("")]
    [InlineData("  ")]
    public void Whoever_says_nothing_about_itself_is_a_machine(string agent) => UserAgentKind.Of(agent).ShouldBe(ClickKind.Machine);

    /// <summary>Programs that no list knows. Common practice, no source.</summary>
    [Theory]
    [InlineData("observatory-monitor/1.4", ClickKind.Machine)]
    [InlineData("Mozilla/5.0 (compatible; moorcrawler/2.1)", ClickKind.Machine)]
    [InlineData("Mozilla/5.0 (compatible; Hill/1.0; +https://hill.northmoor.example/about)", ClickKind.Machine)]
    [InlineData("perch-preview/1.0", ClickKind.Preview)]
    [InlineData("Mozilla/5.0 (compatible; hearthside-unfurl/1.1)", ClickKind.Preview)]
    [InlineData("Opera/9.80 (J2ME/MIDP; Opera Mini/7.1.32052/29.3709; U; en) Presto/2.8.119 Version/11.10", ClickKind.Person)]
    public void Programs_that_no_list_knows_are_known_by_how_they_speak_of_themselves(string agent, ClickKind kind) =>
        UserAgentKind.Of(agent).ShouldBe(kind);

    /// <summary>Looking for all plain words at once must find what each expression by itself would.</summary>
    [Fact]
    public void All_patterns_together_find_what_one_after_the_other_finds()
    {
        using var list = new StreamReader(typeof(UserAgentKind).Assembly.GetManifestResourceStream("crawlers.txt")!);
        var patterns = list.ReadToEnd()
            .Split('\n')
            .Where(l => l.Contains('\t', StringComparison.Ordinal))
            .Select(l => new Regex(l.Split('\t', 2)[1]))
            .ToList();
        foreach (var (_, agent) in Crawlers.Where((_, i) => i % 20 == 0).Where(c => patterns.Exists(p => p.IsMatch(c.Agent))))
        {
            UserAgentKind.Of(agent).ShouldNotBe(ClickKind.Person, agent);
        }
    }

    [Theory]
    [InlineData("prefetch", null, true)]
    [InlineData("prefetch;prerender", null, true)]
    [InlineData("prefetch;anonymous-client-ip", null, true)]
    [InlineData(null, "prefetch", true)]
    [InlineData(null, "preview", true)]
    [InlineData(null, null, false)]
    [InlineData("", "", false)]
    public void A_browser_says_when_it_fetches_ahead(string? secPurpose, string? purpose, bool isAhead) =>
        PrefetchSignal.Is(secPurpose, purpose).ShouldBe(isAhead);

    private static IEnumerable<(bool IsPerson, string Known, string Agent)> Agents() =>
        File.ReadAllLines(Data("agents-from-memory.txt"))
            .Where(l => !l.StartsWith('#'))
            .Select(l => l.Split('\t'))
            .Select(l => (l[0] == "person", l[1], l[2]));

    private static string Data(string name) => Path.Combine(AppContext.BaseDirectory, "ReferenceData", name);
}
