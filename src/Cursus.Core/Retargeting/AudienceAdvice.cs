namespace Cursus.Core.Retargeting;

/// <summary>Visitors of one part of a pixel's audience, such as a campaign, within a window.</summary>
public sealed record AudiencePart(string Name, long Visitors);

/// <summary>Says what to do with audiences that are too small or too mixed.</summary>
public static class AudienceAdvice
{
    /// <summary>A campaign is worth an audience of its own from so many times the network's smallest on (common practice, no source).</summary>
    private const int Large = 10;

    /// <summary>One sentence for each thing to do; none where all is well.</summary>
    /// <param name="smallest">Fewer visitors can't be advertised to in this network.</param>
    /// <param name="visitors">About how many visitors the pixel has in the window.</param>
    /// <param name="campaigns">The same by campaign.</param>
    /// <param name="days">The window.</param>
    public static IReadOnlyList<string> Of(string network, int smallest, long visitors, IReadOnlyList<AudiencePart> campaigns, int days)
    {
        ArgumentNullException.ThrowIfNull(campaigns);
        if (visitors < smallest)
        {
            return
            [
                $"{CountWords.Number(visitors)} visitors in {days} days are too few for {network}, which needs about {CountWords.Number(smallest)}. Attach the pixel to more campaigns, or choose a longer window.",
            ];
        }

        var advice = new List<string>();
        var small = campaigns.Where(c => c.Visitors > 0 && c.Visitors < smallest).ToList();
        if (small.Count > 1)
        {
            advice.Add(
                $"Pool {Names(small)}: alone each is below {CountWords.Number(smallest)}, together they have about {CountWords.Number(small.Sum(c => c.Visitors))} visitors."
            );
        }

        var large = campaigns.Where(c => c.Visitors >= Large * Math.Max(1, smallest) && c.Visitors < visitors).ToList();
        if (large.Count > 0)
        {
            advice.Add(
                $"Split off {Names(large)}: with about {CountWords.Number(large.Max(c => c.Visitors))} visitors there is enough for adverts of {(large.Count == 1 ? "its" : "their")} own."
            );
        }

        return advice;
    }

    private static string Names(List<AudiencePart> parts) =>
        parts.Count == 1
            ? $"“{parts[0].Name}”"
            : $"{string.Join(", ", parts.Take(parts.Count - 1).Select(p => $"“{p.Name}”"))} and “{parts[^1].Name}”";
}
