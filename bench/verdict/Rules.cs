using Cursus.Core.Reports;
using MathNet.Numerics.Distributions;

namespace Cursus.Bench.Verdicts;

/// <summary>What a rule says of the first two channels: the ratio's interval; null if it says nothing.</summary>
internal delegate (double Low, double High)? Rule(World world, bool isPerPost, Luck luck);

/// <summary>The rule that Cursus goes by, and others that were tried.</summary>
internal static class Rules
{
    private const double Tail = 0.025;

    public static readonly IReadOnlyList<(string Name, Rule Rule)> All =
    [
        ("posts, paired (Cursus)", Shipped),
        ("days (the former rule)", ByDays),
        ("posts, not paired", Unpaired),
        ("posts, bootstrap", Bootstrap),
    ];

    /// <summary>The rule of Cursus on the two that lead, whichever they are.</summary>
    public static (double Low, double High)? Leader(World world, bool isPerPost, Luck luck) =>
        Breakdown.Of(world.Groups, units: world.Units).Rows[0].Lead is { Call: not VerdictCall.TooFew, Low: { } low } verdict
            ? (low, verdict.High ?? double.PositiveInfinity)
            : null;

    private static (double Low, double High)? Shipped(World world, bool isPerPost, Luck luck)
    {
        var (one, other) = Sides(world);
        var verdict = Verdict.Between(one, other, world.Units, isPerPost);
        return verdict is { Call: not VerdictCall.TooFew, Low: { } low } ? (low, verdict.High ?? double.PositiveInfinity) : null;
    }

    /// <summary>Days, or months beyond 92 of them, as independent draws: quasi-likelihood of the split with Pearson's dispersion from seven steps on,
    /// else the exact test.</summary>
    private static (double Low, double High)? ByDays(World world, bool isPerPost, Luck luck)
    {
        long[] Steps(long[] days) => days.Length <= 92 ? days : [.. days.Chunk(30).Select(month => month.Sum())];
        var steps = Steps(world.Days[0]).Zip(Steps(world.Days[1]), (a, b) => (A: (double)a, B: (double)b)).Where(s => s.A + s.B > 0).ToList();
        var (a, b) = (steps.Sum(s => s.A), steps.Sum(s => s.B));
        if (a + b < Verdict.FewestClicks)
        {
            return null;
        }

        var share = a / (a + b);
        var dispersion =
            steps.Count < 7 || share is 0 or 1
                ? 1
                : Math.Max(1, steps.Sum(s => Math.Pow(s.A - (s.A + s.B) * share, 2) / ((s.A + s.B) * share * (1 - share))) / (steps.Count - 1));
        if (dispersion > 1)
        {
            var reach = Math.Exp(StudentT.InvCDF(0, 1, steps.Count - 1, 1 - Tail) * Math.Sqrt(dispersion * (1 / a + 1 / b)));
            return (a / b / reach, a / b * reach);
        }

        var (low, high) = (a == 0 ? 0 : Beta.InvCDF(a, b + 1, Tail), b == 0 ? 1 : Beta.InvCDF(a + 1, b, 1 - Tail));
        return (low / (1 - low), high / (1 - high));
    }

    /// <summary>Both channels' posts as independent samples: Welch's t on the means, by the delta method on the logarithm.</summary>
    private static (double Low, double High)? Unpaired(World world, bool isPerPost, Luck luck)
    {
        var (one, other) = Sides(world);
        if (!AreEnough(one, other))
        {
            return null;
        }

        (double Log, double Variance, double Freedom) Of(UnitCount[] units)
        {
            var (n, mean) = ((double)units.Length, units.Average(u => (double)u.Clicks));
            var variance = units.Sum(u => Math.Pow(u.Clicks - mean, 2)) / (n - 1) / n / (mean * mean);
            return (Math.Log(isPerPost ? mean : mean * n), variance, n - 1);
        }

        var (first, second) = (Of(one), Of(other));
        var sum = first.Variance + second.Variance;
        if (!(sum > 0))
        {
            return null;
        }

        var freedom = sum * sum / (first.Variance * first.Variance / first.Freedom + second.Variance * second.Variance / second.Freedom);
        var reach = StudentT.InvCDF(0, 1, freedom, 1 - Tail) * Math.Sqrt(sum);
        return (Math.Exp(first.Log - second.Log - reach), Math.Exp(first.Log - second.Log + reach));
    }

    /// <summary>Draws posts with replacement, on whatever channels each was, and takes the middle 95 % of the ratios (Cameron, Gelbach and Miller
    /// 2008 discuss such "pairs cluster bootstraps").</summary>
    private static (double Low, double High)? Bootstrap(World world, bool isPerPost, Luck luck)
    {
        const int draws = 199;
        var (one, other) = Sides(world);
        if (!AreEnough(one, other))
        {
            return null;
        }

        var units = one.Select(u => (u.Unit, A: u, B: default(UnitCount)))
            .Concat(other.Select(u => (u.Unit, A: default(UnitCount), B: u)))
            .GroupBy(
                u => u.Unit,
                (_, same) => same.Aggregate((x, y) => (x.Unit, x.A.Clicks > 0 || x.A.IsNew ? x.A : y.A, x.B.Clicks > 0 || x.B.IsNew ? x.B : y.B))
            )
            .ToList();
        var ratios = new double[draws];
        for (var draw = 0; draw < draws; draw++)
        {
            var (a, b, postsA, postsB) = (0.5, 0.5, 0, 0);
            for (var i = 0; i < units.Count; i++)
            {
                var unit = units[luck.Below(units.Count)];
                (a, b, postsA, postsB) = (a + unit.A.Clicks, b + unit.B.Clicks, postsA + (unit.A.IsNew ? 1 : 0), postsB + (unit.B.IsNew ? 1 : 0));
            }

            ratios[draw] = a / b * (isPerPost ? Math.Max(1, postsB) / (double)Math.Max(1, postsA) : 1);
        }

        Array.Sort(ratios);
        return (ratios[(int)(draws * Tail)], ratios[draws - 1 - (int)(draws * Tail)]);
    }

    private static (UnitCount[] One, UnitCount[] Other) Sides(World world) => (world.Units.Of("c0"), world.Units.Of("c1"));

    private static bool AreEnough(UnitCount[] one, UnitCount[] other) =>
        Math.Min(one.Length, other.Length) >= Verdict.FewestUnits && one.Sum(u => u.Clicks) > 0 && other.Sum(u => u.Clicks) > 0;
}
