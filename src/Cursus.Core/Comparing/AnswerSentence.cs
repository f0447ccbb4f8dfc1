using System.Globalization;

namespace Cursus.Core.Comparing;

/// <summary>Says an answer in plain English, before any chart.</summary>
public static class AnswerSentence
{
    /// <summary>The whole answer to "which … brought the most clicks": who leads, by how much, and whether that can be relied on.</summary>
    public static string Of(IReadOnlyList<BreakdownRow> rows)
    {
        var brought = rows.Where(r => r.Count is { Clicks: > 0, IsRest: false }).ToList();
        var rest = rows.Where(r => r.Count.IsRest).Sum(r => r.Count.Clicks);
        return brought switch
        {
            [] when rest == 0 => "No clicks in this period.",
            [] => $"{Clicks(rest)} came; where they belong is not known.",
            [var only] when rest == 0 => $"All {Clicks(only.Count.Clicks)} came by {only.Count.Label}.",
            [var only] => $"{only.Count.Label} brought {Clicks(only.Count.Clicks)} ({Percent(only.Share)}); where the other {Number(rest)} belong is not known.",
            [var leader, var next, ..] => Of(leader, next, Verdict.Between(leader.Count.Clicks, next.Count.Clicks)),
        };
    }

    /// <summary>The leader against the runner-up.</summary>
    public static string Of(BreakdownRow leader, BreakdownRow next, Verdict verdict)
    {
        var (first, second) = (leader.Count, next.Count);
        if (verdict.Call == VerdictCall.TooClose)
        {
            return first.Clicks + second.Clicks < Verdict.FewestClicks
                ? $"{first.Label} has {Clicks(first.Clicks)} and {second.Label} {Number(second.Clicks)}: too few to call."
                : $"{first.Label} and {second.Label} are too close to call: {Number(first.Clicks)} clicks against {Number(second.Clicks)}.";
        }

        var leads = $"{first.Label} leads with {Clicks(first.Clicks)} ({Percent(leader.Share)}).";
        return verdict.Call == VerdictCall.Clear
            ? $"{leads} Its lead over {second.Label} is clear: {Times(verdict)}."
            : $"{leads} It leans ahead of {second.Label}, which isn't settled yet: {Times(verdict)}.";
    }

    private static string Times(Verdict verdict) => verdict is { Ratio: { } ratio, High: { } high }
        ? string.Create(CultureInfo.InvariantCulture, $"{ratio:0.0#} times, somewhere between {verdict.Low:0.0#} and {high:0.0#}")
        : string.Create(CultureInfo.InvariantCulture, $"at least {verdict.Low:0.0} times");

    private static string Clicks(long clicks) => clicks == 1 ? "1 click" : $"{Number(clicks)} clicks";

    private static string Number(long number) => number.ToString("N0", CultureInfo.InvariantCulture);

    private static string Percent(double share) => string.Create(CultureInfo.InvariantCulture, $"{100 * share:0.#} %");
}
