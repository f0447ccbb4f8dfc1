namespace Cursus.Core.Reports;

/// <summary>One line of a digest.</summary>
/// <param name="By">What <paramref name="Key"/> refers to: <c>channel</c> or <c>post</c>; <c>care</c> if the line is about pages that need attention,
/// null if it is about everything.</param>
public sealed record DigestLine(string Text, string? By = null, string? Key = null);

/// <summary>One section of a digest.</summary>
public sealed record DigestSection(string Heading, IReadOnlyList<DigestLine> Lines);

/// <summary>A week in a minute: what led, what changed, what is too close to call, what died, and what nobody clicked.</summary>
/// <param name="Headline">Fit for the subject of an e-mail.</param>
/// <param name="Sections">Those with findings.</param>
public sealed record Digest(string Headline, IReadOnlyList<DigestSection> Sections)
{
    private const int MostLines = 5;

    /// <summary>A post died when it brought no more than this part of what it brought the week before (common practice, no source).</summary>
    private const double DeadPart = 0.1;

    /// <param name="channels">The week's clicks by channel, against the week before.</param>
    /// <param name="posts">The same by post.</param>
    /// <param name="changes">By key of the channel, whether the busier of both weeks would be again; channels of which that can't be said may be
    /// missing.</param>
    /// <param name="care">What needs care now, the most urgent first.</param>
    public static Digest Of(Breakdown channels, Breakdown posts, IReadOnlyDictionary<string, Verdict> changes, IReadOnlyList<string> care)
    {
        ArgumentNullException.ThrowIfNull(changes);
        ArgumentNullException.ThrowIfNull(channels);
        ArgumentNullException.ThrowIfNull(posts);
        ArgumentNullException.ThrowIfNull(care);
        IReadOnlyList<DigestSection> sections =
        [
            new("What led", Led(channels, posts)),
            new("Needs attention", Careful(care)),
            new("What changed", Changed(channels.Rows, changes)),
            new("Too close to call", TooClose(channels.Rows)),
            new("What died", Died(posts.Rows)),
            new("Published but not clicked", Silent(posts.Rows)),
        ];
        return new(HeadlineOf(channels.Rows), [.. sections.Where(s => s.Lines.Count > 0)]);
    }

    private static string HeadlineOf(IReadOnlyList<BreakdownRow> channels) =>
        channels.FirstOrDefault(c => c.Count is { Clicks: > 0, IsRest: false }) is { } leader
            ? $"{leader.Count.Label} led with {CountWords.Clicks(leader.Count.Clicks)}"
            : "a week without clicks";

    private static List<DigestLine> Led(Breakdown channels, Breakdown posts) =>
        [
            new(AnswerSentence.Of(channels)),
            .. posts
                .Rows.Where(p => p.Count is { Clicks: > 0, IsRest: false })
                .Take(3)
                .Select(p => new DigestLine($"“{p.Count.Label}” brought {CountWords.Clicks(p.Count.Clicks)}.", "post", p.Count.Key)),
        ];

    /// <summary>The sum, and those channels whose change is more than the luck of their posts.</summary>
    private static List<DigestLine> Changed(IReadOnlyList<BreakdownRow> channels, IReadOnlyDictionary<string, Verdict> changes)
    {
        var (clicks, before) = (channels.Sum(c => c.Count.Clicks), channels.Sum(c => c.Count.PreviousClicks ?? 0));
        return clicks + before == 0
            ? []
            :
            [
                new($"All channels: {Against(clicks, before)}."),
                .. channels
                    .Where(c => !c.Count.IsRest && changes.GetValueOrDefault(c.Count.Key)?.Call == VerdictCall.Clear)
                    .OrderByDescending(c => Math.Abs(c.Count.Clicks - c.Count.PreviousClicks!.Value))
                    .Take(MostLines)
                    .Select(c => new DigestLine(
                        $"{c.Count.Label}: {Against(c.Count.Clicks, c.Count.PreviousClicks!.Value)}.",
                        "channel",
                        c.Count.Key
                    )),
            ];
    }

    private static List<DigestLine> TooClose(IReadOnlyList<BreakdownRow> channels) =>
        [
            .. channels
                .Zip(channels.Skip(1))
                .Where(p => p.First.IsTooCloseToNext && p.First.Count.Clicks + p.Second.Count.Clicks >= Verdict.FewestClicks)
                .Take(MostLines)
                .Select(p => new DigestLine(
                    $"{p.First.Count.Label} and {p.Second.Count.Label}: {CountWords.Number(p.First.Count.Clicks)} clicks against {CountWords.Number(p.Second.Count.Clicks)}.",
                    "channel",
                    p.First.Count.Key
                )),
        ];

    private static List<DigestLine> Died(IReadOnlyList<BreakdownRow> posts) =>
        [
            .. posts
                .Where(p =>
                    p.Count is { IsRest: false, PreviousClicks: >= Verdict.FewestClicks } && p.Count.Clicks <= DeadPart * p.Count.PreviousClicks
                )
                .OrderByDescending(p => p.Count.PreviousClicks)
                .Take(MostLines)
                .Select(p => new DigestLine(
                    $"“{p.Count.Label}”: {CountWords.Clicks(p.Count.Clicks)}, after {CountWords.Number(p.Count.PreviousClicks!.Value)} the week before.",
                    "post",
                    p.Count.Key
                )),
        ];

    private static List<DigestLine> Careful(IReadOnlyList<string> care) =>
        [
            .. care.Take(MostLines).Select(text => new DigestLine(text, "care")),
            .. care.Count > MostLines
                ? [new DigestLine($"And {CountWords.Number(care.Count - MostLines)} more.", "care")]
                : Array.Empty<DigestLine>(),
        ];

    private static List<DigestLine> Silent(IReadOnlyList<BreakdownRow> posts) =>
        [
            .. posts
                .Where(p => p.Count is { IsRest: false, Clicks: 0, PreviousClicks: null or 0, Placements: > 0 })
                .Take(MostLines)
                .Select(p => new DigestLine($"“{p.Count.Label}”", "post", p.Count.Key)),
        ];

    private static string Against(long clicks, long before) =>
        before == 0
            ? $"{CountWords.Clicks(clicks)}, after none the week before"
            : $"{CountWords.Clicks(clicks)}, after {CountWords.Number(before)} the week before ({Sign(clicks - before)}{CountWords.Percent(Math.Abs((clicks - before) / (double)before))})";

    private static string Sign(long change) =>
        change > 0 ? "+"
        : change < 0 ? "−"
        : "";
}
