using Cursus.Core.Retargeting;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Journaling;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Retargeting;

public sealed class PixelRollUpTests(CursusApp app) : IClassFixture<CursusApp>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Days are the workspace's, also where clocks go back (25 October 2026 in London), and a batch that is shipped again counts
    /// once.</summary>
    [Theory]
    [InlineData("Europe/London")]
    [InlineData("Pacific/Auckland")]
    public async Task The_sums_equal_a_naive_recount_however_the_batches_fall(string timeZone)
    {
        var world = await World.Make(app, timeZone);
        var (fairlead, beaconry) = await Pixels.SetUp(world);
        var pixels = new[] { Guid.Parse(fairlead), Guid.Parse(beaconry) };
        var links = (await world.Send())["placements"]!.AsArray().Select(p => (Guid)p!["link"]!["id"]!).ToArray();
        var random = new Random(42);
        var begin = Instant.FromUtc(2026, 10, 23, 0, 0);
        var reports = Enumerable
            .Range(0, 2000)
            .Select(_ => new HandoffReport(
                begin + Duration.FromMinutes(random.Next(0, 5 * 24 * 60)),
                links[random.Next(links.Length)],
                random.NextInt64() << 1 >> random.Next(40),
                [.. pixels.Take(random.Next(1, 3)).Select(p => new PixelOutcome(p, (HandoffOutcome)random.Next(4)))]
            ))
            .ToList();

        await using var source = app.DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var (journal, _) = await store.Register(Guid.NewGuid(), Cancel);
        for (var from = 0; from < reports.Count; )
        {
            var to = Math.Min(reports.Count, from + random.Next(1, 300));
            var batch = new JournalBatch([], [.. reports[from..to].Select((r, i) => ((from + i) * 64L, r))], to * 64L);
            await store.Ship(journal, batch, Cancel);
            if (random.Next(3) == 0)
            {
                await store.Ship(journal, batch, Cancel);
            }

            from = to;
        }

        var zone = DateTimeZoneProviders.Tzdb[timeZone];
        var naive = reports
            .SelectMany(r => r.Pixels.Select(p => (p.Pixel, r.LinkId, Day: r.At.InZone(zone).Date, p.Outcome, r.Visitor)))
            .GroupBy(p => (p.Pixel, p.LinkId, p.Day))
            .Select(g =>
                (
                    g.Key,
                    Fired: g.Count(p => p.Outcome == HandoffOutcome.Fired),
                    Missed: g.Count(p => p.Outcome == HandoffOutcome.Missed),
                    Declined: g.Count(p => p.Outcome == HandoffOutcome.Declined),
                    OptedOut: g.Count(p => p.Outcome == HandoffOutcome.OptedOut),
                    Visitors: (long)g.Where(p => p.Outcome == HandoffOutcome.Fired).Select(p => p.Visitor).Distinct().Count()
                )
            );
        await using var db = app.Database();
        var stored = await db.PixelDays.Where(d => pixels.Contains(d.PixelId)).ToListAsync(Cancel);
        stored
            .Select(d =>
                (
                    (d.PixelId, d.LinkId, d.Day),
                    d.Fired,
                    d.Missed,
                    d.Declined,
                    d.OptedOut,
                    Core.Clicks.Tallies.VisitorSketch.OfBytes(d.VisitorSketch).Count
                )
            )
            .ShouldBe(naive, ignoreOrder: true);
    }

    [Fact]
    public async Task A_report_of_a_pixel_that_is_another_workspaces_or_gone_counts_nowhere_and_holds_nothing_up()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var (foreign, _) = await Pixels.SetUp(other);
        var link = (Guid)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        await using var source = app.DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var (journal, _) = await store.Register(Guid.NewGuid(), Cancel);
        var now = SystemClock.Instance.GetCurrentInstant();
        PixelOutcome[] fired = [new(Guid.Parse(foreign), HandoffOutcome.Fired), new(Guid.NewGuid(), HandoffOutcome.Fired)];
        await store.Ship(
            journal,
            new JournalBatch([], [(0, new HandoffReport(now, link, 1, fired)), (64, new HandoffReport(now, Guid.NewGuid(), 1, fired))], 128),
            Cancel
        );
        await using var db = app.Database();
        (await db.PixelDays.AnyAsync(d => d.LinkId == link, Cancel)).ShouldBeFalse();
        (await store.Register(await db.Journals.Where(j => j.Id == journal).Select(j => j.Key).SingleAsync(Cancel), Cancel)).ShippedTo.ShouldBe(128);
    }
}
