namespace Cursus.Bench.Verdicts;

/// <summary>When posts go out.</summary>
internal enum Rhythm
{
    AtRandom,
    ByTheCalendar,
}

/// <summary>How posts bring clicks to channels.</summary>
/// <param name="ArePosts">True if the same posts go to all channels; false if each has posts of its own.</param>
/// <param name="Mean">Clicks that a post brings to a channel on average.</param>
/// <param name="HalfLives">Days until half of a post's clicks have come, by channel; the last one goes on.</param>
/// <param name="PostVariation">Coefficient of variation of what a post's channels have in common.</param>
/// <param name="PlacementDeviation">Standard deviation of the logarithm of what each has of its own.</param>
internal sealed record Scenario(
    string Name,
    bool ArePosts,
    double Mean,
    double[] HalfLives,
    double PostVariation = 0.6,
    double PlacementDeviation = 0.3
)
{
    public int Channels { get; init; } = 2;

    public Rhythm Rhythm { get; init; }

    /// <summary>Posts a day.</summary>
    public double PerDay { get; init; } = 0.7;

    /// <summary>How many times as often the first channel posts, with as much less for each post unless posts are compared.</summary>
    public double TimesAsOften { get; init; } = 1;

    public bool IsPerPost { get; init; }

    /// <summary>True if one post brings twenty times as much to one channel.</summary>
    public bool HasViralPost { get; init; }

    public static readonly IReadOnlyList<Scenario> All =
    [
        new("independent over-dispersed days", true, 60, [0.01], 0, 0.7) { PerDay = 1 },
        .. from mean in new double[] { 60, 300 }
        from life in new[] { 0.5, 1.2, 4 }
        from deviation in new[] { 0.3, 0.6 }
        select new Scenario($"same posts, {mean:0} clicks, half-life {life}, placements {deviation}", true, mean, [life], 0.6, deviation),
        .. from rhythm in new[] { Rhythm.AtRandom, Rhythm.ByTheCalendar }
        from life in new[] { 0.5, 1.2, 4 }
        select new Scenario(
            $"own posts {(rhythm == Rhythm.AtRandom ? "at random" : "by the calendar")}, half-life {life}",
            false,
            life == 0.5 ? 60 : 300,
            [life],
            0.6,
            life == 0.5 ? 0.3 : 0.6
        )
        {
            Rhythm = rhythm,
        },
        new("eight equal channels, same posts", true, 60, [1.2]) { Channels = 8 },
        new("eight equal channels, own posts", false, 60, [1.2]) { Channels = 8 },
        new("one posts four times as often, equal in all", false, 60, [1.2], 0.6, 0.6) { TimesAsOften = 4, PerDay = 0.35 },
        new("one posts four times as often, equal per post", false, 60, [1.2], 0.6, 0.6)
        {
            TimesAsOften = 4,
            PerDay = 0.35,
            IsPerPost = true,
        },
        new("same posts, per post", true, 60, [1.2], 0.6, 0.6) { IsPerPost = true },
        new("half-lives 0.5 and 4, own posts, per post", false, 60, [0.5, 4], 0.6, 0.3) { IsPerPost = true },
        new("half-lives 0.5 and 4, same posts", true, 60, [0.5, 4], 0.6, 0.6),
        new("half-lives 0.5 and 4, own posts", false, 60, [0.5, 4], 0.6, 0.6),
        new("one viral post", true, 60, [1.2]) { HasViralPost = true },
        new("few clicks: three a post", true, 3, [1.2]),
    ];

    public double HalfLife(int channel) => HalfLives[Math.Min(channel, HalfLives.Length - 1)];
}
