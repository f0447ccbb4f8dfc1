using MathNet.Numerics.Statistics;

namespace Cursus.Core.Reports;

/// <summary>The usual clicks at one point of the <see cref="PostClock"/>: the middle half of placements lies between <paramref name="Low"/> and
/// <paramref name="High"/>.</summary>
public sealed record UsualClicks(int Hours, double Low, double Middle, double High);

/// <summary>A placement against the usual course of its like: "ahead of 8 of the last 10".</summary>
/// <param name="Hours">Its age on the <see cref="PostClock"/>, in steps that are over.</param>
/// <param name="Clicks">Its clicks until then.</param>
/// <param name="Ahead">How many of those it is held against had fewer clicks at the same age.</param>
/// <param name="Others">How many it is held against: the last ones before it that are at least as old.</param>
/// <param name="Usual">Their course, up to the age that all of them reached.</param>
public sealed record Pace(int Hours, long Clicks, int Ahead, int Others, IReadOnlyList<UsualClicks> Usual)
{
    /// <summary>How many placements make the usual course (common practice, no source).</summary>
    public const int MostOthers = 10;

    /// <summary>Fewer placements are no usual course.</summary>
    public const int FewestOthers = 3;

    /// <param name="others">Placements of the same group; those that started later, are younger on the clock or are the placement itself are passed
    /// over.</param>
    public static Pace Of(PlacementCourse placement, IEnumerable<PlacementCourse> others)
    {
        ArgumentNullException.ThrowIfNull(placement);
        var steps = placement.Clicks.Length;
        var clicks = placement.Within(steps);
        var last = others
            .Where(o => o.LinkId != placement.LinkId && o.Group == placement.Group && o.Start <= placement.Start && o.Clicks.Length >= steps)
            .OrderByDescending(o => o.Start)
            .ThenBy(o => o.LinkId)
            .Take(MostOthers)
            .ToList();
        return new(
            PostClock.HoursAfter(steps),
            clicks,
            last.Count(o => o.Within(steps) < clicks),
            last.Count,
            last.Count < FewestOthers ? [] : UsualCourse(last)
        );
    }

    /// <summary>Quartiles of the clicks so far, step by step.</summary>
    private static List<UsualClicks> UsualCourse(List<PlacementCourse> courses)
    {
        var usual = new List<UsualClicks>();
        var soFar = new double[courses.Count];
        for (var step = 0; step < courses.Min(c => c.Clicks.Length); step++)
        {
            for (var i = 0; i < soFar.Length; i++)
            {
                soFar[i] += courses[i].Clicks[step];
            }

            var ordered = soFar.Order().ToArray();
            usual.Add(
                new(
                    PostClock.HoursAfter(step + 1),
                    SortedArrayStatistics.LowerQuartile(ordered),
                    SortedArrayStatistics.Median(ordered),
                    SortedArrayStatistics.UpperQuartile(ordered)
                )
            );
        }

        return usual;
    }
}
