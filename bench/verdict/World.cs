using Cursus.Core.Reports;

namespace Cursus.Bench.Verdicts;

/// <summary>One drawn course of events: what each post brought to each channel in a period.</summary>
internal sealed class World
{
    /// <summary>By channel, clicks of each day of the period, as rules need that look at days.</summary>
    public required long[][] Days { get; init; }

    public required ClickUnits Units { get; init; }

    public required IReadOnlyList<GroupCount> Groups { get; init; }

    /// <summary>Clicks to expect on average of the first channel.</summary>
    public required double Expected { get; init; }

    /// <param name="effect">How many times as much a post brings to the first channel.</param>
    /// <param name="days">Length of the period.</param>
    /// <param name="hasDays">Whether each day's clicks are needed.</param>
    /// <param name="better">How many times as good each channel is; all alike where left out.</param>
    public static World Draw(Scenario scenario, int days, double effect, Luck luck, bool hasDays = false, Func<int, double>? better = null)
    {
        var lead = Math.Max(10, 8 * scenario.HalfLives.Max());
        var common = Math.Sqrt(Math.Log(1 + scenario.PostVariation * scenario.PostVariation));
        var posts = new List<(double Day, Dictionary<int, (long Clicks, bool IsNew)> Channels)>();
        var byDay = Enumerable.Range(0, scenario.Channels).Select(_ => new long[days]).ToArray();
        if (scenario.ArePosts)
        {
            foreach (var at in Times(scenario.PerDay))
            {
                var success = luck.Multiplier(common);
                posts.Add((at, Enumerable.Range(0, scenario.Channels).ToDictionary(c => c, c => Place(c, at, success))));
            }
        }
        else
        {
            for (var channel = 0; channel < scenario.Channels; channel++)
            {
                foreach (var at in Times(scenario.PerDay * (channel == 0 ? scenario.TimesAsOften : 1)))
                {
                    posts.Add((at, new() { [channel] = Place(channel, at, luck.Multiplier(common)) }));
                }
            }
        }

        if (scenario.HasViralPost && posts.Count > 0)
        {
            var (day, channels) = posts[luck.Below(posts.Count)];
            var channel = luck.Below(scenario.Channels);
            var before = channels[channel];
            channels[channel] = (20 * before.Clicks, before.IsNew);
            byDay[channel][Math.Clamp((int)day, 0, days - 1)] += 19 * before.Clicks;
        }

        return Of(posts, byDay, scenario.PerDay * days * scenario.Mean * effect * (scenario.IsPerPost ? scenario.TimesAsOften : 1));

        IEnumerable<double> Times(double perDay)
        {
            var first = luck.Part();
            var count = scenario.Rhythm == Rhythm.AtRandom ? luck.Poisson(perDay * (days + lead)) : (int)Math.Ceiling(perDay * (days + lead) - first);
            for (var i = 0; i < count; i++)
            {
                yield return scenario.Rhythm == Rhythm.AtRandom ? -lead + luck.Part() * (days + lead) : -lead + (first + i) / perDay;
            }
        }

        (long Clicks, bool IsNew) Place(int channel, double at, double success)
        {
            var often = channel == 0 && !scenario.IsPerPost ? scenario.TimesAsOften : 1;
            var mean =
                scenario.Mean
                / often
                * (channel == 0 ? effect : 1)
                * (better?.Invoke(channel) ?? 1)
                * success
                * luck.Multiplier(scenario.PlacementDeviation);
            if (!hasDays)
            {
                return (luck.Poisson(mean * (Gone(days - at) - Gone(-at))), at >= 0);
            }

            var sum = 0L;
            for (var day = Math.Max(0, (int)Math.Floor(at)); day < days; day++)
            {
                var part = Gone(day + 1 - at) - Gone(day - at);
                var clicks = luck.Poisson(mean * part);
                byDay[channel][day] += clicks;
                sum += clicks;
                if (day - at > 12 * scenario.HalfLife(channel))
                {
                    break;
                }
            }

            return (sum, at >= 0);

            double Gone(double age) => age <= 0 ? 0 : 1 - Math.Pow(0.5, age / scenario.HalfLife(channel));
        }
    }

    /// <summary>A week and the one before it, as two groups of the same posts.</summary>
    /// <param name="effect">How many times as much the later week's posts bring.</param>
    public static World Weeks(Scenario scenario, double effect, Luck luck)
    {
        const int week = 7;
        var lead = Math.Max(10, 8 * scenario.HalfLives.Max());
        var common = Math.Sqrt(Math.Log(1 + scenario.PostVariation * scenario.PostVariation));
        var posts = new List<(double Day, Dictionary<int, (long Clicks, bool IsNew)> Channels)>();
        var byRandom = scenario.Rhythm == Rhythm.AtRandom;
        var count = byRandom ? luck.Poisson(scenario.PerDay * (2 * week + lead)) : (int)(scenario.PerDay * (2 * week + lead));
        var first = luck.Part();
        for (var i = 0; i < count; i++)
        {
            var at = byRandom ? -lead + luck.Part() * (2 * week + lead) : -lead + (first + i) / scenario.PerDay;
            var mean = scenario.Mean * luck.Multiplier(common) * luck.Multiplier(scenario.PlacementDeviation) * (at >= week ? effect : 1);
            double Gone(double until) => until <= at ? 0 : 1 - Math.Pow(0.5, (until - at) / scenario.HalfLife(0));
            posts.Add(
                (
                    at,
                    new()
                    {
                        [0] = (luck.Poisson(mean * (Gone(2 * week) - Gone(week))), at >= week),
                        [1] = (luck.Poisson(mean * (Gone(week) - Gone(0))), at is >= 0 and < week),
                    }
                )
            );
        }

        return Of(
            posts,
            [
                [],
                [],
            ],
            0
        );
    }

    /// <summary>Puts posts in order, as an answer has them.</summary>
    public static World Of(
        IEnumerable<(double Day, Dictionary<int, (long Clicks, bool IsNew)> Channels)> posts,
        long[][] byDay,
        double expected,
        bool isShared = false
    )
    {
        var ordered = posts.Where(p => p.Channels.Values.Any(c => c.Clicks > 0 || c.IsNew)).OrderBy(p => p.Day).ToList();
        var groups = Enumerable
            .Range(0, byDay.Length)
            .ToDictionary(
                c => $"c{c}",
                c =>
                    ordered
                        .Index()
                        .Where(p => p.Item.Channels.TryGetValue(c, out var ofChannel) && (ofChannel.Clicks > 0 || ofChannel.IsNew))
                        .Select(p => new UnitCount(p.Index, p.Item.Channels[c].Clicks, p.Item.Channels[c].IsNew))
                        .ToArray()
            );
        return new()
        {
            Days = byDay,
            Units = new(UnitKind.Post, [.. ordered.Select(p => (int)Math.Floor(p.Day))], isShared, groups),
            Groups =
            [
                .. groups.Select(g => new GroupCount(
                    g.Key,
                    g.Key,
                    g.Value.Sum(u => u.Clicks),
                    null,
                    null,
                    g.Value.Length,
                    0,
                    g.Value.Count(u => u.IsNew)
                )),
            ],
            Expected = expected,
        };
    }
}
