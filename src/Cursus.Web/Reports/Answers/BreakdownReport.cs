using Cursus.Core;
using Cursus.Core.Clicks;
using Cursus.Core.Reports;
using Cursus.Data.Reports.Questions;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Cursus.Web.Reports.Counts;
using Cursus.Web.Reports.Questions;
using Cursus.Web.Retargeting;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;

namespace Cursus.Web.Reports.Answers;

/// <summary>GET /reports/breakdown: people's clicks by channel, campaign, source … over a period, with the answer in one sentence.</summary>
public static class BreakdownReport
{
    /// <param name="From">First day, in <paramref name="TimeZone"/>.</param>
    /// <param name="To">Last day, included.</param>
    /// <param name="Before">The days it is compared with; null if it isn't.</param>
    /// <param name="IsUnfinished">True if the period isn't over, so only the same part of the previous one is compared.</param>
    /// <param name="NarrowedFrom">The first day requested, if the report covers fewer days. Crossing two dimensions that need individual clicks
    /// covers at most the last 31 days, and only as far back as the workspace keeps them.</param>
    /// <param name="Narrowed">The filters by name.</param>
    /// <param name="Answer">What the rows say, in one or two sentences.</param>
    /// <param name="Others">The remaining groups added up; null if there are none.</param>
    /// <param name="Per">`post` for clicks per post; null for all clicks.</param>
    /// <param name="Verdict">The verdict on the first row's lead over the second; null if there is none.</param>
    /// <param name="PerPost">If a different group leads in clicks per post: its lead per post over the one with the most clicks.</param>
    public sealed record Response(
        string By,
        string? Per,
        LocalDate From,
        LocalDate To,
        DayRange? Before,
        bool IsUnfinished,
        string TimeZone,
        LocalDate? NarrowedFrom,
        IReadOnlyList<Narrowing> Narrowed,
        TotalCount Total,
        ExcludedCount Excluded,
        string Answer,
        IReadOnlyList<Row> Rows,
        OtherGroups? Others,
        VerdictResponse? Verdict,
        VerdictResponse? PerPost
    )
    {
        /// <summary>The groups, with their clicks, that are not among so many first rows.</summary>
        internal (int Groups, long Clicks) Behind(int rows) =>
            (Math.Max(0, Rows.Count - rows) + (Others?.Groups ?? 0), Rows.Skip(rows).Sum(r => r.Clicks) + (Others?.Clicks ?? 0));
    }

    public sealed record DayRange(LocalDate From, LocalDate To);

    /// <param name="Visitors">People, counted again for each link and day because nobody is recognised for longer; null if a filter needs individual
    /// clicks.</param>
    public sealed record TotalCount(long Clicks, long? Visitors, long? PreviousClicks);

    /// <summary>Clicks that are stored but not counted, by reason, for all links in the report.</summary>
    public sealed record ExcludedCount(
        long Machines,
        long Previews,
        long Team,
        long Prefetches,
        long Repeats,
        long Heads,
        long Impostors,
        long Sweeps,
        long Echoes,
        long Probes
    );

    /// <param name="Visitors">People, counted again for each link and day; null if the report needs individual clicks.</param>
    /// <param name="Share">Share of all people's clicks, 0 to 1.</param>
    /// <param name="Low">Lower bound of the clicks that this many similar posts bring on average, 95%; null if there are too few posts or
    /// weeks.</param>
    /// <param name="High">Upper bound, 95%.</param>
    /// <param name="ShareLow">Lower bound of the expected share, 95%; null if there is too little data.</param>
    /// <param name="ShareHigh">Upper bound, 95%.</param>
    /// <param name="Posts">Posts published in the period, and links without a post created in it; null if groups have no posts of their own.</param>
    /// <param name="ClicksPerPost">Clicks per unit; null if there are none.</param>
    /// <param name="PerPostLow">Lower bound of the expected clicks per post, 95%; null if there is too little data.</param>
    /// <param name="PerPostHigh">Upper bound, 95%.</param>
    /// <param name="ClicksPerPlacementDay">Per day that a placement was live in the period.</param>
    /// <param name="Change">0.18 means 18% more than in the previous period; null if there were none then.</param>
    /// <param name="Pixel">What the pixel did at these visits; only in reports by pixel.</param>
    /// <param name="IsTooCloseToNext">True if groups that are really equal would often show such a lead over the next row.</param>
    public sealed record Row(
        string Key,
        string Label,
        long Clicks,
        long? Visitors,
        double Share,
        double? Low,
        double? High,
        double? ShareLow,
        double? ShareHigh,
        int? Posts,
        double? ClicksPerPost,
        double? PerPostLow,
        double? PerPostHigh,
        int Placements,
        double? ClicksPerPlacement,
        double? ClicksPerPlacementDay,
        long? PreviousClicks,
        double? Change,
        bool IsTooCloseToNext,
        OutcomeCount? Pixel = null
    );

