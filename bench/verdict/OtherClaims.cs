using Cursus.Core.Reports;
using Cursus.Core.Routing;

namespace Cursus.Bench.Verdicts;

/// <summary>Claims beside the one on two channels, each with the part of cases in which it is made although nothing is behind it.</summary>
internal static class OtherClaims
{
    /// <param name="What">What is claimed, of what.</param>
    /// <param name="Wrong">In which part of the cases, if there is nothing to claim.</param>
    /// <param name="Found">In which part, if there is: 50 % more; null if that wasn't tried.</param>
    public sealed record Claim(string What, double Wrong, double? Found);

    public static IEnumerable<Claim> All(int times)
    {
        foreach (var (weeks, name) in new[] { (4, "28 days"), (13, "91 days"), (52, "364 days") })
        {
            yield return new(
                $"one weekday ahead of the next, {name}",
                Part(times, i => Weekdays(weeks, 1, i)),
                Part(times, i => Weekdays(weeks, 1.5, i))
            );
        }

        foreach (var perDay in new[] { 0.7, 2 })
        {
            yield return new(
                $"a channel's week differs from the one before, {7 * perDay:0} posts a week",
                Part(times, i => Weeks(perDay, 1, Rhythm.AtRandom, i)),
                Part(times, i => Weeks(perDay, 1.5, Rhythm.AtRandom, i))
            );
        }

        yield return new(
            "the same, posts by the calendar, 14 a week",
            Part(times, i => Weeks(2, 1, Rhythm.ByTheCalendar, i)),
            Part(times, i => Weeks(2, 1.5, Rhythm.ByTheCalendar, i))
        );
        yield return new("one country ahead of another, by post, 28 days", Part(times, i => Countries(1, i)), Part(times, i => Countries(1.5, i)));
        yield return new("one post ahead of another, over eight channels", Part(times, i => TwoPosts(1, i)), Part(times, i => TwoPosts(1.5, i)));
        yield return new(
            "one variant ahead of another, readers who click 1.4 times",
            Part(times, i => Variant(1, i)),
            Part(times, i => Variant(1.5, i))
        );
        foreach (var weights in new int[][] { [50, 50], [50, 30, 20], [90, 10] })
        {
            var name = string.Join('/', weights);
            yield return new(
                $"a split of {name} is off, 1,000 people, looked at once; found where 10 of 100 people get another page",
                Part(times, i => IsSplitOff(weights, 0, [1000], i)),
                Part(times, i => IsSplitOff(weights, 10, [1000], i))
            );
            yield return new(
                "the same, 50 people a day, looked at each day for 28 days",
                Part(times, i => IsSplitOff(weights, 0, [.. Enumerable.Repeat(50, 28)], i)),
                Part(times, i => IsSplitOff(weights, 10, [.. Enumerable.Repeat(50, 28)], i))
            );
        }

        yield return new("any lead among eight equal channels, 28 days", Part(times, i => AnyOf(8, _ => 1, i)), null);
        yield return new(
            "a lead between the equal channels of four pairs, each twice as good as the next; by lead, 90 days",
            Part(times, i => AnyOf(8, c => Math.Pow(2, c / 2), i, onlyPairs: true)) / 4,
            null
        );
    }

    /// <summary>How often the number of posts that is said to settle a lead holds the number that would on average: 20 % more on one channel, 28
    /// days.</summary>
    public static (double Said, double Held) MorePosts(int times)
    {
        var scenario = new Scenario("more posts", true, 60, [1.2], 0.6, 0.3);

        // The error shrinks with the root of the posts; its size for one post comes from a long run.
        var long_ = World.Draw(scenario, 3650, 1.2, new("more posts", "long"));
        var (one, other) = (long_.Units.Of("c0"), long_.Units.Of("c1"));
        var estimate = ClusteredEstimate.OfRatio(one, other, long_.Units);
        var needed = Math.Pow(1.96 * estimate.Error / Math.Log(1.2), 2) * one.Length;
        var (said, held) = (0, 0);
        for (var i = 0; i < times; i++)
        {
            var world = World.Draw(scenario, 28, 1.2, new("more posts", i));
            var (first, second) = (world.Units.Of("c0"), world.Units.Of("c1"));
            if (first.Sum(u => u.Clicks) > second.Sum(u => u.Clicks) && Verdict.Between(first, second, world.Units).MoreUnits is var (least, most))
            {
                said++;
                held += first.Length + least <= needed && needed <= first.Length + most ? 1 : 0;
            }
        }

        return ((double)said / times, said == 0 ? 0 : (double)held / said);
    }

    private static double Part(int times, Func<int, bool> isClaimed)
    {
        var claimed = 0;
        Parallel.For(0, times, new() { MaxDegreeOfParallelism = 2 }, i => Interlocked.Add(ref claimed, isClaimed(i) ? 1 : 0));
        return (double)claimed / times;
    }

