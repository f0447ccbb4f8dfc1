using NodaTime;

namespace Cursus.Core.Checking;

/// <summary>When a page is asked again (common practice, no source, unless marked).</summary>
public static class CheckPace
{
    /// <summary>A page that answers is asked daily.</summary>
    public static readonly Duration WhenFine = Duration.FromHours(24);

    private static readonly Duration SecondTry = Duration.FromMinutes(20);
    private static readonly Duration ShortestWait = Duration.FromMinutes(15);

    /// <summary>Gap to the next look at a dead page, after so many looks at it as such: an hour, doubled each time, to a day.</summary>
    public static Duration WhenDead(int looks) => Duration.Min(WhenFine, Duration.FromHours(1 << Math.Clamp(looks - 1, 0, 5)));

    /// <summary>When a page in trouble is asked again until it is sure: after twenty minutes, and when an hour has passed.</summary>
    public static Instant UntilSure(int tries, Instant troubleSince, Instant now) =>
        Instant.Max(troubleSince + (tries < PageJudgement.TriesToFail - 1 ? SecondTry : PageJudgement.TimeToFail), now + Duration.FromMinutes(1));

    /// <summary>How long a server that asks for patience (RFC 9110, section 10.2.3; RFC 6585, section 4) is left alone: as long as it says, from a
    /// quarter of an hour to a day.</summary>
    public static Duration WhenAskedToWait(Duration? retryAfter) => Duration.Min(WhenFine, Duration.Max(ShortestWait, retryAfter ?? ShortestWait));
}
