using Cursus.Core.Clicks;
using Cursus.Core.Comparing;
using Cursus.Web.Access;
using Cursus.Web.Problems;
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
    /// <param name="Answer">What the rows say, in one or two sentences.</param>
    public sealed record Response(
        string By, LocalDate From, LocalDate To, DayRange? Before, bool IsUnfinished, string TimeZone,
        TotalCount Total, ExcludedCount Excluded, string Answer, IReadOnlyList<Row> Rows, VerdictResponse? Verdict);

    public sealed record DayRange(LocalDate From, LocalDate To);

    /// <param name="Visitors">Distinct people; one who comes back on another day counts anew, since nobody is known for longer than a day.</param>
    public sealed record TotalCount(long Clicks, long Visitors, long? PreviousClicks);

    /// <summary>Clicks that are kept but not counted, by reason.</summary>
    public sealed record ExcludedCount(long Machines, long Previews, long Team, long Prefetches, long Repeats, long Heads);

    /// <param name="Share">Part of all people's clicks, 0 to 1.</param>
    /// <param name="Low">Lower bound of the clicks to expect, 95 %.</param>
    /// <param name="High">Upper bound of the clicks to expect, 95 %.</param>
    /// <param name="Change">0.18 is 18 % more than in the period before; null from zero.</param>
    /// <param name="IsTooCloseToNext">True where chance alone could make the lead over the next row.</param>
    public sealed record Row(
        string Key, string Label, long Clicks, long Visitors, double Share, double Low, double High,
        int Placements, double? ClicksPerPlacement, long? PreviousClicks, double? Change, bool IsTooCloseToNext);

    /// <param name="Leader">Key of the leading row.</param>
    /// <param name="RunnerUp">Key of the next.</param>
    /// <param name="Call"><c>clear</c>, <c>leaning</c> or <c>too-close</c>.</param>
    public sealed record VerdictResponse(string Leader, string RunnerUp, double? Ratio, double Low, double? High, string Call, string Sentence);

    /// <summary>What the address may say; the rest of the query string is read by <see cref="Question"/>.</summary>
    /// <param name="By">channel, campaign, source, medium, content, term, post, link, tag, domain, referrer, network, site, wandered, country, device,
    /// browser, os, language, hour or weekday.</param>
    /// <param name="From">First day; 28 days before the last where left out.</param>
    /// <param name="To">Last day; today where left out.</param>
    /// <param name="Compare"><c>previous</c> or <c>none</c>.</param>
    public sealed record Asked(
        string? By, string? From, string? To, string? Compare, string[]? Channel, string[]? Campaign, string[]? Source, string[]? Medium,
        string[]? Content, string[]? Term, string[]? Post, string[]? Link, string[]? Tag, string[]? Domain, string[]? Referrer,
        string[]? Country, string[]? Device, string[]? Browser, string[]? Os, string[]? Language, string[]? Network, string[]? Site, string[]? Wandered);

    public static void Map(IEndpointRouteBuilder api) => api.MapGet("/reports/breakdown", Handle).ForViewers().WithSummary("Clicks by one dimension");

    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        [AsParameters] Asked asked, HttpRequest request, CurrentMember member, Counting counting, IClock clock, CancellationToken cancel)
    {
        _ = asked;
        var errors = new FieldErrors();
        if (Question.Read(request.Query, member, clock.GetCurrentInstant(), errors) is not { } question)
        {
            return ApiProblem.Invalid(errors);
        }

        var kinds = (await counting.ByKind(question, cancel)).ToDictionary(k => k.Kind);
        var rows = BreakdownRow.Rank(await counting.ByGroup(question, cancel));
        long Kept(ClickKind kind) => kinds.TryGetValue(kind, out var count) ? count.Clicks : 0;
        return TypedResults.Ok(new Response(
            question.By,
            question.Period.From,
            question.Period.To,
            question.AgainstPrevious ? new DayRange(question.Period.Before.From, question.Period.Before.To) : null,
            question.Now < question.Asked.End,
            question.Zone.Id,
            new TotalCount(
                Kept(ClickKind.Person),
                kinds.TryGetValue(ClickKind.Person, out var people) ? people.Visitors : 0,
                question.AgainstPrevious ? rows.Sum(r => r.Count.PreviousClicks) : null),
            new ExcludedCount(Kept(ClickKind.Machine), Kept(ClickKind.Preview), Kept(ClickKind.Team), Kept(ClickKind.Prefetch), Kept(ClickKind.Repeat), Kept(ClickKind.Head)),
            AnswerSentence.Of(rows),
            [.. rows.Select(Of)],
            Judge(rows)));
    }

    private static Row Of(BreakdownRow row) => new(
        row.Count.Key, row.Count.Label, row.Count.Clicks, row.Count.Visitors, row.Share, row.Low, row.High,
        row.Count.Placements, row.ClicksPerPlacement, row.Count.PreviousClicks, row.Change, row.IsTooCloseToNext);

    private static VerdictResponse? Judge(IReadOnlyList<BreakdownRow> rows)
    {
        if (rows is not [{ Count.Clicks: > 0 } leader, { Count: { Clicks: > 0, IsRest: false } } next, ..])
        {
            return null;
        }

        var verdict = Verdict.Between(leader.Count.Clicks, next.Count.Clicks);
        var call = verdict.Call switch { VerdictCall.Clear => "clear", VerdictCall.Leaning => "leaning", _ => "too-close" };
        return new VerdictResponse(
            leader.Count.Key, next.Count.Key, verdict.Ratio, verdict.Low, verdict.High, call, AnswerSentence.Of(leader, next, verdict));
    }
}