    /// <summary>Posts at random times, so that no weekday is better; with an effect, Mondays bring so many times as much.</summary>
    private static bool Weekdays(int weeks, double effect, int number)
    {
        var world = World.Draw(new Scenario("weekdays", true, 60, [1.2]), 7 * weeks, 1, new("weekdays", weeks, effect, number), hasDays: true);
        var luck = new Luck("mondays", number);
        var groups = Enumerable
            .Range(0, 7)
            .ToDictionary(
                weekday => $"{weekday}",
                weekday =>
                    Enumerable
                        .Range(0, weeks)
                        .Select(week =>
                        {
                            var clicks = world.Days[0][7 * week + weekday];
                            return new UnitCount(week, clicks + (weekday == 0 ? luck.Poisson(clicks * (effect - 1)) : 0), false);
                        })
                        .ToArray()
            );
        return IsClear(groups["0"], groups[effect > 1 ? "3" : "1"], new(UnitKind.Week, null, true, groups));
    }

    private static bool Weeks(double perDay, double effect, Rhythm rhythm, int number)
    {
        var scenario = new Scenario("digest", true, 60, [1.2])
        {
            PerDay = perDay,
            Channels = 1,
            Rhythm = rhythm,
        };
        var world = World.Weeks(scenario, effect, new("digest", perDay, effect, rhythm, number));
        return WeekChange.Of(world.Units.Of("c0"), world.Units.Of("c1"), world.Units).Call == VerdictCall.Clear;
    }

    /// <summary>Each post has readers in both countries, in parts of its own.</summary>
    private static bool Countries(double effect, int number)
    {
        var world = World.Draw(new Scenario("countries", true, 60, [1.2], 0.6, 0.5), 28, effect, new("countries", effect, number));
        var units = new ClickUnits(
            UnitKind.Post,
            world.Units.Days,
            true,
            new Dictionary<string, UnitCount[]> { ["a"] = world.Units.Of("c0"), ["b"] = world.Units.Of("c1") }
        );
        return IsClear(units.Of("a"), units.Of("b"), units);
    }

    /// <summary>Channels differ much in size; both posts have luck of their own on each.</summary>
    private static bool TwoPosts(double effect, int number)
    {
        var luck = new Luck("posts", effect, number);
        var sizes = Enumerable.Range(0, 8).Select(_ => 60 * luck.Multiplier(0.8)).ToArray();
        UnitCount[] Post(double better) =>
            [.. sizes.Select((size, channel) => new UnitCount(channel, luck.Poisson(size * better * luck.Multiplier(0.3)), false))];
        var groups = new Dictionary<string, UnitCount[]> { ["a"] = Post(effect), ["b"] = Post(1) };
        return IsClear(groups["a"], groups["b"], new(UnitKind.Link, null, true, groups));
    }

    private static bool Variant(double effect, int number)
    {
        var luck = new Luck("variants", effect, number);
        VariantCount Count(string name, double mean)
        {
            var readers = luck.Poisson(mean);
            return new(name, name, Enumerable.Range(0, readers).Sum(_ => luck.Geometric(0.286)), null, readers);
        }

        return Variants.Of([Count("a", 120 * effect), Count("b", 120)]).Rows[0].Lead?.Call == VerdictCall.Clear;
    }

    /// <summary>Whether a split is called off at any look.</summary>
    /// <param name="moved">So many of a hundred people get the second page instead of the first, against the shares.</param>
    /// <param name="arrivals">How many people come between looks.</param>
    private static bool IsSplitOff(int[] weights, int moved, IReadOnlyList<int> arrivals, int number)
    {
        var luck = new Luck("split", string.Join('/', weights), moved, arrivals.Count, number);
        int[] got = [weights[0] - moved, weights[1] + moved, .. weights.Skip(2)];
        var people = new long[weights.Length];
        return arrivals.Any(count =>
        {
            for (var person = 0; person < count; person++)
            {
                var (rest, page) = (luck.Below(100), 0);
                while ((rest -= got[page]) >= 0)
                {
                    page++;
                }

                people[page]++;
            }

            return SplitCheck.Of([.. weights.Zip(people)]) == SplitCall.Off;
        });
    }

    private static bool AnyOf(int channels, Func<int, double> better, int number, bool onlyPairs = false)
    {
        var scenario = new Scenario("many", true, 60, [1.2]) { Channels = channels };
        var world = World.Draw(scenario, onlyPairs ? 90 : 28, 1, new("many", onlyPairs, number), better: better);
        var rows = Breakdown.Of(world.Groups, units: world.Units).Rows;
        return rows.Zip(rows.Skip(1)).Any(p => p.First.Lead!.Call == VerdictCall.Clear && (!onlyPairs || Pair(p.First) == Pair(p.Second)));

        static int Pair(BreakdownRow row) => (row.Count.Key[1] - '0') / 2;
    }

    private static bool IsClear(UnitCount[] one, UnitCount[] other, ClickUnits units) =>
        (one.Sum(u => u.Clicks) >= other.Sum(u => u.Clicks) ? Verdict.Between(one, other, units) : Verdict.Between(other, one, units)).Call
        == VerdictCall.Clear;
}
