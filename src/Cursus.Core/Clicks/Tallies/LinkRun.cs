using NodaTime;

namespace Cursus.Core.Clicks.Tallies;

/// <summary>
/// A run of clicks on different links by one visitor, or out of one network: finds when they come faster than anybody can point at the links. Several
/// people may share an address, or a network, and click by chance in the same moment; so that only what comes out of silence is a sweep, or follows
/// one.
/// </summary>
/// <param name="fewest">How many different links make a sweep.</param>
/// <param name="perLink">How much time a person needs at the very least to get to the next link.</param>
/// <param name="first">The click that it begins with.</param>
/// <param name="calm">When somebody clicked there last as people do.</param>
internal sealed class LinkRun(int fewest, Duration perLink, LinkRun.Step first, Instant calm)
{
    /// <summary>How long it must have been silent. Common practice, no source; <c>./cursus bench machines</c> measures what comes of it.</summary>
    private static readonly Duration Silence = Duration.FromSeconds(10);

    private readonly List<Step> steps = [first];
    private Instant last = first.At;
    private bool isSweep;

    /// <summary>One click on one link.</summary>
    internal readonly record struct Step(long Id, Instant At, Guid Link, long Visitor);

    /// <summary>Adds the next click. Returns whether it belongs to a sweep.</summary>
    /// <param name="alsoSwept">Gets the ids and times of clicks before it that turn out to belong to the same sweep.</param>
    public bool Add(in Step step, ICollection<(long Id, Instant At)> alsoSwept)
    {
        var (gap, now) = (step.At - last, step.At);
        last = step.At;

        // A sweep goes on, whatever it opens again, until there is a rest.
        if (isSweep && gap < perLink + perLink)
        {
            return true;
        }

        isSweep = false;
        while (steps.Count > 0 && now - steps[0].At > perLink * (fewest - 1))
        {
            calm = Instant.Max(calm, steps[0].At);
            steps.RemoveAt(0);
        }

        var (link, visitor) = (step.Link, step.Visitor);
        if (steps.FindIndex(s => s.Link == link) is >= 0 and var known)
        {
            if (steps[known].Visitor == visitor)
            {
                return false;
            }

            // Programs open each link once; two visitors with the same link are two readers.
            calm = now;
            steps.Clear();
        }

        steps.Add(step);
        if (steps.Count < fewest || steps[0].At - calm < Silence)
        {
            return false;
        }

        isSweep = true;
        foreach (var before in steps.SkipLast(1))
        {
            alsoSwept.Add((before.Id, before.At));
        }

        steps.Clear();
        return true;
    }
}
