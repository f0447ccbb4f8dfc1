using Cursus.Core.Clicks.Requests;

namespace Cursus.Core.Tests.Clicks;

/// <summary>Programs under browsers' names, held against the requests of real browsers.</summary>
public class ImpostorTests
{
    private sealed record Request(bool IsPerson, string Name, string Agent, RequestSigns Signs);

    /// <summary>Programs that copied so much that their requests tell nothing; one of them would be told over HTTPS.</summary>
    private static readonly string[] Untold =
    [
        "a headless browser with all headers",
        "a scanner that copied all but the brands",
        "a scanner that copied types and language of Safari",
        "a link checker over HTTP with copied types",
    ];

    [Fact]
    public void No_browser_is_an_impostor_whatever_it_hides()
    {
        var people = Requests().Where(r => r.IsPerson).ToList();
        people.Count.ShouldBeGreaterThan(60);
        people.Where(r => Impostor.Is(r.Agent, r.Signs)).Select(r => r.Name).ShouldBeEmpty();
    }

    [Fact]
    public void Programs_are_told_from_the_browsers_they_pose_as_unless_they_copy_all_of_a_request()
    {
        var machines = Requests().Where(r => !r.IsPerson).ToList();
        machines.Count.ShouldBeGreaterThan(30);
        machines.Where(r => !Impostor.Is(r.Agent, r.Signs)).Select(r => r.Name).ShouldBe(Untold, ignoreOrder: true);
    }

    [Fact]
    public void Nothing_follows_from_requests_that_nobody_looked_at() => Requests().ShouldAllBe(r => !Impostor.Is(r.Agent, RequestSigns.Untold));

    /// <summary>What privacy settings and extensions take away or add one at a time.</summary>
    [Fact]
    public void One_thing_that_is_missing_or_too_much_makes_nobody_an_impostor()
    {
        RequestSigns[] changes = [RequestSigns.HasLanguage, RequestSigns.Navigates, RequestSigns.HasBrands];
        var usual = Requests().Where(r => r.IsPerson && !IsChanged(r)).ToList();
        usual.Count.ShouldBeGreaterThan(50);
        usual.Where(r => changes.Any(c => Impostor.Is(r.Agent, r.Signs ^ c))).Select(r => r.Name).ShouldBeEmpty();

        static bool IsChanged(Request request) =>
            request.Name.Contains("passing for", StringComparison.Ordinal)
            || request.Name.Contains("no language", StringComparison.Ordinal)
            || request.Name.Contains("filter", StringComparison.Ordinal)
            || request.Name.Contains("brands", StringComparison.Ordinal)
            || request.Name.Contains("client hints", StringComparison.Ordinal);
    }

    private static IEnumerable<Request> Requests() =>
        new[] { "requests-recorded.txt", "requests-from-memory.txt" }
            .SelectMany(file => File.ReadAllLines(Path.Combine(AppContext.BaseDirectory, "ReferenceData", file)))
            .Where(l => !l.StartsWith('#'))
            .Select(l => l.Split('\t'))
            .Select(l => new Request(
                l[0] == "person",
                l[1],
                l[3],
                RequestSignsReader.Read(Header(l[4]), Header(l[5]), Header(l[6]), Header(l[7]), isSecure: l[2] == "https")
            ));

    private static string Header(string written) => written == "-" ? "" : written;
}
