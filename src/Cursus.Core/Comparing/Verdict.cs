using MathNet.Numerics;
using MathNet.Numerics.Distributions;

namespace Cursus.Core.Comparing;

/// <summary>How much a lead is worth acting on.</summary>
public enum VerdictCall
{
    /// <summary>Chance would make such a lead in at most one of twenty cases.</summary>
    Clear,

    /// <summary>More likely than not real, but not yet to be relied on: chance would make it in at most one of five cases.</summary>
    Leaning,

    /// <summary>Chance alone could make it, or there are too few clicks to say.</summary>
    TooClose,
}

/// <summary>The leader's lead over the runner-up: how many times its clicks, between which bounds, and what to make of it.</summary>
/// <param name="Ratio">Leader's clicks divided by the runner-up's, each by how often it was shown where that differs; null where the runner-up has none.</param>
/// <param name="Low">Lower bound of the ratio, 95 %.</param>
/// <param name="High">Upper bound of the ratio, 95 %; null where it has none.</param>
/// <param name="Chance">In which part of cases chance alone would make such a lead or a greater one, either way: the two-sided p-value.</param>
/// <param name="Dispersion">How many times as much the split varies from step to step as chance alone would make it; see <see cref="Core.Comparing.Dispersion"/>.</param>
/// <param name="MoreClicks">With about so many more clicks of both together a lead of this ratio would be clear; null where it is, or where there is none.</param>
public sealed record Verdict(double? Ratio, double Low, double? High, double Chance, double Dispersion, VerdictCall Call, long? MoreClicks)
{
    /// <summary>Below this many clicks together nothing is ever called.</summary>
    public const int FewestClicks = 10;

    private const double ClearChance = 0.05;
    private const double LeaningChance = 0.2;

    private long Clicks { get; init; }

    /// <summary>How many times as often as the runner-up the leader was shown.</summary>
    private double Exposure { get; init; } = 1;

    /// <summary>
    /// Compares two counts over the same time. Where the split varied from step to step by no more than chance, or there are too few steps to say, by the conditional exact test
    /// (Przyborowski and Wilenski 1940, "Homogeneity of results in testing samples from Poisson series", Biometrika 31): given their sum, the leader's count is binomial;
    /// the ratio's interval follows from the Clopper–Pearson interval (1934) of its share. Where it varied more, as clicks do that come post by post, by the quasi-likelihood of
    /// the same split (Wedderburn 1974, Biometrika 61): the logarithm of the ratio with variance φ (1/a + 1/b) and Student's t.
    /// </summary>
    /// <param name="steps">Both groups' clicks of each day, or other step of time; none where they are not known.</param>
    /// <exception cref="ArgumentException">The leader has fewer clicks than the runner-up, or a count is negative.</exception>
    public static Verdict Between(long leader, long runnerUp, params IReadOnlyList<(long Leader, long RunnerUp)> steps) => ByExposure(leader, runnerUp, (1, 1), steps);

    /// <summary>The same of two counts that were not given the same chance: what is compared, and its ratio, is clicks by exposure. Given their sum, the leader's count is
    /// binomial with the leader's part of all exposure, where both are equally good (the general case of the same paper of 1940).</summary>
    /// <param name="exposure">How often each was shown, in any unit.</param>
    /// <exception cref="ArgumentException">The leader has fewer clicks by exposure than the runner-up, a count is negative, or an exposure isn't positive.</exception>
    public static Verdict ByExposure(long leader, long runnerUp, (double Leader, double RunnerUp) exposure, params IReadOnlyList<(long Leader, long RunnerUp)> steps)
    {
        if (!(exposure.Leader > 0) || !(exposure.RunnerUp > 0))
        {
            throw new ArgumentException("Both must have been shown.", nameof(exposure));
        }

        if (runnerUp < 0 || leader * exposure.RunnerUp < runnerUp * exposure.Leader)
        {
            throw new ArgumentException("The leader must not have fewer clicks than the runner-up.", nameof(leader));
        }

        var dispersion = Comparing.Dispersion.Of(steps);
        var times = exposure.Leader / exposure.RunnerUp;
        var verdict = dispersion.Factor > 1 && runnerUp > 0 ? ByDispersion(leader, runnerUp, times, dispersion) : Exactly(leader, runnerUp, times);
        return verdict.WithChance(verdict.Chance);
    }

    /// <summary>The same lead judged by another probability, as where many leads are looked at together.</summary>
    public Verdict WithChance(double chance)
    {
        var call = Clicks < FewestClicks ? VerdictCall.TooClose
            : chance <= ClearChance ? VerdictCall.Clear
            : chance <= LeaningChance ? VerdictCall.Leaning
            : VerdictCall.TooClose;
        return this with { Chance = chance, Call = call, MoreClicks = call == VerdictCall.Clear ? null : MoreUntilClear() };
    }

    private static Verdict Exactly(long leader, long runnerUp, double exposure)
    {
        const double tail = (1 - 0.95) / 2;
        var low = leader == 0 ? 0 : Beta.InvCDF(leader, runnerUp + 1, tail);
        var high = runnerUp == 0 ? 1 : Beta.InvCDF(leader + 1, runnerUp, 1 - tail);
        var chance = leader == 0 ? 1 : Math.Min(1, 2 * SpecialFunctions.BetaRegularized(leader, runnerUp + 1, exposure / (1 + exposure)));
        return new(RatioOf(leader, runnerUp, exposure), low / (1 - low) / exposure, high < 1 ? high / (1 - high) / exposure : null, chance, 1, default, null)
        {
            Clicks = leader + runnerUp,
            Exposure = exposure,
        };
    }

    private static Verdict ByDispersion(long leader, long runnerUp, double exposure, Dispersion dispersion)
    {
        var ratio = RatioOf(leader, runnerUp, exposure)!.Value;
        var error = Math.Sqrt(dispersion.Factor * (1.0 / leader + 1.0 / runnerUp));
        var reach = Math.Exp(StudentT.InvCDF(0, 1, dispersion.Freedom, 0.975) * error);
        var chance = 2 * (1 - StudentT.CDF(0, 1, dispersion.Freedom, Math.Log(ratio) / error));
        return new(ratio, ratio / reach, ratio * reach, chance, dispersion.Factor, default, null) { Clicks = leader + runnerUp, Exposure = exposure };
    }

    private static double? RatioOf(long leader, long runnerUp, double exposure) => runnerUp == 0 ? null : (double)leader / runnerUp / exposure;

    /// <summary>The error of the ratio's logarithm shrinks with the root of the clicks: by how many the present ones must be multiplied until it reaches 1.96 times.</summary>
    private long? MoreUntilClear()
    {
        if (Ratio is not > 1 || Clicks == 0)
        {
            return null;
        }

        var runnerUp = Clicks / (1 + Ratio.Value * Exposure);
        var error = Math.Sqrt(Dispersion * (1 / (Clicks - runnerUp) + 1 / runnerUp));
        var factor = Math.Pow(Normal.InvCDF(0, 1, 0.975) * error / Math.Log(Ratio.Value), 2);
        var more = Math.Max((factor - 1) * Clicks, FewestClicks - Clicks);
        return more is > 0 and < 1e15 ? (long)Math.Ceiling(more) : null;
    }
}
