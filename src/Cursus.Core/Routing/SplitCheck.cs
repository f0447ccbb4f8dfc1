using MathNet.Numerics.Distributions;

namespace Cursus.Core.Routing;

/// <summary>Whether the pages of a split got their visitors as set.</summary>
public enum SplitCall
{
    /// <summary>Too few people came to tell.</summary>
    TooFew,

    /// <summary>What differs from the shares that were set is no more than chance.</summary>
    AsSet,

    /// <summary>The shares differ by more than chance.</summary>
    Off,
}

/// <summary>
/// Checks a split by the people its pages got. It says nothing of which page is better: visitors are shared out as set, so that their numbers follow
/// the shares.
/// </summary>
public static class SplitCheck
{
    /// <summary>In which part of the cases a split that works is called off. Small, since people look again and again; measured by simulation in
    /// <c>bench/verdict</c>.</summary>
    public const double WrongAlarms = 0.001;

    /// <summary>The fewest people that a page must be expected to get for the chi-square distribution to be near enough: W. G. Cochran, "Some methods
    /// for strengthening the common χ² tests", Biometrics 10 (1954), from memory.</summary>
    public const int FewestExpected = 5;

    /// <summary>Pearson's chi-square test of the people against the shares.</summary>
    /// <param name="pages">Each page's share in whole percent, and how many different people it got; each of them must have fallen by lot
    /// once.</param>
    public static SplitCall Of(IReadOnlyCollection<(int Weight, long People)> pages)
    {
        ArgumentNullException.ThrowIfNull(pages);
        var people = pages.Sum(p => p.People);
        var shared = pages.Where(p => p.Weight > 0).ToList();
        if (pages.Any(p => p.Weight == 0 && p.People > 0))
        {
            return SplitCall.Off;
        }

        if (shared.Count < 2)
        {
            return people == 0 ? SplitCall.TooFew : SplitCall.AsSet;
        }

        if (people < Needed(pages))
        {
            return SplitCall.TooFew;
        }

        var distance = shared.Sum(p => Squared(p.People - Expected(p.Weight, people)) / Expected(p.Weight, people));
        return 1 - ChiSquared.CDF(shared.Count - 1, distance) < WrongAlarms ? SplitCall.Off : SplitCall.AsSet;
    }

    /// <summary>How many people it takes to tell.</summary>
    public static long Needed(IEnumerable<(int Weight, long People)> pages) =>
        (long)Math.Ceiling(FewestExpected * 100.0 / pages.Where(p => p.Weight > 0).Min(p => p.Weight));

    private static double Expected(int weight, long people) => people * weight / 100.0;

    private static double Squared(double number) => number * number;
}
