using MathNet.Numerics;

namespace Cursus.Core.Reports;

/// <summary>Whether a lead would come again.</summary>
public enum VerdictCall
{
    /// <summary>Equal groups show such a lead in at most one of twenty cases.</summary>
    Clear,

    /// <summary>More likely than not to come again, but not to be relied on: equal groups show such a lead in at most one of five cases.</summary>
    Leaning,

    /// <summary>Equal groups show such a lead often.</summary>
    TooClose,

    /// <summary>Too few posts, or other units, or clicks, to say anything.</summary>
    TooFew,
}

/// <summary>
/// What to make of a leader's lead over the runner-up. That it got more clicks is a fact. The verdict answers another question: would it again, with
/// posts like these? See
/// <see cref="ClusteredEstimate"/> for what exactly is claimed, and docs/how-cursus-decides.md for how often that is wrong.
/// </summary>
/// <param name="Ratio">The leader's clicks divided by the runner-up's, or its clicks for each post; null if the runner-up has none.</param>
/// <param name="Low">Lower bound of the ratio to expect, 95 %; null if there are too few units.</param>
/// <param name="High">Upper bound, 95 %; null if it has none, or if there are too few units.</param>
/// <param name="Chance">The part of cases in which equal groups would show such a lead or a greater one, either way: the two-sided p-value; 1 if
/// there are too few units.</param>
/// <param name="Units">How many units each of both has.</param>
/// <param name="IsPaired">True if most clicks of both are of units that both have.</param>
/// <param name="MoreUnits">With about so many more units such a lead would be clear; null if it is, or if that can't be said.</param>
public sealed record Verdict(
    double? Ratio,
    double? Low,
    double? High,
    double Chance,
    VerdictCall Call,
    (int Leader, int RunnerUp) Units,
    bool IsPaired,
    (int Least, int Most)? MoreUnits
)
{
    /// <summary>With fewer clicks of both together nothing is ever called (common practice, no source).</summary>
    public const int FewestClicks = 10;

    /// <summary>With fewer units on a side nothing is ever called: of three posts one decides.</summary>
    public const int FewestUnits = 4;

    private const double ClearChance = 0.05;
    private const double LeaningChance = 0.2;

    /// <summary>How many times as many units as now may be said to be needed; further than that nobody can see.</summary>
    private const double FurthestSight = 4;

    /// <summary>Judges a lead by the units that it comes from.</summary>
    /// <param name="leader">The leader's units, in the order of their numbers.</param>
    /// <param name="units">The answer that both belong to.</param>
    /// <param name="isPerPost">True to compare clicks for each post that went out in the period; both must then have one.</param>
    public static Verdict Between(UnitCount[] leader, UnitCount[] runnerUp, ClickUnits units, bool isPerPost = false)
    {
        ArgumentNullException.ThrowIfNull(leader);
        ArgumentNullException.ThrowIfNull(runnerUp);
        ArgumentNullException.ThrowIfNull(units);
        var (clicks, clicksNext) = (leader.Sum(u => u.Clicks), runnerUp.Sum(u => u.Clicks));
        var (counted, countedNext) = (CountOf(leader, isPerPost), CountOf(runnerUp, isPerPost));
        var ratio =
            clicksNext == 0 || counted == 0 ? default(double?) : (double)clicks / clicksNext * (isPerPost ? (double)countedNext / counted : 1);
        var tooFew = new Verdict(
            ratio,
            null,
            null,
            1,
            VerdictCall.TooFew,
            (counted, countedNext),
            IsMostlyShared(leader, runnerUp, clicks + clicksNext),
            null
        );
        if (Math.Min(counted, countedNext) < FewestUnits || clicks + clicksNext < FewestClicks)
        {
            return tooFew;
        }

        var estimate = ClusteredEstimate.OfRatio(leader, runnerUp, units, isPerPost);
        var (low, high) = estimate.Interval();
        var call = CallOf(estimate.Chance);
        return tooFew with
        {
            Low = low,
            High = clicksNext == 0 ? null : high,
            Chance = estimate.Chance,
            Call = call,
            MoreUnits = call == VerdictCall.Clear ? null : MoreUntilClear(estimate, Math.Max(counted, countedNext)),
        };
    }

    /// <summary>
    /// Judges a lead by readers who decide independently, such as those of one mailing with two buttons, by the conditional exact test (Przyborowski
    /// and Wilenski 1940, "Homogeneity of results in testing samples from Poisson series", Biometrika 31): given their sum, the leader's clicks are
    /// binomial with the leader's part of all exposure. The ratio's interval follows from the one of Clopper and Pearson (1934) of its share.
    /// </summary>
    /// <param name="leader">Its clicks, counted so that each stands for a reader; see <see cref="Variants"/>.</param>
    /// <param name="exposure">How often each was shown, in any unit.</param>
    /// <exception cref="ArgumentException">The leader has fewer clicks by exposure than the runner-up, a count is negative, or an exposure isn't
    /// positive.</exception>
    public static Verdict ByReaders(double leader, double runnerUp, (double Leader, double RunnerUp) exposure)
    {
        if (!(exposure.Leader > 0) || !(exposure.RunnerUp > 0))
        {
            throw new ArgumentException("Both must have been shown.", nameof(exposure));
        }

        if (runnerUp < 0 || leader * exposure.RunnerUp < runnerUp * exposure.Leader)
        {
            throw new ArgumentException("The leader must not have fewer clicks than the runner-up.", nameof(leader));
        }

        const double tail = (1 - 0.95) / 2;
        var times = exposure.Leader / exposure.RunnerUp;
        var low = leader == 0 ? 0 : MathNet.Numerics.Distributions.Beta.InvCDF(leader, runnerUp + 1, tail);
        var high = runnerUp == 0 ? 1 : MathNet.Numerics.Distributions.Beta.InvCDF(leader + 1, runnerUp, 1 - tail);
        var chance = leader == 0 ? 1 : Math.Min(1, 2 * SpecialFunctions.BetaRegularized(leader, runnerUp + 1, times / (1 + times)));
        return new(
            runnerUp == 0 ? null : leader / runnerUp / times,
            low / (1 - low) / times,
            high < 1 ? high / (1 - high) / times : null,
            chance,
            leader + runnerUp < FewestClicks ? VerdictCall.TooFew : CallOf(chance),
            ((int)leader, (int)runnerUp),
            IsPaired: false,
            null
        );
    }

    private static VerdictCall CallOf(double chance) =>
        chance <= ClearChance ? VerdictCall.Clear
        : chance <= LeaningChance ? VerdictCall.Leaning
        : VerdictCall.TooClose;

    /// <summary>The units that say something: those that went out in the period and, unless it is asked per post, those clicked in it.</summary>
    private static int CountOf(UnitCount[] units, bool isPerPost) => units.Count(u => u.IsNew || (!isPerPost && u.Clicks > 0));

    private static bool IsMostlyShared(UnitCount[] leader, UnitCount[] runnerUp, long clicks)
    {
        var ofLeader = leader.Where(u => u.Clicks > 0).ToDictionary(u => u.Unit, u => u.Clicks);
        return 2 * runnerUp.Where(u => u.Clicks > 0 && ofLeader.ContainsKey(u.Unit)).Sum(u => u.Clicks + ofLeader[u.Unit]) > clicks;
    }

    /// <summary>The error shrinks with the root of the number of units. How many are needed depends on the true ratio, which is as uncertain as the
    /// error says: the range is what its middle half asks for.</summary>
    private static (int Least, int Most)? MoreUntilClear(ClusteredEstimate estimate, int units)
    {
        const double middleHalf = 0.6745;
        const double clear = 1.96;
        var times = estimate.Value / estimate.Error;
        if (times <= middleHalf)
        {
            return null;
        }

        double Needed(double t) => units * (clear * clear / (t * t) - 1);
        var (least, most) = (Math.Max(1, Math.Ceiling(Needed(times + middleHalf))), Math.Max(1, Math.Ceiling(Needed(times - middleHalf))));
        return most <= FurthestSight * units ? ((int)least, (int)most) : null;
    }
}
