using MathNet.Numerics.Distributions;

namespace Cursus.Bench.Verdicts;

/// <summary>Random numbers with a named seed.</summary>
internal sealed class Luck
{
    private readonly Random random;

    /// <param name="seed">The same words draw the same numbers.</param>
    public Luck(params IEnumerable<object> seed) => random = new(string.Join('|', seed).Aggregate(17, (hash, c) => unchecked(hash * 31 + c)));

    /// <summary>From 0 to 1.</summary>
    public double Part() => random.NextDouble();

    public int Below(int most) => random.Next(most);

    public bool Coin() => random.Next(2) == 0;

    public int Poisson(double mean) => mean <= 0 ? 0 : MathNet.Numerics.Distributions.Poisson.Sample(random, mean);

    /// <summary>A multiplier with mean 1 whose logarithm has this standard deviation.</summary>
    public double Multiplier(double logDeviation) =>
        logDeviation == 0 ? 1 : Math.Exp(Normal.Sample(random, 0, logDeviation) - logDeviation * logDeviation / 2);

    /// <summary>How many times until one fails that succeeds with this probability; at least 1.</summary>
    public int Geometric(double goesOn)
    {
        var times = 1;
        while (random.NextDouble() < goesOn)
        {
            times++;
        }

        return times;
    }
}
