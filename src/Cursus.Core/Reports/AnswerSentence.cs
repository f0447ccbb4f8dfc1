namespace Cursus.Core.Reports;

/// <summary>Says an answer in plain English, before any chart: first what was counted, then what that is worth.</summary>
public static class AnswerSentence
{
    /// <summary>The whole answer to "which … brought the most clicks".</summary>
    public static string Of(Breakdown breakdown)
    {
        ArgumentNullException.ThrowIfNull(breakdown);
        var brought = breakdown.Rows.Where(r => r.Count is { Clicks: > 0, IsRest: false }).ToList();
        var rest = breakdown.Rows.Where(r => r.Count.IsRest).Sum(r => r.Count.Clicks);
        return brought switch
        {
            [] when rest == 0 => "No clicks in this period.",
            [] => $"{CountWords.Clicks(rest)}, none of which can be assigned.",
            [{ Count.Clicks: 1 } only] when rest == 0 => $"The only click {(breakdown.IsOfPages ? "went to" : "came from")} {only.Count.Label}.",
            [var only] when rest == 0 =>
                $"All {CountWords.Clicks(only.Count.Clicks)} {(breakdown.IsOfPages ? "went to" : "came from")} {only.Count.Label}.",
            [var only] =>
                $"{only.Count.Label} brought {CountWords.Clicks(only.Count.Clicks)} ({CountWords.Percent(only.Share)}); the other {CountWords.Number(rest)} can’t be assigned.",
            [var leader, var next, ..] => string.Join(
                ' ',
                (
                    (string?[])
                        [
                            Counted(leader, next, breakdown),
                            Judged(leader, next, breakdown.Units),
                            PerPost(breakdown.PerPost),
                            breakdown.IsOfPages
                                ? "Where a link splits its visitors, clicks follow the shares that were set; they don’t say which page is better."
                                : null,
                        ]
                ).OfType<string>()
            ),
        };
    }

    /// <summary>The verdict on a lead alone; null if nothing was judged.</summary>
    public static string? Judged(BreakdownRow leader, BreakdownRow next, UnitKind kind)
    {
        ArgumentNullException.ThrowIfNull(leader);
        ArgumentNullException.ThrowIfNull(next);
        if (leader.Lead is not { } verdict)
        {
            return null;
        }

        var like = kind switch
        {
            UnitKind.Week => "with weeks like these",
            UnitKind.Link => "on channels like these",
            _ => "with posts like these",
        };
        return verdict.Call switch
        {
            VerdictCall.Clear => $"Its lead over {next.Count.Label} is clear: {like} it would come out ahead again, {Times(verdict)}.",
            VerdictCall.Leaning => $"It leans ahead of {next.Count.Label}, {Times(verdict)}, but {like} that isn’t settled yet.{More(verdict, kind)}",
            VerdictCall.TooClose =>
                $"{leader.Count.Label} and {next.Count.Label} are too close to call: {like} either could come out ahead.{More(verdict, kind)}",
            _ => TooFew(verdict, leader.Count.Label, next.Count.Label, kind),
        };
    }

    /// <summary>How many times as much the leader brings, and between which bounds.</summary>
    internal static string Times(Verdict verdict) =>
        verdict is { Ratio: { } ratio, High: { } high }
            ? $"by a factor of {Factor(ratio)} ({Factor(verdict.Low ?? 0)} to {Factor(high)})"
            : $"by a factor of at least {Factor(verdict.Low ?? 0)}";

    private static string Factor(double ratio) => CountWords.Number(ratio, ratio < 10 ? "0.00" : "0.0");

    private static string Counted(BreakdownRow leader, BreakdownRow next, Breakdown breakdown)
    {
        var (first, second) = (leader.Count, next.Count);
        if (breakdown.Measure == BreakdownMeasure.ClicksPerPost)
        {
            return first.ClicksPerPost is { } each
                ? $"{first.Label} brought the most per post: {Each(each)} from each of {Posts(first.Posts!.Value)}."
                : "No posts were published in this period, so there is no result per post.";
        }

        return first.Clicks == second.Clicks
            ? $"{first.Label} and {second.Label} are level at {CountWords.Clicks(first.Clicks)}."
            : $"{first.Label} {(breakdown.IsOfPages ? "got" : "brought")} the most: {CountWords.Clicks(first.Clicks)} ({CountWords.Percent(leader.Share)}).";
    }

    private static string TooFew(Verdict verdict, string leader, string next, UnitKind kind)
    {
        var units = kind switch
        {
            UnitKind.Week => "weeks",
            UnitKind.Link => "channels",
            _ => "posts",
        };
        return Math.Min(verdict.Units.Leader, verdict.Units.RunnerUp) >= Verdict.FewestUnits
                ? $"With fewer than {Verdict.FewestClicks} clicks, it’s too early to say more."
            : kind == UnitKind.Post
                ? $"Too few posts to say whether this would happen again: {verdict.Units.Leader} for {leader}, {verdict.Units.RunnerUp} for {next}, and each needs at least {Verdict.FewestUnits}."
            : $"Too few {units} to say whether this would happen again: at least {Verdict.FewestUnits} are needed.";
    }

    /// <summary>Who leads per post, where that is another; null where it isn't.</summary>
    public static string? PerPost(PerPostLead? lead)
    {
        if (lead is not { Leader: { ClicksPerPost: { } most } leader, InAll: { ClicksPerPost: { } fewer } inAll })
        {
            return null;
        }

        var counted = $"Per post, {leader.Label} brings more: {Each(most)} against {Number(fewer)}";
        return lead.Lead.Call switch
        {
            VerdictCall.Clear => $"{counted}, which is clear.",
            VerdictCall.Leaning => $"{counted}, which isn’t settled yet.",
            VerdictCall.TooClose => $"{counted}, which is too close to call.",
            _ => $"{counted}, but from too few posts to say more.",
        };
    }

    private static string More(Verdict verdict, UnitKind kind)
    {
        if (verdict.MoreUnits is not var (least, most) || kind == UnitKind.Link)
        {
            return "";
        }

        var unit = kind == UnitKind.Week ? "week" : "post";
        var range = least == most ? $"{CountWords.Number(least)}" : $"{CountWords.Number(least)} to {CountWords.Number(most)}";
        return $" If it lasts, about {range} more {unit}{(most == 1 ? "" : "s")} would settle it.";
    }

    private static string Posts(int posts) => posts == 1 ? "1 post" : $"{CountWords.Number(posts)} posts";

    private static string Each(double clicks) => clicks is > 0.95 and < 1.05 ? "1 click" : $"{Number(clicks)} clicks";

    private static string Number(double number) => CountWords.Number(number, number < 100 ? "0.#" : "#,0");
}
