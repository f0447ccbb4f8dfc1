using System.Globalization;

namespace Cursus.Core.Comparing;

/// <summary>Says an answer in plain English, before any chart.</summary>
public static class AnswerSentence
{
    /// <summary>The whole answer to "which … brought the most clicks": who leads, by how much, and whether that can be relied on.</summary>
    /// <param name="days">Days of the period that have begun.</param>
    public static string Of(IReadOnlyList<BreakdownRow> rows, int days)
    {
        var brought = rows.Where(r => r.Count is { Clicks: > 0, IsRest: false }).ToList();
        var rest = rows.Where(r => r.Count.IsRest).Sum(r => r.Count.Clicks);
        return brought switch
        {
            [] when rest == 0 => "No clicks in this period.",
            [] => $"{CountWords.Clicks(rest)} came; where they belong is not known.",
            [{ Count.Clicks: 1 } only] when rest == 0 => $"The only click came by {only.Count.Label}.",
            [var only] when rest == 0 => $"All {CountWords.Clicks(only.Count.Clicks)} came by {only.Count.Label}.",
            [var only] => $"{only.Count.Label} brought {CountWords.Clicks(only.Count.Clicks)} ({Percent(only.Share)}); where the other {CountWords.Number(rest)} belong is not known.",
            [var leader, var next, ..] => Of(leader, next, days),
        };
    }

    /// <summary>The leader against the runner-up, which is the next row.</summary>
    public static string Of(BreakdownRow leader, BreakdownRow next, int days)
    {
        var (first, second, verdict) = (leader.Count, next.Count, leader.Lead!);
        if (verdict.Call == VerdictCall.TooClose)
        {
            var said = first.Clicks == second.Clicks ? $"{first.Label} and {second.Label} are level at {CountWords.Clicks(first.Clicks)}."
                : first.Clicks + second.Clicks < Verdict.FewestClicks ? $"{first.Label} has {CountWords.Clicks(first.Clicks)} and {second.Label} {CountWords.Number(second.Clicks)}: too few to call."
                : $"{first.Label} and {second.Label} are too close to call: {CountWords.Number(first.Clicks)} clicks against {CountWords.Number(second.Clicks)}.";
            return said + More(first.Clicks + second.Clicks, verdict.MoreClicks, days);
        }

        var leads = $"{first.Label} leads with {CountWords.Clicks(first.Clicks)} ({Percent(leader.Share)}).";
        return verdict.Call == VerdictCall.Clear
            ? $"{leads} Its lead over {second.Label} is clear: {Times(verdict)}."
            : $"{leads} It leans ahead of {second.Label}, which isn't settled yet: {Times(verdict)}.{More(first.Clicks + second.Clicks, verdict.MoreClicks, days)}";
    }

    /// <summary>How long to wait; said only where waiting three times the days so far can help.</summary>
    internal static string More(long clicks, long? more, int days)
    {
        if (more is not { } needed || clicks == 0 || needed > 3 * clicks)
        {
            return "";
        }

        var wait = Math.Max(1, (long)Math.Ceiling((double)needed / clicks * days));
        return $" About {CountWords.Number(Rounded(needed))} more clicks (≈ {(wait == 1 ? "1 day" : $"{CountWords.Number(wait)} days")} at this pace) would tell.";
    }

    /// <summary>To two figures, upwards.</summary>
    private static long Rounded(long number)
    {
        var unit = 1L;
        while (number / unit >= 100)
        {
            unit *= 10;
        }

        return (number + unit - 1) / unit * unit;
    }

    /// <summary>How many times as much the leader brought, and between which bounds.</summary>
    internal static string Times(Verdict verdict) => verdict is { Ratio: { } ratio, High: { } high }
        ? string.Create(CultureInfo.InvariantCulture, $"{ratio:0.0#} times, somewhere between {verdict.Low:0.0#} and {high:0.0#}")
        : string.Create(CultureInfo.InvariantCulture, $"at least {verdict.Low:0.0} times");

    private static string Percent(double share) => string.Create(CultureInfo.InvariantCulture, $"{100 * share:0.#} %");
}
