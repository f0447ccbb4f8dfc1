using MathNet.Numerics;
using MathNet.Numerics.Distributions;

namespace Cursus.Core.Comparing;

/// <summary>How sure a count is: the exact interval of a Poisson mean.</summary>
public static class PoissonInterval
{
    private const int SmallShape = 30;
    private const int NewtonSteps = 2;

    /// <summary>The central interval for the mean behind a count of <paramref name="clicks"/> (Garwood 1936, "Fiducial limits for the Poisson distribution",
    /// Biometrika 28): half the chi-squared quantiles with 2k and 2k + 2 degrees of freedom.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The count is negative.</exception>
    public static (double Low, double High) Of(long clicks, double confidence = 0.95)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(clicks);
        var tail = (1 - confidence) / 2;
        return (clicks == 0 ? 0 : GammaQuantile(clicks, tail), GammaQuantile(clicks + 1, 1 - tail));
    }

    /// <summary>
    /// The quantile of a gamma distribution of scale 1, half that of chi-squared with twice the degrees of freedom. For all but small shapes a few of Newton's steps lead there from the cube-root approximation
    /// (Wilson and Hilferty 1931, "The distribution of chi-square", Proceedings of the National Academy of Sciences 17), many times faster than halving does.
    /// </summary>
    private static double GammaQuantile(long shape, double part)
    {
        if (shape < SmallShape)
        {
            return Gamma.InvCDF(shape, 1, part);
        }

        var quantile = shape * Math.Pow(1 - 1 / (9.0 * shape) + Normal.InvCDF(0, 1, part) / (3 * Math.Sqrt(shape)), 3);
        for (var step = 0; step < NewtonSteps; step++)
        {
            // By its logarithm, since powers of some shapes between 140 and 160 are too large for a number.
            quantile -= (SpecialFunctions.GammaLowerRegularized(shape, quantile) - part) / Math.Exp(Gamma.PDFLn(shape, 1, quantile));
        }

        return quantile;
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
