using System.Globalization;
using System.Text;

namespace Cursus.Bench.Verdicts;

/// <summary>What was measured, as a page, as figures and in a few lines.</summary>
internal sealed record Report(
    int Times,
    int TimesOfOthers,
    int[] Periods,
    IReadOnlyList<(Scenario Scenario, int Days, IReadOnlyList<Tally> Rules)> Results,
    IReadOnlyList<(int Days, IReadOnlyList<Tally> Rules)> Demo,
    IReadOnlyList<OtherClaims.Claim> Claims,
    (double Said, double Held) MorePosts
)
{
    private IEnumerable<Tally> Shipped => Results.Select(r => r.Rules[0]);

    /// <summary>Cells in which the rule says something often enough for its coverage to be known.</summary>
    private IEnumerable<Tally> Answered => Results.Where(r => r.Scenario.Channels == 2 && r.Rules[0].Shown > 0.1).Select(r => r.Rules[0]);

    public object Figures() =>
        new
        {
            worlds = Times,
            clearThoughEqual = new { most = Shipped.Max(t => t.Clear), average = Shipped.Average(t => t.Clear) },
            coverage = new
            {
                least = Answered.Min(t => t.Covered),
                average = Answered.Average(t => t.Covered),
                most = Answered.Max(t => t.Covered),
            },
            whiskerCoverage = new { least = Shipped.Min(t => t.Expected ?? 1), average = Shipped.Average(t => t.Expected ?? 1) },
            wrongSide = new
            {
                at20 = Shipped.Average(t => t.Wrong20),
                at50 = Shipped.Average(t => t.Wrong50),
                most20 = Shipped.Max(t => t.Wrong20),
                most50 = Shipped.Max(t => t.Wrong50),
            },
            rules = Rules.All.Select((r, i) => new { r.Name, tallies = Summed(i) }),
            demo = Demo.Select(d => new { d.Days, clear = d.Rules.Select(r => r.Clear) }),
            claims = Claims,
            morePosts = new { MorePosts.Said, MorePosts.Held },
            cells = Results.Select(r => new
            {
                r.Scenario.Name,
                r.Days,
                r.Rules[0].Shown,
                r.Rules[0].Clear,
                r.Rules[0].Covered,
                r.Rules[0].Power20,
                r.Rules[0].Power50,
                r.Rules[0].Expected,
            }),
        };

    public string Summary() =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"""
            equal groups called clear: at most {Shipped.Max(t => t.Clear):P1}, {Shipped.Average(t => t.Clear):P1} on average; former rule {Summed(
                1
            )?.Clear:P1}
            interval holds the truth: {Answered.Min(t => t.Covered):P1} to {Answered.Max(t => t.Covered):P1}, {Answered.Average(t =>
                t.Covered
            ):P1} on average; former rule {Summed(1)?.Covered:P1}
            wrong side named at +20 %: {Shipped.Average(t => t.Wrong20):P2} on average, at +50 %: {Shipped.Average(t => t.Wrong50):P2}
            """
        );

    public string Page()
    {
        var page = new StringBuilder();
        void Line(FormattableString text) => page.AppendLine(text.ToString(CultureInfo.InvariantCulture));
        Line($"# How often verdicts are right");
        Line($"");
        Line(
            $"Written by `./cursus bench verdict`. Each cell is {Times:N0} simulated answers, {TimesOfOthers} for the rules that were not taken; the seeds are the names of scenario and period and the number of the draw, so that a run can be repeated. What is claimed and how it is computed stands in [how Cursus counts and decides](how-cursus-counts.md); the code is in `bench/verdict`."
        );
        Line($"");
        Line($"## In short");
        Line($"");
        Line($"| measured | wanted | found |");
        Line($"|---|---|---|");
        Line($"| equal groups called clear, worst cell | at most 6 % | {Percent(Shipped.Max(t => t.Clear))} |");
        Line($"| the same, average | at most 5 % | {Percent(Shipped.Average(t => t.Clear))} |");
        Line($"| 95 % interval of the ratio holds the truth, least | at least 93 % | {Percent(Answered.Min(t => t.Covered))} |");
        Line($"| the same, average of all cells | 93 to 97.5 % | {Percent(Answered.Average(t => t.Covered))} |");
        Line($"| the same, most | at most 97.5 % | {Percent(Answered.Max(t => t.Covered))} (see below) |");
        Line(
            $"| whisker of a lane holds the clicks to expect, least and average | about 95 % | {Percent(Shipped.Min(t => t.Expected ?? 1))}, {Percent(Shipped.Average(t => t.Expected ?? 1))} |"
        );
        Line(
            $"| the wrong side is called clear at +50 %, average and worst cell | at most 0.5 % | {Percent(Shipped.Average(t => t.Wrong50), 2)}, {Percent(Shipped.Max(t => t.Wrong50), 2)} |"
        );
        Line($"| the same at +20 % | at most 0.5 % | {Percent(Shipped.Average(t => t.Wrong20), 2)}, {Percent(Shipped.Max(t => t.Wrong20), 2)} |");
        Line($"");
        Line(
            $"Where intervals hold the truth more often than 97.5 %, they are too wide: over a few days a handful of posts decides, and channels that post by the calendar are taken to post more at random than they do until they have shown their rhythm. In both cases less is called clear than could be, never more."
        );
        Line($"");
        Line($"## Rules that were tried");
        Line($"");
        Line($"Average over all cells with two groups. The rule that was taken is the only one with no cell above 6 %.");
        Line($"");
        Line($"| rule | equal groups called clear | worst cell | interval holds the truth | found at +20 % | found at +50 % |");
        Line($"|---|---|---|---|---|---|");
        foreach (var (i, rule) in Rules.All.Index())
        {
            var sum = Summed(i)!;
            Line(
                $"| {rule.Name} | {Percent(sum.Clear)} | {Percent(Cells(i).Max(t => t.Clear))} | {Percent(sum.Covered)} | {Percent(sum.Power20)} | {Percent(sum.Power50)} |"
            );
        }

        Line($"");
        Line(
            $"“Found” counts for little where equal groups are found as well. The bootstrap of posts needs more posts than there are over short periods; without pairing, posts that went to both channels hide the difference."
        );
        foreach (
            var (title, of) in new (string, Func<Tally, string>)[]
            {
                ("Equal groups called clear", t => Percent(t.Clear)),
                ("The interval of the ratio holds the truth", t => t.Shown > 0.1 ? Percent(t.Covered) : "–"),
                ("Found at +20 %", t => Percent(t.Power20, 0)),
                ("Found at +50 %", t => Percent(t.Power50, 0)),
            }
        )
        {
            Line($"");
            Line($"## {title}");
            Line($"");
            Line($"| scenario, days | {string.Join(" | ", Periods)} |");
            Line($"|---|{string.Concat(Periods.Select(_ => "---|"))}");
            foreach (
                var scenario in Results
                    .GroupBy(r => r.Scenario)
                    .Where(s => s.Key.Channels == 2 || title.StartsWith("Equal", StringComparison.Ordinal))
            )
            {
                Line($"| {scenario.Key.Name} | {string.Join(" | ", scenario.Select(s => of(s.Rules[0])))} |");
            }

            if (Demo.Count > 0 && title.StartsWith("Equal", StringComparison.Ordinal))
            {
                Line($"| the demo’s own posts, channels exchanged at random | {string.Join(" | ", Demo.Select(d => Percent(d.Rules[0].Clear)))} |");
                Line($"| the same by the former rule | {string.Join(" | ", Demo.Select(d => Percent(d.Rules[1].Clear)))} |");
            }
        }

        Line($"");
        Line($"## Other claims");
        Line($"");
        Line($"| claim | made though nothing is behind it | made at +50 % |");
        Line($"|---|---|---|");
        foreach (var claim in Claims)
        {
            Line($"| {claim.What} | {Percent(claim.Wrong)} | {(claim.Found is { } found ? Percent(found, 0) : "")} |");
        }

        Line($"");
        Line(
            $"“About so many more posts would settle it” is said in {Percent(MorePosts.Said, 0)} of answers over 28 days at +20 %, and holds the number that is needed on average in {Percent(MorePosts.Held, 0)} of them; at least half was meant."
        );
        return page.ToString();
    }

    private IEnumerable<Tally> Cells(int rule) => Results.Where(r => r.Rules.Count > rule && r.Scenario.Channels == 2).Select(r => r.Rules[rule]);

    private Tally? Summed(int rule) =>
        Cells(rule).ToList() is { Count: > 0 } cells
            ? new(
                cells.Average(t => t.Shown),
                cells.Average(t => t.Clear),
                cells.Where(t => t.Shown > 0.1).Average(t => t.Covered),
                cells.Average(t => t.Power20),
                cells.Average(t => t.Power50),
                cells.Average(t => t.Wrong20),
                cells.Average(t => t.Wrong50),
                null
            )
            : null;

    private static string Percent(double part, int digits = 1) => (100 * part).ToString($"F{digits}", CultureInfo.InvariantCulture) + " %";
}
