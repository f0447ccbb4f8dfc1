using CsCheck;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Journaling;
using Cursus.Data.Clicks.Sums;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Clicks;

public class ClickStoreTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task However_a_journal_is_cut_into_batches_and_repeated_each_click_is_stored_once()
    {
        var world = await World.Make(app, "Asia/Tokyo");
        var links = (await world.Send())["placements"]!.AsArray().Select(p => (Guid)p!["link"]!["id"]!).ToArray();
        await using var source = app.DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var (journalId, shippedTo) = await store.Register(Guid.NewGuid(), Cancel);
        shippedTo.ShouldBe(0);

        // Over a month's end in UTC that is another day in the workspace's zone.
        var begin = Instant.FromUtc(2026, 10, 31, 12, 0);
        var clicks = Gen.Select(Gen.Int[0, 86_400], Gen.Int[0, 1], Gen.Enum<ClickKind>(), Gen.Long)
            .Array[300]
            .Single()
            .Select(
                (c, i) =>
                    (
                        Position: i * 64L,
                        Click: new Click(
                            begin + Duration.FromSeconds(i * 280 + c.Item1 % 270),
                            links[c.Item2],
                            c.Item3,
                            c.Item4,
                            default,
                            default,
                            "",
                            "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                            ""
                        )
                    )
            )
            .ToList();
        var random = new Random(7);
        var end = clicks.Count;
        for (var from = 0; from < end; )
        {
            var to = Math.Min(end, from + random.Next(1, 60));
            var batch = clicks[Math.Max(0, from - random.Next(0, 40))..to];
            await store.Ship(journalId, new JournalBatch(batch, [], to * 64L), Cancel);
            await store.Ship(journalId, new JournalBatch(batch, [], to * 64L), Cancel);
            from = to;
        }

        await using var db = app.Database();
        (await db.Database.SqlQuery<int>($"select count(*)::int as \"Value\" from clicks where link_id = any({links})").SingleAsync(Cancel)).ShouldBe(
            300
        );
        var tokyo = DateTimeZoneProviders.Tzdb["Asia/Tokyo"];
        var expected = clicks
            .GroupBy(c => (c.Click.LinkId, Day: c.Click.At.InZone(tokyo).Date))
            .ToDictionary(g => g.Key, g => (Count(g, ClickKind.Person), Count(g, ClickKind.Prefetch)));
        var rolled = await db.LinkDays.Where(d => links.Contains(d.LinkId)).ToListAsync(Cancel);
        rolled.ToDictionary(d => (d.LinkId, d.Day), d => (d.Clicks, d.Prefetches)).ShouldBe(expected, ignoreOrder: true);
        var check = await new RollUps(source).Check(Cancel);
        check.Differences.Where(d => links.Contains(d.LinkId)).ShouldBeEmpty();
        check.Months.Where(m => links.Contains(m.LinkId)).ShouldBeEmpty();

        static int Count(IEnumerable<(long, Click Click)> clicks, ClickKind kind) => clicks.Count(c => c.Click.Kind == kind);
    }

    /// <summary>That somebody opens links in a sweep shows with the fourth, when three are stored, and one day is sealed already.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(3)]
    [InlineData(100)]
    public async Task A_sweep_is_taken_back_whole_however_it_is_cut_into_batches(int size)
    {
        await using var own = new CursusApp();
        await own.InitializeAsync();
        var world = await World.Make(own);
        var links = new List<Guid>();
        for (var post = 0; post < 3; post++)
        {
            links.AddRange((await world.Send())["placements"]!.AsArray().Select(p => (Guid)p!["link"]!["id"]!));
        }

        var begin = Instant.FromUtc(2026, 10, 5, 12, 0);
        Click At(double seconds, int link, long visitor, ClickKind kind = ClickKind.Person) =>
            new(
                begin + Duration.FromSeconds(seconds),
                links[link],
                kind,
                visitor,
                default,
                default,
                "",
                "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                ""
            );
        List<Click> clicks =
        [
            At(-90_000, 0, 5),
            At(-60, 0, 3),
            At(-50, 1, 3),
            .. Enumerable.Range(0, 6).Select(i => At(i * 0.3, i, 7)),
            At(20, 0, 4),
            At(30, 1, 6, ClickKind.Head),
            At(31, 1, 6),
            At(40, 2, 9, ClickKind.Team),
            At(40.5, 2, 10),
            At(90_000, 3, 7),
        ];
        await using var source = own.DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var (journal, _) = await store.Register(Guid.NewGuid(), Cancel);
        foreach (var batch in clicks.Index().Chunk(size))
        {
            await store.Ship(journal, new JournalBatch([.. batch.Select(c => (c.Index * 64L, c.Item))], [], (batch[^1].Index + 1) * 64L), Cancel);
        }

        await using var db = own.Database();
        var days = await db.LinkDays.ToListAsync(Cancel);
        (days.Sum(d => d.Clicks), days.Sum(d => d.Sweeps), days.Sum(d => d.Probes), days.Sum(d => d.Echoes)).ShouldBe((5, 6, 1, 1));
        days.Sum(d => d.Visitors).ShouldBe(5);
        (await db.LinkTotals.SumAsync(t => t.Clicks, Cancel)).ShouldBe(5);
        var rollUps = new RollUps(source);
        (await rollUps.Check(Cancel)).Differences.ShouldBeEmpty();
        (await rollUps.CheckTotals(Cancel)).ShouldBeEmpty();
    }

    [Fact]
    public async Task A_batch_that_fails_is_not_half_stored()
    {
        var world = await World.Make(app);
        var link = (Guid)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        await using var source = app.DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var (journalId, _) = await store.Register(Guid.NewGuid(), Cancel);
        Click At(Instant at, string agent) => new(at, link, ClickKind.Person, 1, default, default, "", agent, "");
        var now = Instant.FromUtc(2026, 11, 1, 0, 0);

        // PostgreSQL takes no zero character in a text, so the whole batch is refused.
        await Should.ThrowAsync<Npgsql.PostgresException>(() =>
            store.Ship(
                journalId,
                new JournalBatch(
                    [(0, At(now, "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0")), (64, At(now, "Mozilla/\0"))],
                    [],
                    128
                ),
                Cancel
            )
        );

        await using var db = app.Database();
        (await db.LinkDays.AnyAsync(d => d.LinkId == link, Cancel)).ShouldBeFalse();
        (await db.Journals.SingleAsync(j => j.Id == journalId, Cancel)).ShippedTo.ShouldBe(0);
    }

    /// <summary>On 25 October 2026 clocks in London go back at 02:00 summer time, on 28 March 2027 forward at 01:00: days of 25 and 23
    /// hours.</summary>
    [Theory]
    [InlineData(2026, 10, 25, 150, 12)]
    [InlineData(2027, 3, 28, 138, 0)]
    public async Task A_day_is_the_workspaces_however_many_hours_it_has(int year, int month, int dayOfMonth, int clicksOfDay, int clicksFromOneToTwo)
    {
        var world = await World.Make(app);
        var link = (Guid)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        await using var source = app.DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var (journalId, _) = await store.Register(Guid.NewGuid(), Cancel);
        var day = new LocalDate(year, month, dayOfMonth);
        var begin = DateTimeZoneProviders.Tzdb["Europe/London"].AtStartOfDay(day).ToInstant() - Duration.FromHours(6);
        var clicks = Enumerable
            .Range(0, 6 * 40)
            .Select(i =>
                (
                    i * 8L,
                    new Click(
                        begin + Duration.FromMinutes(10 * i),
                        link,
                        ClickKind.Person,
                        i,
                        default,
                        default,
                        "",
                        "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                        ""
                    )
                )
            )
            .ToList();
        await store.Ship(journalId, new JournalBatch(clicks, [], clicks.Count * 8), Cancel);

        await using var db = app.Database();
        (await db.LinkDays.SingleAsync(d => d.LinkId == link && d.Day == day, Cancel)).Clicks.ShouldBe(clicksOfDay);
        var hours = (await world.Get($"/api/v1/reports/series?by=link&step=hour&link={link}&from={day:uuuu-MM-dd}&to={day:uuuu-MM-dd}"))[
            "points"
        ]!.AsArray();
        int ClicksAt(int hour) => (int?)hours[hour]!["clicks"]![$"{link}"] ?? 0;
        (hours.Count == 24 ? (ClicksAt(1), ClicksAt(12)) : default).ShouldBe((clicksFromOneToTwo, 6));
    }

    /// <summary>Journals may wait for days, while their clicks' days are sealed.</summary>
    [Fact]
    public async Task Whenever_days_are_sealed_and_clicks_come_the_roll_ups_are_what_the_clicks_come_to()
    {
        await using var own = new CursusApp();
        await own.InitializeAsync();
        var world = await World.Make(own, "America/Los_Angeles");
        var links = (await world.Send())["placements"]!.AsArray().Select(p => (Guid)p!["link"]!["id"]!).ToArray();
        await using var source = own.DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var rollUps = new RollUps(source);
        var (journalId, _) = await store.Register(Guid.NewGuid(), Cancel);
        var (random, begin) = (new Random(11), Instant.FromUtc(2026, 8, 20, 0, 0));
        for (var batch = 0; batch < 40; batch++)
        {
            var clicks = Enumerable
                .Range(0, 50)
                .Select(i =>
                    (
                        (batch * 50L + i) * 64,
                        new Click(
                            begin + Duration.FromMinutes(random.Next(0, 60 * 24 * 40)),
                            links[random.Next(links.Length)],
                            (ClickKind)random.Next(0, 3),
                            random.Next(5),
                            CountryCode.Of(random.Next(2) == 0 ? "GB" : "DE"),
                            default,
                            random.Next(3) == 0 ? "" : "perch.localhost",
                            "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                            "en"
                        )
                    )
                )
                .ToList();
            await store.Ship(journalId, new JournalBatch(clicks, [], (batch + 1) * 50L * 64), Cancel);
            if (batch % 4 == 0)
            {
                await rollUps.SealDays(begin + Duration.FromDays(batch), Cancel);
            }
        }

        await using var db = own.Database();
        var isOpen = await db.OpenDays.MinAsync(d => d.Day, Cancel);
        isOpen.ShouldBe((await db.SealedDays.SingleAsync(Cancel)).Until);
        await Agree();

        // A day more clicks than there are, a month that tells something else: both are found, and neither is there any more when all was counted
        // anew.
        var tampered = await db.Database.ExecuteSqlAsync(
            $"update link_days set clicks = clicks + 1 where link_id = {links[0]} and day = date '2026-08-25'",
            Cancel
        );
        await db.Database.ExecuteSqlAsync($"update link_months set country = '' where link_id = {links[1]} and month = date '2026-08-01'", Cancel);
        (await rollUps.Check(Cancel)).ShouldSatisfyAllConditions(
            c => c.Differences.Count.ShouldBe(tampered),
            c => c.Months.ShouldBe([(links[1], new LocalDate(2026, 8, 1))])
        );
        await rollUps.Rebuild(SystemClock.Instance.GetCurrentInstant(), Cancel);
        (await db.OpenDays.AnyAsync(Cancel)).ShouldBeFalse();
        await Agree();

        async Task Agree() =>
            (await rollUps.Check(Cancel)).ShouldSatisfyAllConditions(
                c => c.Days.ShouldBeGreaterThan(80),
                c => c.Differences.ShouldBeEmpty(),
                c => c.Months.ShouldBeEmpty()
            );
    }

    [Fact]
    public async Task A_roll_up_that_does_not_agree_with_its_clicks_is_found_and_made_anew()
    {
        await using var own = new CursusApp();
        await own.InitializeAsync();
        var world = await World.Make(own);
        var slug = World.Slug(await world.Send(), 0);
        for (var i = 0; i < 9; i++)
        {
            await world.Visit(slug);
        }

        await own.Shipped();
        await using var source = own.DataSource();
        var rollUps = new RollUps(source);
        (await rollUps.Check(Cancel)).ShouldSatisfyAllConditions(c => c.Days.ShouldBe(1), c => c.Differences.ShouldBeEmpty());

        await using var db = own.Database();
        await db.Database.ExecuteSqlAsync($"update open_days set device_counts[1] = device_counts[1] + 1", Cancel);
        (await rollUps.Check(Cancel)).Differences.ShouldHaveSingleItem().Clicks.ShouldBe(9);
        (await rollUps.CheckTotals(Cancel)).ShouldBeEmpty();
        await db.Database.ExecuteSqlAsync($"update link_totals set clicks = clicks + 1", Cancel);
        (await rollUps.CheckTotals(Cancel)).ShouldHaveSingleItem();
        await rollUps.Rebuild(SystemClock.Instance.GetCurrentInstant(), Cancel);
        (await rollUps.Check(Cancel)).Differences.ShouldBeEmpty();
        (await rollUps.CheckTotals(Cancel)).ShouldBeEmpty();
    }

    /// <summary>As if the list had taken one browser for a machine and a machine for a person when these clicks were stored.</summary>
    [Fact]
    public async Task When_a_list_is_corrected_stored_clicks_are_told_anew()
    {
        await using var own = new CursusApp();
        await own.InitializeAsync();
        var world = await World.Make(own);
        var link = (Guid)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        await using var source = own.DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var (journalId, _) = await store.Register(Guid.NewGuid(), Cancel);
        const string browser = "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
            machine = "hill-monitor/1.0";
        var now = SystemClock.Instance.GetCurrentInstant() - Duration.FromHours(30);
        Click At(int seconds, string agent, ClickKind kind = ClickKind.Person, long visitor = 1) =>
            new(now + Duration.FromSeconds(seconds), link, kind, visitor, default, default, "", agent, "");
        Click[] clicks =
        [
            At(0, browser),
            At(3, browser),
            At(60, browser),
            At(61, browser, ClickKind.Team, 2),
            At(0, machine, visitor: 3),
            At(90, browser, visitor: 4),
        ];
        await store.Ship(journalId, new JournalBatch([.. clicks.Select((c, i) => (i * 64L, c))], [], clicks.Length * 64L), Cancel);
        await using var db = own.Database();
        await db.Database.ExecuteSqlAsync(
            $"""
            update user_agents set read_with = 'an older list', kind = case text when {browser} then 2 else 0 end where text in ({browser}, {machine});
            update clicks c set kind = u.kind from user_agents u where u.id = c.user_agent_id and c.kind in (0, 2, 5) and c.link_id = {link}
            """,
            Cancel
        );
        var rollUps = new RollUps(source);
        await rollUps.Rebuild(SystemClock.Instance.GetCurrentInstant(), Cancel);
        ((int)(await world.Get("/api/v1/reports/breakdown?by=channel"))["total"]!["clicks"]!).ShouldBe(1, "only the machine");

        (await rollUps.BringUpToDate(SystemClock.Instance.GetCurrentInstant(), Cancel)).ShouldBeTrue();

        var report = await world.Get("/api/v1/reports/breakdown?by=channel");
        ((int)report["total"]!["clicks"]!).ShouldBe(3);
        ((int)report["excluded"]!["machines"]!, (int)report["excluded"]!["repeats"]!, (int)report["excluded"]!["team"]!).ShouldBe((1, 1, 1));
        (await rollUps.Check(Cancel)).Differences.ShouldBeEmpty();
        (await rollUps.CheckTotals(Cancel)).ShouldBeEmpty();
        (await rollUps.BringUpToDate(SystemClock.Instance.GetCurrentInstant(), Cancel)).ShouldBeFalse("all is read by the present list");
    }

    [Fact]
    public async Task Links_that_are_gone_take_their_days_along()
    {
        var world = await World.Make(app);
        var link = (Guid)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        await world.Visit((string)(await world.Get($"/api/v1/links/{link}"))["slug"]!);
        await app.Shipped();
        await using var db = app.Database();
        (await db.LinkDays.AnyAsync(d => d.LinkId == link, Cancel)).ShouldBeTrue();
        await db.Placements.Where(p => p.LinkId == link).ExecuteDeleteAsync(Cancel);
        await db.Links.Where(l => l.Id == link).ExecuteDeleteAsync(Cancel);
        (await db.LinkDays.AnyAsync(d => d.LinkId == link, Cancel)).ShouldBeFalse();
    }
}
