using MathNet.Numerics.Distributions;

namespace Cursus.Core.Reports;

/// <summary>
/// How sure a mean or a ratio is that comes from units such as posts, on the scale of natural logarithms.
/// <para>
/// The claim is about posts like these: had others been written in their place, on the same channels and with the same rhythm, what would come out on
/// average? So posts are what varies. Clicks are not, since they come many at once, and neither are days, since they share their posts.
/// </para>
/// <para>
/// The variance is the cluster-robust ("sandwich") variance of the split of clicks between two groups (Liang and Zeger 1986, "Longitudinal data
/// analysis using generalized linear models", Biometrika 73), clustered by unit, with the small-sample correction CR2 (Bell and McCaffrey 2002, "Bias
/// reduction in standard errors for linear regression with multi-stage samples", Survey Methodology 28). A post that both groups carry is one unit,
/// and what it brings to both cancels out: the comparison is then paired.
/// </para>
/// </summary>
/// <param name="Value">Logarithm of the mean or ratio.</param>
/// <param name="Error">Its standard error.</param>
/// <param name="Freedom">Degrees of freedom of Student's t, at least 1; see <see cref="UnitSample.Freedom"/>.</param>
public readonly record struct ClusteredEstimate(double Value, double Error, double Freedom)
{
    /// <summary>Keeps logarithms finite if a side has no clicks (Gart 1966, "Alternative analyses of contingency tables", Journal of the Royal
    /// Statistical Society B 28).</summary>
    private const double Half = 0.5;

    /// <summary>The two-sided p-value: the part of cases in which chance alone would move <see cref="Value"/> at least as far from zero.</summary>
    public double Chance => Math.Min(1, 2 * StudentT.CDF(0, 1, Freedom, -Math.Abs(Value) / Error));

    /// <summary>The interval of the mean or ratio itself.</summary>
    public (double Low, double High) Interval(double confidence = 0.95)
    {
        var reach = StudentT.InvCDF(0, 1, Freedom, (1 + confidence) / 2) * Error;
        return (Math.Exp(Value - reach), Math.Exp(Value + reach));
    }

    /// <summary>How many times as many clicks one group brings as another, in all or for each of their posts.</summary>
    /// <param name="one">The first group's units, in the order of their numbers.</param>
    /// <param name="other">The second group's.</param>
    /// <param name="units">The answer that both belong to.</param>
    /// <param name="isPerPost">True to compare clicks for each post that went out in the period; both groups must then have one.</param>
    public static ClusteredEstimate OfRatio(UnitCount[] one, UnitCount[] other, ClickUnits units, bool isPerPost = false)
    {
        ArgumentNullException.ThrowIfNull(one);
        ArgumentNullException.ThrowIfNull(other);
        ArgumentNullException.ThrowIfNull(units);
        var (first, second) = (new Side(one, isPerPost), new Side(other, isPerPost));
        var clicks = Math.Max(1, first.Clicks + second.Clicks);
        var sample = new UnitSample(units);
        for (var (i, j) = (0, 0); i < one.Length || j < other.Length; )
        {
            var order =
                i == one.Length ? 1
                : j == other.Length ? -1
                : one[i].Unit.CompareTo(other[j].Unit);
            var (mine, yours) = (order <= 0 ? one[i++] : default, order >= 0 ? other[j++] : default);
            var leverage = isPerPost ? 0 : (double)(mine.Clicks + yours.Clicks) / clicks;
            sample.Add(
                order <= 0 ? mine.Unit : yours.Unit,
                order < 0 ? UnitSample.Stratum.First
                    : order > 0 ? UnitSample.Stratum.Second
                    : UnitSample.Stratum.Both,
                (first.Influence(mine) - second.Influence(yours)) / Math.Sqrt(Math.Max(1e-9, 1 - leverage)),
                first.Weight(mine) + second.Weight(yours)
            );
        }

        return new(
            Math.Log(first.Mean / second.Mean),
            Math.Sqrt(Math.Max(isPerPost ? sample.VarianceOfMeans : sample.VarianceOfRatio, 1 / first.Total + 1 / second.Total)),
            sample.Freedom
        );
    }

    /// <summary>How many clicks as many units like these bring on average, or each of their posts.</summary>
    /// <param name="one">The group's units, in the order of their numbers.</param>
    /// <param name="units">The answer that it belongs to.</param>
    /// <param name="isPerPost">True for clicks for each post that went out in the period; there must be one.</param>
    public static ClusteredEstimate OfMean(UnitCount[] one, ClickUnits units, bool isPerPost = false)
    {
        ArgumentNullException.ThrowIfNull(one);
        ArgumentNullException.ThrowIfNull(units);
        var side = new Side(one, isPerPost);
        var sample = new UnitSample(units);
        foreach (var unit in one)
        {
            sample.Add(unit.Unit, UnitSample.Stratum.First, side.Influence(unit), side.Weight(unit));
        }

        return new(Math.Log(side.Mean), Math.Sqrt(Math.Max(isPerPost ? sample.VarianceOfMeans : sample.Variance, 1 / side.Total)), sample.Freedom);
    }

    /// <summary>One group's part in an estimate.</summary>
    private readonly struct Side
    {
        private readonly int posts;
        private readonly double concentration;

        public Side(UnitCount[] units, bool isPerPost)
        {
            foreach (var unit in units)
            {
                Clicks += unit.Clicks;
                posts += isPerPost && unit.IsNew ? 1 : 0;
                concentration += (double)unit.Clicks * unit.Clicks;
            }

            concentration = Math.Sqrt(concentration) / Total;
        }

        public long Clicks { get; }

        public double Total => Clicks + Half;

        public double Mean => Total / Math.Max(1, posts);

        /// <summary>How much of the logarithm of the mean is owed to a unit.</summary>
        public double Influence(UnitCount unit) =>
            posts > 1 && unit.IsNew ? (unit.Clicks / Total - 1.0 / posts) / Math.Sqrt(1 - 1.0 / posts) : unit.Clicks / Total;

        /// <summary>
        /// How much of the variance is expected of a unit. Within a group by clicks to the power of 1.5, between 1, which holds if the clicks of a
        /// unit fall independently, and 2, which holds if a unit's luck multiplies all of its clicks; chosen by simulation (bench/verdict). Of two
        /// groups, the one with fewer units has the more of it.
        /// </summary>
        public double Weight(UnitCount unit) => unit.Clicks / Total is var part ? part * Math.Sqrt(part) * concentration : 0;
    }
}
