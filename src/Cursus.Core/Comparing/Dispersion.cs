namespace Cursus.Core.Comparing;

/// <summary>
/// How much more the split of clicks between two groups varies from step to step than chance would make it, if each click fell to one or the other independently. Clicks don't:
/// a post brings many at once. Whatever both have in common, such as quiet Sundays, is no part of it, since each step is held against its own sum.
/// </summary>
/// <param name="Factor">Pearson's X² of the table of both groups by steps, over its degrees of freedom (McCullagh and Nelder 1989, "Generalized linear models", section 4.5);
/// at least 1, and 1 where there are too few steps.</param>
/// <param name="Freedom">Degrees of freedom: steps with clicks, less one.</param>
public sealed record Dispersion(double Factor, int Freedom)
{
    /// <summary>From fewer steps nothing is concluded (common practice, no source).</summary>
    public const int FewestSteps = 7;

    /// <param name="steps">Both groups' clicks of each step; steps without clicks tell nothing.</param>
    public static Dispersion Of(IReadOnlyCollection<(long One, long Other)> steps)
    {
        ArgumentNullException.ThrowIfNull(steps);
        var told = steps.Where(s => s.One + s.Other > 0).ToList();
        double all = told.Sum(s => s.One + s.Other);
        var share = told.Sum(s => s.One) / all;
        if (told.Count < FewestSteps || share is 0 or 1)
        {
            return new(1, Math.Max(0, told.Count - 1));
        }

        var squares = told.Sum(s => Math.Pow(s.One - (s.One + s.Other) * share, 2) / ((s.One + s.Other) * share * (1 - share)));
        return new(Math.Max(1, squares / (told.Count - 1)), told.Count - 1);
    }
}
