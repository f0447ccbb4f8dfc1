using Cursus.Core.Clicks.Tallies;
using Cursus.Core.Retargeting;
using Cursus.Data;
using Cursus.Web.Access;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Retargeting;

/// <summary>GET /pixels/{id}/audience: about how many visitors an ad network knows by this pixel, and what became of it at each visit.</summary>
public static class PixelAudience
{
    /// <param name="Smallest">The network's minimum audience; null if unknown.</param>
    /// <param name="Windows">For each common window, its visits and estimated visitors.</param>
    /// <param name="Outcomes">What the pixel did in the chosen window.</param>
    /// <param name="Parts">The chosen window by link, campaign or channel.</param>
    /// <param name="Advice">What to do, a sentence each.</param>
    public sealed record Response(
        int Days,
        LocalDate From,
        LocalDate To,
        int? Smallest,
        IReadOnlyList<WindowCount> Windows,
        OutcomeCount Outcomes,
        IReadOnlyList<Part> Parts,
        IReadOnlyList<string> Advice
    );

    /// <param name="Visits">How often it fired.</param>
    /// <param name="Visitors">Estimated number of people. Someone who returns on another day counts again, because nobody is recognised for longer
    /// than a day.</param>
    /// <param name="IsTooSmall">True if that is below the network's minimum audience.</param>
    public sealed record WindowCount(int Days, long Visits, long Visitors, bool IsTooSmall);

    public sealed record Part(string Key, string Label, long Visitors, OutcomeCount Outcomes);

    public static void Map(IEndpointRouteBuilder api) =>
        api.MapGet("/pixels/{id:guid}/audience", Handle).ForViewers().WithSummary("Visitors of a pixel by window, and its results");

    /// <param name="days">One of 7, 28, 30, 90 and 180; 28 if omitted.</param>
    /// <param name="by"><c>campaign</c>, <c>channel</c> or <c>link</c>.</param>
    private static async Task<Results<Ok<Response>, ProblemHttpResult>> Handle(
        Guid id,
        int? days,
        string? by,
        CurrentMember member,
        CursusDb db,
        IClock clock,
        CancellationToken cancel
    )
    {
        var window = days ?? AudienceWindow.Usual;
        var errors = new FieldErrors();
        if (!AudienceWindow.Days.Contains(window))
        {
            errors.Add("days", new Core.ValidationError("window", $"Windows are {string.Join(", ", AudienceWindow.Days)} days."));
        }

        if (by is not (null or "campaign" or "channel" or "link"))
        {
            errors.Add("by", new Core.ValidationError("audience-by", "Audiences can be grouped by campaign, channel or link."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        if (await KnownNetworks.FindPixel(id, member, db, cancel) is not var (_, network))
        {
            return ApiProblem.NotFound("pixel");
        }

        var today = clock.GetCurrentInstant().InZone(member.Zone).Date;
        var all = await Days(id, today.PlusDays(1 - AudienceWindow.Days.Max()), by ?? "campaign", db).ToListAsync(cancel);
        var inWindow = all.Where(d => d.Day > today.PlusDays(-window)).ToList();
        var windows = AudienceWindow
            .Days.Select(n =>
            {
                var counted = all.Where(d => d.Day > today.PlusDays(-n)).ToList();
                var visitors = Visitors(counted);
                return new WindowCount(n, counted.Sum(d => (long)d.Fired), visitors, visitors < (network.SmallestAudience ?? 0));
            })
            .ToList();
        var parts = inWindow
            .GroupBy(d => (d.Key, d.Label))
            .Select(g => new Part(g.Key.Key, g.Key.Label, Visitors(g), Outcomes(g)))
            .OrderByDescending(p => p.Visitors)
            .ThenBy(p => p.Label, StringComparer.Ordinal)
            .ToList();
        return TypedResults.Ok(
            new Response(
                window,
                today.PlusDays(1 - window),
                today,
                network.SmallestAudience,
                windows,
                Outcomes(inWindow),
                parts,
                await Advice(network, window, by, parts, id, today, windows, db, cancel)
            )
        );
    }

    private static async Task<IReadOnlyList<string>> Advice(
        AdNetwork network,
        int window,
        string? by,
        List<Part> parts,
        Guid id,
        LocalDate today,
        List<WindowCount> windows,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (network.SmallestAudience is not { } smallest)
        {
            return [];
        }

        // Advice is about campaigns, whatever is looked at.
        var campaigns = by is null or "campaign"
            ? parts.Select(p => new AudiencePart(p.Label, p.Visitors))
            : (await Days(id, today.PlusDays(1 - window), "campaign", db).ToListAsync(cancel))
                .GroupBy(d => d.Label)
                .Select(g => new AudiencePart(g.Key, Visitors(g)));
        return AudienceAdvice.Of(network.Name, smallest, windows.Single(w => w.Days == window).Visitors, [.. campaigns], window);
    }

    private static IQueryable<DayRow> Days(Guid pixel, LocalDate from, string by, CursusDb db) =>
        db
            .PixelDays.Where(d => d.PixelId == pixel && d.Day >= from)
            .Join(
                db.Links,
                d => d.LinkId,
                l => l.Id,
                (d, l) =>
                    new DayRow
                    {
                        Day = d.Day,
                        Key =
                            by == "campaign" ? l.Campaign!.Key ?? ""
                            : by == "channel" ? l.Channel!.Key ?? ""
                            : l.Id.ToString(),
                        Label =
                            by == "campaign" ? l.Campaign!.Name ?? "No campaign"
                            : by == "channel" ? l.Channel!.Name ?? "No channel"
                            : l.Domain!.Name + "/" + l.Slug,
                        Fired = d.Fired,
                        Missed = d.Missed,
                        Declined = d.Declined,
                        OptedOut = d.OptedOut,
                        VisitorSketch = d.VisitorSketch,
                    }
            );

    private static long Visitors(IEnumerable<DayRow> days)
    {
        var all = new VisitorSketch();
        foreach (var day in days)
        {
            all.Add(VisitorSketch.OfBytes(day.VisitorSketch));
        }

        return all.Count;
    }

    private static OutcomeCount Outcomes(IEnumerable<DayRow> days) =>
        days.Aggregate(new OutcomeCount(0, 0, 0, 0), (sum, d) =>
            new OutcomeCount(sum.Fired + d.Fired, sum.Missed + d.Missed, sum.Declined + d.Declined, sum.OptedOut + d.OptedOut)
        );

    private sealed class DayRow
    {
        public required LocalDate Day { get; init; }
        public required string Key { get; init; }
        public required string Label { get; init; }
        public required int Fired { get; init; }
        public required int Missed { get; init; }
        public required int Declined { get; init; }
        public required int OptedOut { get; init; }
        public required byte[] VisitorSketch { get; init; }
    }
}
