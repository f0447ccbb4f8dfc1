using Cursus.Core.Reports;

namespace Cursus.Bench.Verdicts;

/// <summary>How a rule did over many drawn worlds; all numbers are parts of one.</summary>
/// <param name="Shown">In how many worlds it said anything.</param>
/// <param name="Clear">In how many equal groups were called clear.</param>
/// <param name="Covered">Of those in which it said anything, in how many its interval held the truth.</param>
/// <param name="Power20">In how many it found the first group if that brings 20 % more.</param>
/// <param name="Power50">The same with 50 % more.</param>
/// <param name="Wrong20">In how many it called the other group clear then.</param>
/// <param name="Wrong50">The same with 50 % more.</param>
/// <param name="Expected">In how many the whisker of the first group held its clicks to expect; null if the rule draws none.</param>
internal sealed record Tally(
    double Shown,
    double Clear,
    double Covered,
    double Power20,
    double Power50,
    double Wrong20,
    double Wrong50,
    double? Expected
)
{
    /// <summary>Draws worlds and asks a rule about each.</summary>
    /// <param name="draw">A world by effect and number.</param>
    public static Tally Of(int times, Rule rule, bool isPerPost, Func<double, int, World> draw, bool hasWhiskers = false)
    {
        var (shown, clear, whiskers, held) = (0, 0, 0, 0);
        var (found, wrong) = (new int[2], new int[2]);
        Parallel.For(0, times, new() { MaxDegreeOfParallelism = 2 }, i =>
        {
            var equal = draw(1, i);
            if (rule(equal, isPerPost, new Luck("bootstrap", i)) is var (low, high))
            {
                Interlocked.Increment(ref shown);
                Interlocked.Add(ref clear, low > 1 || high < 1 ? 1 : 0);
            }

            if (hasWhiskers && Breakdown.Of(equal.Groups, units: equal.Units).Rows.First(r => r.Count.Key == "c0").Expected is var (least, most))
            {
                Interlocked.Increment(ref whiskers);
                Interlocked.Add(ref held, least <= equal.Expected && equal.Expected <= most ? 1 : 0);
            }

            foreach (var (k, effect) in Effects.Index())
            {
                if (rule(draw(effect, i), isPerPost, new Luck("bootstrap", i)) is var (from, to))
                {
                    Interlocked.Add(ref found[k], from > 1 ? 1 : 0);
                    Interlocked.Add(ref wrong[k], to < 1 ? 1 : 0);
                }
            }
        });
        double Part(int count) => (double)count / times;
        return new(
            Part(shown),
            Part(clear),
            shown == 0 ? 1 : 1 - (double)clear / shown,
            Part(found[0]),
            Part(found[1]),
            Part(wrong[0]),
            Part(wrong[1]),
            whiskers == 0 ? null : (double)held / whiskers
        );
    }

    private static readonly double[] Effects = [1.2, 1.5];
}
