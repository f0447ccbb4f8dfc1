using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using NodaTime;

namespace Cursus.Bench.Machines;

/// <summary>People who read and click, as many as are found behind one address or network. All that is assumed of them is common practice or from
/// memory, with no source, but for the time that pointing takes.</summary>
/// <param name="Draw">Their clicks: when (seconds), on which link, from which address, with which browser.</param>
internal sealed record Crowd(string Name, string Assumed, Func<Random, IEnumerable<(double At, int Link, int Address, int Agent)>> Draw)
{
    public static IReadOnlyList<Crowd> All { get; } =
    [
        new(
            "readers at home",
            "20,000 readers of a newsletter with 8 links, each at an address of their own; 1.5 clicks each, some seconds apart",
            r => Readers(r, 20_000, 3600, i => (i, i % 6))
        ),
        new("hasty readers", "2,000 people who open 4 to 10 links one after the other, 1.2 seconds apart on average", Hasty),
        new("an office", "300 people behind one address with the same browser, who get the newsletter within 20 minutes", r =>
            Readers(r, 300, 1200, _ => (1, 1))
        ),
        new("a carrier's network", "one click a second for two hours, 254 addresses, six browsers, eight links of unequal appeal", r =>
            Stream(r, 1, 7200, Zipf(8), 6)
        ),
        new("a carrier's network after a push message", "five clicks a second for ten minutes, six browsers, six links of equal appeal", r =>
            Stream(r, 5, 600, Equal(6), 6)
        ),
        new("a link that the team tries", "two clicks a second for an hour on one link, which the team opens twelve times", r =>
            [.. Stream(r, 2, 3600, _ => 0, 6), .. Enumerable.Range(0, 12).Select(i => (i * 300.0, 0, Team, 0))]
        ),
        new("a hall", "400 people behind one address scan ten codes within five minutes, ten kinds of telephones", r => Hall(r, 400, 300, 10, 10)),
    ];

    public IEnumerable<WatchedClick> Clicks(Random random) =>
        Draw(random)
            .OrderBy(c => c.At)
            .Select((c, i) => Make(i, c.At, c.Link, c.Address, c.Agent) with { Kind = c.Address == Team ? ClickKind.Team : ClickKind.Person });

    private const int Team = -1;

    internal static WatchedClick Make(int id, double at, int link, int address, int agent) =>
        new(
            id,
            Instant.FromUtc(2026, 11, 2, 9, 0) + Duration.FromSeconds(at),
            LinkOf(link),
            Workspace,
            ((long)address << 20) | (long)agent,
            1 + (address / 256),
            agent,
            ClickKind.Person
        );

    private static readonly Guid Workspace = new(1, 0, 0, new byte[8]);

    private static Guid LinkOf(int link) => new(link + 1, 1, 0, new byte[8]);

    private static IEnumerable<(double, int, int, int)> Readers(Random random, int people, double within, Func<int, (int Address, int Agent)> who)
    {
        var appeal = Zipf(8);
        for (var person = 0; person < people; person++)
        {
            var (at, (address, agent)) = (-within / 3 * Math.Log(1 - random.NextDouble()), who(person));
            do
            {
                yield return (at, appeal(random), address, agent);
                at += Pointing(random) + 8 * Math.Exp(1.2 * Normal(random));
            } while (random.NextDouble() < 0.35);
        }
    }

    private static IEnumerable<(double, int, int, int)> Hasty(Random random)
    {
        for (var person = 0; person < 2000; person++)
        {
            var at = random.NextDouble() * 3600;
            foreach (var link in Enumerable.Range(0, random.Next(4, 11)))
            {
                yield return (at, link, 256 * person, person % 6);
                at += Pointing(random);
            }
        }
    }

    private static IEnumerable<(double, int, int, int)> Stream(Random random, double rate, double seconds, Func<Random, int> appeal, int agents)
    {
        for (var at = 0.0; at < seconds; at -= Math.Log(1 - random.NextDouble()) / rate)
        {
            yield return (at, appeal(random), random.Next(1, 255), random.Next(agents));
        }
    }

    private static IEnumerable<(double, int, int, int)> Hall(Random random, int people, double seconds, int codes, int telephones) =>
        Enumerable.Range(0, people).Select(_ => (random.NextDouble() * seconds, random.Next(codes), 1, random.Next(telephones)));

    /// <summary>The keystroke-level model's 1.2 seconds, for a quarter faster or slower (Card, Moran and Newell, 1980, whose pointing times vary from
    /// 0.8 to 1.5).</summary>
    private static double Pointing(Random random) => 1.2 * Math.Exp(0.25 * Normal(random));

    private static double Normal(Random random) => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());

    private static Func<Random, int> Equal(int links) => r => r.Next(links);

    private static Func<Random, int> Zipf(int links)
    {
        var sums = Enumerable
            .Range(1, links)
            .Select(i => 1.0 / i)
            .Aggregate(new List<double>(), (all, w) => [.. all, w + (all.Count > 0 ? all[^1] : 0)]);
        return r => r.NextDouble() * sums[^1] is var drawn ? sums.FindIndex(s => drawn < s) : 0;
    }
}
