namespace Cursus.Core.Reports;

/// <summary>Adds up what units such as posts say about an estimate; see <see cref="ClusteredEstimate"/>.</summary>
internal sealed class UnitSample(ClickUnits units)
{
    /// <summary>How many gaps between units, of random length, are assumed beside those that are seen, so that a few even ones make no rhythm. Chosen
    /// by simulation: bench/verdict.</summary>
    private const double AssumedGaps = 7;

    /// <summary>Which groups a unit belongs to. Units of one stratum could stand for each other.</summary>
    public enum Stratum
    {
        First,
        Second,
        Both,
    }

    private readonly Sums[] strata = new Sums[3];
    private double weights;
    private double squaredWeights;

    /// <summary>As many units of equal weight would be as good as these (Kish 1965, "Survey sampling", section 11.7), less one: a single great post
    /// among many small ones counts as what it is. Compare Carter, Schnepel and Steigerwald (2017, "Asymptotic behavior of a t-test robust to cluster
    /// heterogeneity", Review of Economics and Statistics 99).</summary>
    public double Freedom => squaredWeights > 0 ? Math.Max(1, weights * weights / squaredWeights - 1) : 1;

    /// <summary>The variance of a sum, which also depends on how many units there are.</summary>
    public double Variance => strata.Where(s => s.Units > 0).Sum(s => s.Variance(IrregularityOf(s)));

    /// <summary>The variance of a ratio. If all units are of one stratum, how many there are moves both of its sides alike.</summary>
    public double VarianceOfRatio => strata.Count(s => s.Units > 0) == 1 ? VarianceOfMeans : Variance;

    /// <summary>The variance of what is divided by the number of units, which is then no matter of chance.</summary>
    public double VarianceOfMeans => strata.Sum(s => s.Squares);

    /// <summary>Adds a unit; those of one stratum come in the order of their days.</summary>
    /// <param name="influence">How much of the estimate is owed to it.</param>
    /// <param name="weight">How much of the estimate's variance is expected of it.</param>
    public void Add(int unit, Stratum stratum, double influence, double weight)
    {
        strata[units.IsShared ? 0 : (int)stratum].Add(influence, units.Days?[unit] ?? 0);
        weights += weight;
        squaredWeights += weight * weight;
    }

    /// <summary>
    /// How far the number of units is a matter of chance: 1 if they come at random, 0 if by the calendar. The number of events in a long time varies
    /// by the squared coefficient of variation of the time between them (Cox 1962, "Renewal theory", section 3.3).
    /// </summary>
    private double IrregularityOf(Sums stratum) =>
        units.Days is null ? 0 : Math.Min(1, (stratum.VariationOfGaps + AssumedGaps) / (stratum.Units - 1 + AssumedGaps));

    private struct Sums
    {
        private int firstDay;
        private int lastDay;
        private double squaredGaps;
        private double influences;

        public int Units { get; private set; }

        public double Squares { get; private set; }

        /// <summary>Squared differences of the gaps from their mean, as multiples of the squared mean; as for random gaps if all units are of one
        /// day.</summary>
        public readonly double VariationOfGaps
        {
            get
            {
                var gaps = Units - 1;
                var mean = (double)(lastDay - firstDay) / Math.Max(1, gaps);
                return mean == 0 ? gaps : squaredGaps / (mean * mean) - gaps;
            }
        }

        public void Add(double influence, int day)
        {
            firstDay = Units == 0 ? day : firstDay;
            var gap = Units == 0 ? 0 : day - lastDay;
            (lastDay, squaredGaps) = (day, squaredGaps + (double)gap * gap);
            influences += influence;
            Squares += influence * influence;
            Units++;
        }

        /// <summary>Squared influences; of the part that comes from the number of units only what is irregular.</summary>
        public readonly double Variance(double irregularity)
        {
            var ofNumber = influences * influences / Units;
            var within = Math.Max(0, Squares - ofNumber);
            return irregularity * Squares + (1 - irregularity) * (Units == 1 ? Squares : within * Units / (Units - 1));
        }
    }
}
