using System.Globalization;
using System.Text;
using Cursus.Bench.Machines;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using NodaTime;

// machines.dll REQUESTS... [--write FILE]: how often machines that pose as browsers are told from people, by their requests and by what they do.
// Seeds are numbers of draws.
const int Draws = 20;
var requests = args.Where(a => a.EndsWith(".txt", StringComparison.Ordinal))
    .SelectMany(File.ReadAllLines)
    .Where(l => !l.StartsWith('#'))
    .Select(l => l.Split('\t'))
    .ToList();
(int Visitor, int Network)[] rules = [(BehaviourWatch.FewestLinks, BehaviourWatch.FewestLinksOfNetwork), (3, 3), (3, 4), (4, 4), (5, 5), (6, 6)];

var page = new StringBuilder();
void Line(FormattableString text) => page.AppendLine(text.ToString(CultureInfo.InvariantCulture));
Line($"# How often machines that pose as browsers are found");
Line($"");
Line(
    $"Written by `./cursus bench machines` from simulated people and programs ({Draws} draws each, their numbers being the seeds) and from requests of real browsers and programs. What each reason means stands in [how Cursus counts and decides](how-cursus-counts.md)."
);
Line($"");
Line($"## By the request");
Line($"");
Line(
    $"Recorded requests are of browsers and programs of Debian 12, the others are written from memory; both stand in `tests/Cursus.Core.Tests/ReferenceData`. Programs send a browser's user agent."
);
Line($"");
Line($"| | taken for a program | of |");
Line($"|---|---|---|");
foreach (
    var (kind, name) in new[]
    {
        ("person", "people’s browsers, with private windows, privacy browsers and browsers that pass for others"),
        ("machine", "programs under a browser’s name"),
    }
)
{
    var ofKind = requests.Where(r => r[0] == kind).ToList();
    Line($"| {name} | {ofKind.Count(r => IsImpostor(r))} | {ofKind.Count} |");
}

Line($"");
Line($"Not found: {string.Join("; ", requests.Where(r => r[0] == "machine" && !IsImpostor(r)).Select(r => r[1]))}.");
Line($"");
Line($"## By what visitors do");
Line($"");
Line(
    $"Clicks of people that are left out by mistake. The rule is that of the first column; the others were tried. {BehaviourWatch.PerLink.TotalSeconds} seconds for each further link is half of what a practised person needs."
);
Line($"");
Line($"| people | {string.Join(" | ", rules.Select(r => $"{r.Visitor} links, {r.Network} of a network"))} |");
Line($"|---|{string.Concat(rules.Select(_ => "---|"))}");
foreach (var crowd in Crowd.All)
{
    Line($"| {crowd.Name}: {crowd.Assumed} | {string.Join(" | ", rules.Select(r => Percent(Found(crowd.Clicks, r))))} |");
}

Line($"");
Line($"Clicks of mail scanners that are found, where each sends all that a browser sends:");
Line($"");
Line($"| scanner | {string.Join(" | ", rules.Select(r => $"{r.Visitor} links, {r.Network} of a network"))} |");
Line($"|---|{string.Concat(rules.Select(_ => "---|"))}");
foreach (var scanner in Scanner.All)
{
    Line(
        $"| {scanner.Links} links, {scanner.Gap} s apart, a message every {scanner.Every} s, {scanner.Addresses} | {string.Join(" | ", rules.Select(r => Percent(Found(scanner.Clicks, r))))} |"
    );
}

Line($"");
Line(
    $"Who asks for the headers first and opens the link within ten seconds is always found, and so is whoever opens it within a second after the team."
);
if (Array.IndexOf(args, "--write") is >= 0 and var at)
{
    File.WriteAllText(args[at + 1], page.ToString());
}

Console.Write(page);

bool IsImpostor(string[] request) =>
    Impostor.Is(
        request[3],
        RequestSignsReader.Read(Header(request[4]), Header(request[5]), Header(request[6]), Header(request[7]), request[2] == "https")
    );

static string Header(string written) => written == "-" ? "" : written;

static string Percent(double share) =>
    share == 0 ? "0"
    : share < 0.00005 ? "under 0.01 %"
    : share.ToString("P2", CultureInfo.InvariantCulture);

static double Found(Func<Random, IEnumerable<WatchedClick>> clicks, (int Visitor, int Network) rule)
{
    var (found, all) = (0L, 0L);
    for (var draw = 0; draw < Draws; draw++)
    {
        var (watch, swept, leftOut) = (new BehaviourWatch(rule.Visitor, rule.Network), new List<(long Id, Instant At)>(), new HashSet<long>());
        foreach (var click in clicks(new Random(draw)))
        {
            if (watch.Judge(click, swept) is not (ClickKind.Person or ClickKind.Team))
            {
                leftOut.Add(click.Id);
            }

            all += click.Kind == ClickKind.Person ? 1 : 0;
        }

        leftOut.UnionWith(swept.Select(s => s.Id));
        found += leftOut.Count;
    }

    return (double)found / all;
}
