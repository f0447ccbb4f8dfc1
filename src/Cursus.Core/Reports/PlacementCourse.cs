using System.Collections.Immutable;
using System.Runtime.InteropServices;
using NodaTime;

namespace Cursus.Core.Reports;

/// <summary>How clicks of one placement arrived.</summary>
/// <param name="Group">What it is compared with its like by, such as its channel's key.</param>
/// <param name="Start">The hour in which it went out, on the workspace's clock.</param>
/// <param name="Clicks">People's clicks in each step of the <see cref="PostClock"/> that is over.</param>
public sealed record PlacementCourse(Guid LinkId, string Group, LocalDateTime Start, ImmutableArray<long> Clicks)
{
    /// <summary>Clicks in the first so many steps.</summary>
    public long Within(int steps) => Clicks.Take(steps).Sum();

    /// <summary>Puts a course together from clicks by hour.</summary>
    /// <param name="hours">Clicks by whole hours since the start; those before it, of steps that are not over, and behind the end of the clock, are
    /// left out.</param>
    /// <param name="age">Whole hours since the start that are over.</param>
    public static PlacementCourse Of(Guid linkId, string group, LocalDateTime start, ReadOnlySpan<(int Hour, long Clicks)> hours, int age)
    {
        var over = age >= PostClock.Hours ? PostClock.Steps : PostClock.StepOf(Math.Max(0, age));
        var clicks = new long[over];
        foreach (var (hour, count) in hours)
        {
            if (hour >= 0 && PostClock.StepOf(hour) is var step && step < over)
            {
                clicks[step] += count;
            }
        }

        return new(linkId, group, start, ImmutableCollectionsMarshal.AsImmutableArray(clicks));
    }
}
