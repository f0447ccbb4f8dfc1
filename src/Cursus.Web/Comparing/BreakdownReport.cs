using Cursus.Core;
using Cursus.Core.Clicks;
using Cursus.Core.Comparing;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Retargeting;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Comparing;

/// <summary>GET /reports/breakdown: people's clicks by channel, campaign, source … over a period, with the answer in one sentence.</summary>
public static class BreakdownReport
{
    /// <param name="From">First day, in <paramref name="TimeZone"/>.</param>
    /// <param name="To">Last day, included.</param>
    /// <param name="Before">The days it is compared with; null where it isn't.</param>
    /// <param name="IsUnfinished">True where the period isn't over, so that only as much of the one before is compared.</param>
    /// <param name="NarrowedFrom">The first day that was asked for, where fewer are answered: two things that only single clicks tell are crossed, for the last 31 days at most, and as far back as the workspace keeps single clicks.</param>
    /// <param name="Narrowed">What the question is narrowed to, by name.</param>
    /// <param name="Answer">What the rows say, in one or two sentences.</param>
    /// <param name="Others">The groups behind the last row; null where there are none.</param>
    /// <param name="Per">post where clicks for each post that went out were asked for; null where all clicks were.</param>
    /// <param name="Verdict">What to make of the first row's lead over the second; null where nothing is judged.</param>
    /// <param name="PerPost">Where another group leads by clicks for each post than by all clicks: its lead per post over the one that leads in all.</param>
    public sealed record Response(
        string By, string? Per, LocalDate From, LocalDate To, DayRange? Before, bool IsUnfinished, string TimeZone, LocalDate? NarrowedFrom, IReadOnlyList<Narrowing> Narrowed,
        TotalCount Total, ExcludedCount Excluded, string Answer, IReadOnlyList<Row> Rows, OtherGroups? Others, VerdictResponse? Verdict, VerdictResponse? PerPost)
    {
        /// <summary>The groups, with their clicks, that are not among so many first rows.</summary>
        internal (int Groups, long Clicks) Behind(int rows) =>
            (Math.Max(0, Rows.Count - rows) + (Others?.Groups ?? 0), Rows.Skip(rows).Sum(r => r.Clicks) + (Others?.Clicks ?? 0));
    }

    public sealed record DayRange(LocalDate From, LocalDate To);

    /// <param name="Visitors">People, each of them anew on each link and each day, since nobody is known for longer; null where the question narrows by what only clicks tell.</param>
    public sealed record TotalCount(long Clicks, long? Visitors, long? PreviousClicks);

    /// <summary>Clicks that are kept but not counted, by reason: all of the links that are asked about.</summary>
    public sealed record ExcludedCount(long Machines, long Previews, long Team, long Prefetches, long Repeats, long Heads, long Impostors, long Sweeps, long Echoes, long Probes);

    /// <param name="Visitors">People, each of them anew on each link and each day; null where the question is about what only clicks tell.</param>
    /// <param name="Share">Part of all people's clicks, 0 to 1.</param>
    /// <param name="Low">Lower bound of the clicks that as many posts like these bring on average, 95 %; null where there are too few posts, or weeks, to say.</param>
    /// <param name="High">Upper bound, 95 %.</param>
    /// <param name="ShareLow">Lower bound of the share to expect, 95 %; null where that can't be said.</param>
    /// <param name="ShareHigh">Upper bound, 95 %.</param>
    /// <param name="Posts">Posts that went out in the period, and links of no post made in it; null where groups have none of their own.</param>
    /// <param name="ClicksPerPost">Clicks for each of them; null where there is none.</param>
    /// <param name="PerPostLow">Lower bound of the clicks for each post to expect, 95 %; null where that can't be said.</param>
    /// <param name="PerPostHigh">Upper bound, 95 %.</param>
    /// <param name="ClicksPerPlacementDay">For each day that a placement was out in the period.</param>
    /// <param name="Change">0.18 is 18 % more than in the period before; null from zero.</param>
    /// <param name="Pixel">What became of the pixel at these visits; only where groups are pixels.</param>
    /// <param name="IsTooCloseToNext">True where equal groups would often show such a lead over the next row.</param>
    public sealed record Row(
        string Key, string Label, long Clicks, long? Visitors, double Share, double? Low, double? High, double? ShareLow, double? ShareHigh,
        int? Posts, double? ClicksPerPost, double? PerPostLow, double? PerPostHigh,
        int Placements, double? ClicksPerPlacement, double? ClicksPerPlacementDay, long? PreviousClicks, double? Change, bool IsTooCloseToNext, OutcomeCount? Pixel = null);

