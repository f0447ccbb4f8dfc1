using MathNet.Numerics.Distributions;

namespace Cursus.Core.Comparing;

/// <summary>How sure a count is: the exact interval of a Poisson mean.</summary>
public static class PoissonInterval
{
    /// <summary>The central interval for the mean behind a count of <paramref name="clicks"/> (Garwood 1936, "Fiducial limits for the Poisson distribution",
    /// Biometrika 28): half the chi-squared quantiles with 2k and 2k + 2 degrees of freedom.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The count is negative.</exception>
    public static (double Low, double High) Of(long clicks, double confidence = 0.95)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(clicks);
        var tail = (1 - confidence) / 2;
        var low = clicks == 0 ? 0 : Gamma.InvCDF(clicks, 1, tail);
        return (low, Gamma.InvCDF(clicks + 1, 1, 1 - tail));
    }

    /// <summary>The interval where the count varies more than chance would make it: on the logarithm of the mean, with variance φ / k and Student's t.</summary>
    /// <param name="dispersion">Of the split between what was counted and all the rest.</param>
    public static (double Low, double High) Of(long clicks, Dispersion dispersion)
    {
        ArgumentNullException.ThrowIfNull(dispersion);
        if (clicks == 0 || dispersion.Factor <= 1)
        {
            return Of(clicks);
        }

        var reach = Math.Exp(StudentT.InvCDF(0, 1, dispersion.Freedom, 0.975) * Math.Sqrt(dispersion.Factor / clicks));
        return (clicks / reach, clicks * reach);
    }
}
