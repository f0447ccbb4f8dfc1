using Cursus.Core.Clicks.Requests;

namespace Cursus.Bench.Machines;

/// <summary>A program that opens every link of a message, with a browser's whole request, so that only behaviour gives it away.</summary>
/// <param name="Gap">Seconds from link to link, give or take a third.</param>
/// <param name="From">From which address it opens the link of this number.</param>
/// <param name="Every">Seconds from message to message.</param>
internal sealed record Scanner(int Links, double Gap, double Every, string Addresses, Func<Random, int, int> From)
{
    public static IReadOnlyList<Scanner> All { get; } =
    [
        .. from addresses in new (string Name, Func<Random, int, int> From)[]
        {
            ("one address", (_, _) => 1),
            ("addresses of one network", (r, _) => r.Next(1, 255)),
        }
        from gap in new[] { 0.05, 0.5, 1 }
        from links in new[] { 3, 5, 12 }
        from every in gap == 0.5 ? new[] { 30, 2.0 } : [30]
        select new Scanner(links, gap, every, addresses.Name, addresses.From),
        new(12, 0.05, 30, "many networks", (r, _) => 256 * r.Next(1, 100_000)),
    ];

    public IEnumerable<WatchedClick> Clicks(Random random)
    {
        var (at, id) = (0.0, 0);
        for (var message = 0; message < 200; message++, at += Every)
        {
            for (var link = 0; link < Links; link++)
            {
                yield return Crowd.Make(id++, at, link, From(random, link), 1);
                at += Gap * (1 + (2 * random.NextDouble() - 1) / 3);
            }
        }
    }
}
