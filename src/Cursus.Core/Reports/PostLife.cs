namespace Cursus.Core.Reports;

/// <summary>How long posts live: when their clicks arrive.</summary>
/// <param name="Placements">How many were looked at.</param>
/// <param name="Running">Those among them that are younger than the time in which 90 % arrive.</param>
/// <param name="Clicks">People's clicks that were looked at.</param>
/// <param name="HalfHours">Hours until half of the clicks arrived; null where there are too few to say.</param>
/// <param name="MostHours">Hours until 90 % of them arrived.</param>
/// <param name="Arrived">Part of the clicks that arrived by the end of each step of the <see cref="PostClock"/>, up to the age of the oldest
/// placement.</param>
public sealed record PostLife(int Placements, int Running, long Clicks, double? HalfHours, double? MostHours, IReadOnlyList<double> Arrived)
{
    /// <summary>From fewer clicks nothing is concluded, as in <see cref="Verdict"/>.</summary>
    public const int FewestClicks = Verdict.FewestClicks;

    private const double Most = 0.9;

    /// <summary>
    /// Puts placements together, of which some are still running: of a post that is a day old only first-day clicks can be known, which says nothing
    /// about the second day, but much about how the first one's hours compare. So each step is held against those placements alone that lived through
    /// it: the product-limit estimate of Kaplan and Meier (1958, Journal of the American Statistical Association 53), run backwards in time as
    /// Lynden-Bell (1971, Monthly Notices of the Royal Astronomical Society 155) does for what is cut off on the right: F(t) = ∏ over later steps s
    /// of 1 − d(s)/R(s), where d(s) are the clicks of step s, and R(s) those up to and with step s, both of placements that lived through s.
    /// </summary>
    public static PostLife Of(IReadOnlyCollection<PlacementCourse> courses)
    {
        ArgumentNullException.ThrowIfNull(courses);
        var steps = courses.Select(c => c.Clicks.Length).DefaultIfEmpty().Max();
        var (inStep, known) = (new long[steps], new long[steps]);
        foreach (var course in courses)
        {
            var soFar = 0L;
            for (var step = 0; step < course.Clicks.Length; step++)
            {
                inStep[step] += course.Clicks[step];
                known[step] += soFar += course.Clicks[step];
            }
        }

        var arrived = new double[steps];
        var part = 1.0;
        for (var step = steps - 1; step >= 0; step--)
        {
            arrived[step] = part;
            part *= known[step] == 0 ? 1 : 1 - (double)inStep[step] / known[step];
        }

        var clicks = inStep.Sum();
        var most = clicks < FewestClicks ? null : Until(Most, arrived);
        return new(
            courses.Count,
            courses.Count(c => most is { } hours && PostClock.HoursAfter(c.Clicks.Length) < hours),
            clicks,
            clicks < FewestClicks ? null : Until(0.5, arrived),
            most,
            arrived
        );
    }

    /// <summary>Hours until a part arrived; within a step clicks are taken to come evenly.</summary>
    private static double? Until(double part, double[] arrived)
    {
        var step = Array.FindIndex(arrived, a => a >= part);
        if (step < 0)
        {
            return null;
        }

        var before = step == 0 ? 0 : arrived[step - 1];
        var (from, to) = (PostClock.HoursAfter(step), PostClock.HoursAfter(step + 1));
        return from + (to - from) * (part - before) / (arrived[step] - before);
    }
}