    /// <param name="Leader">Key of the group that leads.</param>
    /// <param name="RunnerUp">Key of the group that it is judged against.</param>
    /// <param name="Ratio">How many times as many clicks; null where the other has none.</param>
    /// <param name="Low">Lower bound of the ratio to expect, 95 %; null where there are too few units.</param>
    /// <param name="High">Upper bound, 95 %.</param>
    /// <param name="Call"><c>clear</c>, <c>leaning</c>, <c>too-close</c> or <c>too-few</c>.</param>
    /// <param name="Unit">What is taken to vary independently: <c>post</c>, <c>week</c> or <c>link</c>.</param>
    /// <param name="Clusters">How many of these the side with fewer has.</param>
    /// <param name="Paired">True where most clicks are of units that both have, such as posts that went to both channels.</param>
    /// <param name="MoreUnits">With about so many more, such a lead would be clear; null where it is, or where that can't be said.</param>
    public sealed record VerdictResponse(
        string Leader, string RunnerUp, double? Ratio, double? Low, double? High, string Call, string Unit, int Clusters, bool Paired, UnitRange? MoreUnits, string Sentence);

    public sealed record UnitRange(int Least, int Most);

    /// <summary>What the address may say; the rest of the query string is read by <see cref="Question"/>.</summary>
    /// <param name="By">channel, campaign, source, medium, content, term, post, link, tag, pixel, domain, referrer, network, site, wandered, scan, code, country, device,
    /// browser, os, language, hour or weekday.</param>
    /// <param name="Period">today, yesterday, last-7, last-28, last-30, last-90, or this- and last- with week, month, quarter or year; instead of two days.</param>
    /// <param name="From">First day; 28 days before the last where left out.</param>
    /// <param name="To">Last day; today where left out.</param>
    /// <param name="Per"><c>post</c> for clicks for each post that went out in the period; all clicks where left out.</param>
    /// <param name="Compare"><c>previous</c>, the period before, <c>year</c>, the same days of last year, or <c>none</c>.</param>
    public sealed record Asked(
        string? By, string? Per, string? Period, string? From, string? To, string? Compare, string[]? Channel, string[]? Campaign, string[]? Source, string[]? Medium,
        string[]? Content, string[]? Term, string[]? Post, string[]? Link, string[]? Tag, string[]? Pixel, string[]? Domain, string[]? Referrer,
        string[]? Country, string[]? Device, string[]? Browser, string[]? Os, string[]? Language, string[]? Network, string[]? Site, string[]? Wandered);

    private const int UsualRows = 200;
    private const int MostRows = 2000;

    public static void Map(IEndpointRouteBuilder api) => api.MapGet("/reports/breakdown", Handle).ForViewers().WithSummary("Clicks by one dimension");

