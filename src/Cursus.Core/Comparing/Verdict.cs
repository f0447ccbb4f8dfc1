using MathNet.Numerics.Distributions;

namespace Cursus.Core.Comparing;

/// <summary>How much a lead is worth acting on.</summary>
public enum VerdictCall
{
    /// <summary>Chance would hardly make such a lead: the 95 % interval of the ratio lies above one.</summary>
    Clear,

    /// <summary>More likely than not real, but not yet to be relied on: only the 80 % interval lies above one.</summary>
    Leaning,

    /// <summary>Chance alone could make it, or there are too few clicks to say.</summary>
    TooClose,
}

/// <summary>The leader's lead over the runner-up: how many times its clicks, between which bounds, and what to make of it.</summary>
/// <param name="Ratio">Leader's clicks divided by the runner-up's; null where the runner-up has none.</param>
/// <param name="Low">Lower bound of the ratio, 95 %.</param>
/// <param name="High">Upper bound of the ratio, 95 %; null where it has none.</param>
public sealed record Verdict(double? Ratio, double Low, double? High, VerdictCall Call)
{
    /// <summary>Below this many clicks together nothing is ever called.</summary>
    public const int FewestClicks = 10;

    /// <summary>Compares two counts over the same time by the conditional exact test (Przyborowski and Wilenski 1940, "Homogeneity of results in testing
    /// samples from Poisson series", Biometrika 31): given their sum, the leader's count is binomial. The ratio's interval follows from
    /// the Clopper–Pearson interval (1934) of its share.</summary>
    /// <exception cref="ArgumentException">The leader has fewer clicks than the runner-up, or a count is negative.</exception>
    public static Verdict Between(long leader, long runnerUp)
    {
        if (runnerUp < 0 || leader < runnerUp)
        {
            throw new ArgumentException("The leader must not have fewer clicks than the runner-up.", nameof(leader));
        }

        var (low, high) = RatioInterval(leader, runnerUp, 0.95);
        var call = leader + runnerUp < FewestClicks ? VerdictCall.TooClose
            : low > 1 ? VerdictCall.Clear
            : RatioInterval(leader, runnerUp, 0.80).Low > 1 ? VerdictCall.Leaning
            : VerdictCall.TooClose;
        return new Verdict(runnerUp == 0 ? null : (double)leader / runnerUp, low, high, call);
    }

    private static (double Low, double? High) RatioInterval(long leader, long runnerUp, double confidence)
    {
        var tail = (1 - confidence) / 2;
        var low = leader == 0 ? 0 : Beta.InvCDF(leader, runnerUp + 1, tail);
        var high = runnerUp == 0 ? 1 : Beta.InvCDF(leader + 1, runnerUp, 1 - tail);
        return (low / (1 - low), high < 1 ? high / (1 - high) : null);
    }
}
