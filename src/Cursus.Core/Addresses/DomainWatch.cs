using NodaTime;

namespace Cursus.Core.Addresses;

/// <summary>When a short domain's records are looked up again (common practice, no source).</summary>
public static class DomainWatch
{
    private static readonly Duration Shortest = Duration.FromSeconds(10);
    private static readonly Duration Longest = Duration.FromHours(1);

    /// <summary>New records can take this long to be seen everywhere; afterwards nobody is waiting in front of the screen.</summary>
    private static readonly Duration Spreading = Duration.FromHours(48);

    /// <summary>Gap to the next look while the records are not good yet: an eighth of the time waited so far, from ten seconds to an hour, then six
    /// hours.</summary>
    public static Duration WhileWaiting(Duration waited) =>
        waited > Spreading ? Duration.FromHours(6) : Duration.Max(Shortest, Duration.Min(Longest, waited / 8));

    /// <summary>Gap to the next look at a domain that has been good: six hours, and a quarter of one while it fails.</summary>
    public static Duration WhenVerified(bool isFailing) => isFailing ? Duration.FromMinutes(15) : Duration.FromHours(6);
}