    /// <param name="limit">How many groups are listed, 1 to 2,000; the others are summed up.</param>
    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        [AsParameters] Asked asked, int? limit, HttpRequest request, CurrentMember member, Counting counting, IClock clock, CancellationToken cancel)
    {
        _ = asked;
        var errors = new FieldErrors();
        if (limit is < 1 or > MostRows)
        {
            errors.Add("limit", new Flaw("limit", $"List 1 to {MostRows:N0} groups; the rest are summed up."));
        }

        return Read(request, member, clock, errors) is { } question ? TypedResults.Ok(await Answer(question, limit ?? UsualRows, counting, cancel)) : ApiProblem.Invalid(errors);
    }

    /// <summary>A question by one dimension; null with <paramref name="errors"/> where it can't be answered.</summary>
    internal static Question? Read(HttpRequest request, CurrentMember member, IClock clock, FieldErrors errors)
    {
        var question = Question.Read(request.Query, member, clock.GetCurrentInstant(), errors);
        return question?.Bounded(errors, groups: question.By);
    }

    /// <summary>The whole answer to a question.</summary>
    /// <param name="most">How many groups are listed.</param>
    internal static async Task<Response> Answer(Question question, int most, Counting counting, CancellationToken cancel)
    {
        var (total, breakdown) = await counting.Answer(question, most, cancel);
        var rows = breakdown.Rows;
        var outcomes = question.By == "pixel" ? await counting.PixelOutcomes(question, cancel) : [];
        return new Response(
            question.By,
            question.Measure == BreakdownMeasure.ClicksPerPost ? "post" : null,
            question.Period.From,
            question.Period.To,
            question.Earlier is { } earlier ? new DayRange(earlier.From, earlier.To) : null,
            question.IsUnfinished,
            question.Zone.Id,
            question.NarrowedFrom,
            question.Filters.Count == 0 ? [] : await counting.Narrowed(question, cancel),
            new TotalCount(total.Clicks, total.Visitors, total.PreviousClicks),
            Of(total.Excluded),
            AnswerSentence.Of(breakdown),
            [.. rows.Select(row => Of(row) with { Pixel = outcomes.GetValueOrDefault(row.Count.Key) })],
            breakdown.Others,
            Judge(breakdown),
            JudgePerPost(breakdown));
    }

    private static ExcludedCount Of(IReadOnlyDictionary<ClickKind, long> excluded) => new(
        excluded[ClickKind.Machine], excluded[ClickKind.Preview], excluded[ClickKind.Team], excluded[ClickKind.Prefetch], excluded[ClickKind.Repeat], excluded[ClickKind.Head],
        excluded[ClickKind.Impostor], excluded[ClickKind.Sweep], excluded[ClickKind.Echo], excluded[ClickKind.Probe]);

    private static Row Of(BreakdownRow row) => new(
        row.Count.Key, row.Count.Label, row.Count.Clicks, row.Count.Visitors, row.Share, row.Expected?.Low, row.Expected?.High, row.ExpectedShare?.Low, row.ExpectedShare?.High,
        row.Count.Posts, row.Count.ClicksPerPost, row.ExpectedPerPost?.Low, row.ExpectedPerPost?.High,
        row.Count.Placements, row.ClicksPerPlacement, row.ClicksPerPlacementDay, row.Count.PreviousClicks, row.Change, row.IsTooCloseToNext);

    private static VerdictResponse? Judge(Breakdown breakdown) => breakdown.Rows is [{ Lead: { } verdict } leader, var next, ..]
        ? Of(verdict, leader.Count, next.Count, breakdown.Units, AnswerSentence.Judged(leader, next, breakdown.Units)!)
        : null;

    private static VerdictResponse? JudgePerPost(Breakdown breakdown) => breakdown.PerPost is { } lead
        ? Of(lead.Lead, lead.Leader, lead.InAll, breakdown.Units, AnswerSentence.PerPost(lead)!)
        : null;

    private static VerdictResponse Of(Verdict verdict, GroupCount leader, GroupCount next, UnitKind unit, string sentence) => new(
        leader.Key,
        next.Key,
        verdict.Ratio,
        verdict.Low,
        verdict.High,
        verdict.Call switch { VerdictCall.Clear => "clear", VerdictCall.Leaning => "leaning", VerdictCall.TooClose => "too-close", _ => "too-few" },
        unit.ToString().ToLowerInvariant(),
        Math.Min(verdict.Units.Leader, verdict.Units.RunnerUp),
        verdict.IsPaired,
        verdict.MoreUnits is var (least, most) ? new UnitRange(least, most) : null,
        sentence);
}
