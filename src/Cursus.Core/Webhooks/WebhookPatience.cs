namespace Cursus.Core.Webhooks;

/// <summary>When a delivery that failed is tried again: after pauses that double from half a minute to six hours, for three days.</summary>
public static class WebhookPatience
{
    public static readonly TimeSpan Longest = TimeSpan.FromDays(3);

    private static readonly TimeSpan FirstPause = TimeSpan.FromSeconds(30);
    private static readonly TimeSpan LongestPause = TimeSpan.FromHours(6);

    /// <summary>The pause before the next try; null where it is given up.</summary>
    /// <param name="tries">How often it has been tried.</param>
    /// <param name="age">How long ago it happened.</param>
    public static TimeSpan? Next(int tries, TimeSpan age)
    {
        var pause = TimeSpan.FromSeconds(Math.Min(LongestPause.TotalSeconds, FirstPause.TotalSeconds * Math.Pow(2, tries - 1)));
        return age + pause > Longest ? null : pause;
    }
}
