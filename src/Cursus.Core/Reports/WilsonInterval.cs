using MathNet.Numerics.Distributions;

namespace Cursus.Core.Reports;

/// <summary>How sure a share is.</summary>
public static class WilsonInterval
{
    /// <summary>The score interval for a share (Wilson 1927, "Probable inference, the law of succession, and statistical inference", Journal of the
    /// American Statistical Association 22), which stays between 0 and 1 also where the share is small.</summary>
    /// <param name="dispersion">How many times as much the share varies as chance alone would make it; so many clicks say as much as one.</param>
    /// <exception cref="ArgumentOutOfRangeException">The part is negative or greater than the whole.</exception>
    public static (double Low, double High) Of(long part, long whole, double confidence = 0.95, double dispersion = 1)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(part);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(part, whole);
        if (whole == 0)
        {
            return (0, 1);
        }

        var z = Normal.InvCDF(0, 1, 1 - (1 - confidence) / 2);
        var clicks = whole / Math.Max(1, dispersion);
        var share = (double)part / whole;
        var weight = z * z / clicks;
        var middle = (share + weight / 2) / (1 + weight);
        var reach = z / (1 + weight) * Math.Sqrt(share * (1 - share) / clicks + weight / (4 * clicks));
        return (Math.Max(0, middle - reach), Math.Min(1, middle + reach));
    }
}
