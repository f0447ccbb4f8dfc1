using System.Text.Json;
using Cursus.Bench.Verdicts;

// verdict.dll [--small] [--json] [--demo FILE] [--write FILE] [--claims]: how often verdicts are right, by simulation;
// with --claims only the claims beside the one on two channels. Seeds are the names of scenarios, periods
// and draws.
string? Argument(string name) => Array.IndexOf(args, name) is >= 0 and var at && at + 1 < args.Length ? args[at + 1] : null;
var isSmall = args.Contains("--small");
var (times, timesOfOthers) = isSmall ? (200, 40) : (4000, 300);
int[] periods = isSmall ? [7, 28, 90] : [3, 7, 14, 28, 60, 90, 93, 120, 180, 365];

if (args.Contains("--claims"))
{
    foreach (var claim in OtherClaims.All(times))
    {
        Console.WriteLine($"{claim.What}: {claim.Wrong:P2} wrong, {claim.Found:P1} found");
    }

    return;
}

var results = new List<(Scenario Scenario, int Days, IReadOnlyList<Tally> Rules)>();
foreach (var scenario in Scenario.All)
{
    foreach (var days in periods)
    {
        World Draw(double effect, int number) => World.Draw(scenario, days, effect, new(scenario.Name, days, number));
        World DrawDays(double effect, int number) => World.Draw(scenario, days, effect, new(scenario.Name, days, number), hasDays: true);
        var rules = Rules
            .All.Select(
                (r, i) =>
                    i == 0 ? Tally.Of(times, scenario.Channels > 2 ? Rules.Leader : r.Rule, scenario.IsPerPost, Draw, hasWhiskers: true)
                    : scenario.Channels > 2 ? null
                    : Tally.Of(timesOfOthers, r.Rule, scenario.IsPerPost, DrawDays)
            )
            .OfType<Tally>()
            .ToList();
        results.Add((scenario, days, rules));
    }

    Console.Error.WriteLine(scenario.Name);
}

var demo = new List<(int Days, IReadOnlyList<Tally> Rules)>();
if (Argument("--demo") is { } file)
{
    var draw = DemoPosts.From(file);
    foreach (var days in periods)
    {
        demo.Add(
            (days, [.. Rules.All.Select((r, i) => Tally.Of(i == 0 ? times : timesOfOthers, r.Rule, false, (_, number) => draw(days, number)!))])
        );
    }
}

var claims = OtherClaims.All(times).ToList();
var more = OtherClaims.MorePosts(times);
var report = new Report(times, timesOfOthers, periods, results, demo, claims, more);
if (Argument("--write") is { } page)
{
    File.WriteAllText(page, report.Page());
}

Console.WriteLine(args.Contains("--json") ? JsonSerializer.Serialize(report.Figures(), JsonSerializerOptions.Web) : report.Summary());