    /// <param name="Leader">Key of the leading group.</param>
    /// <param name="RunnerUp">Key of the group it is compared with.</param>
    /// <param name="Ratio">Ratio of clicks; null if the other has none.</param>
    /// <param name="Low">Lower bound of the expected ratio, 95%; null if there are too few units.</param>
    /// <param name="High">Upper bound, 95%.</param>
    /// <param name="Call"><c>clear</c>, <c>leaning</c>, <c>too-close</c> or <c>too-few</c>.</param>
    /// <param name="Unit">What is assumed to vary independently: <c>post</c>, <c>week</c> or <c>link</c>.</param>
    /// <param name="Clusters">How many the smaller side has.</param>
    /// <param name="Paired">True if most clicks come from units that both have, such as posts on both channels.</param>
    /// <param name="MoreUnits">About how many more would make such a lead clear; null if it is, or if that can't be estimated.</param>
    public sealed record VerdictResponse(
        string Leader,
        string RunnerUp,
        double? Ratio,
        double? Low,
        double? High,
        string Call,
        string Unit,
        int Clusters,
        bool Paired,
        UnitRange? MoreUnits,
        string Sentence
    );

    public sealed record UnitRange(int Least, int Most);

    private const int UsualRows = 200;
    private const int MostRows = 2000;

    public static void Map(IEndpointRouteBuilder api) => api.MapGet("/reports/breakdown", Handle).ForViewers().WithSummary("Clicks by one dimension");

    /// <param name="limit">How many groups are listed, 1 to 2,000; the others are summed up.</param>
    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        AskedQuestion asked,
        int? limit,
        HttpRequest request,
        CurrentMember member,
        Counting counting,
        IClock clock,
        CancellationToken cancel
    )
    {
        _ = asked;
        var errors = new FieldErrors();
        if (limit is < 1 or > MostRows)
        {
            errors.Add("limit", new ValidationError("limit", $"List 1 to {MostRows:N0} groups; the rest are summed up."));
        }

        return Read(request, member, clock, errors) is { } question
            ? TypedResults.Ok(await Answer(question, limit ?? UsualRows, counting, cancel))
            : ApiProblem.Invalid(errors);
    }

    /// <summary>A question by one dimension; null with <paramref name="errors"/> where it can't be answered.</summary>
    internal static Question? Read(HttpRequest request, CurrentMember member, IClock clock, FieldErrors errors)
    {
        var question = QuestionReader.Read(request.Query, member, clock.GetCurrentInstant(), errors);
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
            JudgePerPost(breakdown)
        );
    }

    private static ExcludedCount Of(IReadOnlyDictionary<ClickKind, long> excluded) =>
        new(
            excluded[ClickKind.Machine],
            excluded[ClickKind.Preview],
            excluded[ClickKind.Team],
            excluded[ClickKind.Prefetch],
            excluded[ClickKind.Repeat],
            excluded[ClickKind.Head],
            excluded[ClickKind.Impostor],
            excluded[ClickKind.Sweep],
            excluded[ClickKind.Echo],
            excluded[ClickKind.Probe]
        );

    private static Row Of(BreakdownRow row) =>
        new(
            row.Count.Key,
            row.Count.Label,
            row.Count.Clicks,
            row.Count.Visitors,
            row.Share,
            row.Expected?.Low,
            row.Expected?.High,
            row.ExpectedShare?.Low,
            row.ExpectedShare?.High,
            row.Count.Posts,
            row.Count.ClicksPerPost,
            row.ExpectedPerPost?.Low,
            row.ExpectedPerPost?.High,
            row.Count.Placements,
            row.ClicksPerPlacement,
            row.ClicksPerPlacementDay,
            row.Count.PreviousClicks,
            row.Change,
            row.IsTooCloseToNext
        );

    private static VerdictResponse? Judge(Breakdown breakdown) =>
        breakdown.Rows is [{ Lead: { } verdict } leader, var next, ..]
            ? Of(verdict, leader.Count, next.Count, breakdown.Units, AnswerSentence.Judged(leader, next, breakdown.Units)!)
            : null;

    private static VerdictResponse? JudgePerPost(Breakdown breakdown) =>
        breakdown.PerPost is { } lead ? Of(lead.Lead, lead.Leader, lead.InAll, breakdown.Units, AnswerSentence.PerPost(lead)!) : null;

    private static VerdictResponse Of(Verdict verdict, GroupCount leader, GroupCount next, UnitKind unit, string sentence) =>
        new(
            leader.Key,
            next.Key,
            verdict.Ratio,
            verdict.Low,
            verdict.High,
            verdict.Call switch
            {
                VerdictCall.Clear => "clear",
                VerdictCall.Leaning => "leaning",
                VerdictCall.TooClose => "too-close",
                _ => "too-few",
            },
            unit.ToString().ToLowerInvariant(),
            Math.Min(verdict.Units.Leader, verdict.Units.RunnerUp),
            verdict.IsPaired,
            verdict.MoreUnits is var (least, most) ? new UnitRange(least, most) : null,
            sentence
        );
}
