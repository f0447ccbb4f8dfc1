using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Journaling;
using Cursus.Data.Clicks.Sums;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Tests.Clicks;

/// <summary>Of a user agent a click keeps what it was read as; its exact text, by which one visitor could be told from others, only for a month, and
/// not of everything that anybody makes up.</summary>
public class UserAgentRetentionTests
{
    private const string Firefox = "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0";

    private static readonly Instant Now = SystemClock.Instance.GetCurrentInstant();

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private sealed record StoredAgent(string? Text, string Device, string Browser, string Os);

    [Fact]
    public async Task After_thirty_days_a_click_says_only_what_its_agent_was_read_as()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var (world, link) = await Link(app);
        await app.Ship([Click(link, Now - Duration.FromDays(28), 1), Click(link, Now - Duration.FromDays(5), 2)]);
        await using var source = app.DataSource();
        var (rollUps, retention) = (new RollUps(source), new UserAgentRetention(source));
        var report = (await world.Get("/api/v1/reports/breakdown?by=browser&period=last-90")).ToJsonString();
        report.ShouldContain("Firefox");

        await retention.Keep(Now, Cancel);
        (await AgentsOf(app, link)).ShouldBe(
            [new(Firefox, "computer", "Firefox", "Linux"), new(Firefox, "computer", "Firefox", "Linux")],
            "none is thirty days old"
        );
        await retention.Keep(Now + Duration.FromDays(3), Cancel);
        (await AgentsOf(app, link)).ShouldBe([new(null, "computer", "Firefox", "Linux"), new(Firefox, "computer", "Firefox", "Linux")]);
        await retention.Keep(Now + Duration.FromDays(32), Cancel);

        (await AgentsOf(app, link)).ShouldBe([new(null, "computer", "Firefox", "Linux"), new(null, "computer", "Firefox", "Linux")]);
        await using var db = app.Database();
        (await db.UserAgents.CountAsync(a => a.Text != null, Cancel)).ShouldBe(0, "nobody has sent it for a month");
        (await world.Get("/api/v1/reports/breakdown?by=browser&period=last-90")).ToJsonString().ShouldBe(report);
        await rollUps.Rebuild(Now, Cancel);
        (await world.Get("/api/v1/reports/breakdown?by=browser&period=last-90")).ToJsonString().ShouldBe(report);
        (await rollUps.Check(Cancel)).Differences.ShouldBeEmpty();
        (await rollUps.BringUpToDate(Now, Cancel)).ShouldBeFalse("a reading without its text is not read again");
    }

    [Fact]
    public async Task A_click_that_comes_a_month_late_leaves_no_text()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var (_, link) = await Link(app);
        await app.Ship([Click(link, Now - Duration.FromDays(40), 1), Click(link, Now, 2)]);
        (await AgentsOf(app, link)).ShouldBe([new(null, "computer", "Firefox", "Linux"), new(Firefox, "computer", "Firefox", "Linux")]);
    }

    /// <summary>A thousand visits with made-up agents once took 38 seconds, and each left a row for ever.</summary>
    [Fact]
    public async Task Made_up_agents_neither_fill_the_database_nor_hide_those_that_visitors_have()
    {
        await using var app = new CursusApp();
        await app.InitializeAsync();
        var (world, link) = await Link(app);
        var random = new Random(23);
        string MadeUp() =>
            $"Mozilla/5.0 ({random.NextInt64():x}; {random.NextInt64():x}) Gecko/20100101 Firefox/{random.Next(200)}.0 {random.NextInt64():x}";
        await using var source = app.DataSource();
        using var store = new ClickStore(source, SystemClock.Instance);
        var (journal, _) = await store.Register(Guid.NewGuid(), Cancel);
        var position = 0L;
        for (var batch = 0; batch < 3; batch++)
        {
            List<Click> clicks =
            [
                .. Enumerable.Range(0, ToldInFull + 200).Select(i => Click(link, Now - Duration.FromMinutes(20 - batch), 1000 + i, MadeUp())),
                .. Enumerable.Range(0, 3).Select(i => Click(link, Now, 10 * batch + i)),
            ];
            await store.Ship(journal, new JournalBatch([.. clicks.Select(c => (position += 64, c))], [], position + 64), Cancel);
        }

        await using var db = app.Database();
        (await db.UserAgents.CountAsync(a => a.Text != null, Cancel)).ShouldBe(2000);
        (await db.UserAgents.CountAsync(a => a.Text == null, Cancel)).ShouldBeLessThan(10);
        (await AgentsOf(app, link)).TakeLast(9).ShouldAllBe(a => a == new StoredAgent(Firefox, "computer", "Firefox", "Linux"));
        var browsers = (await world.Get("/api/v1/reports/breakdown?by=browser"))["rows"]!
            .AsArray()
            .ToDictionary(r => (string)r!["key"]!, r => (int)r!["clicks"]!);
        browsers.ShouldBe(new Dictionary<string, int> { ["Firefox"] = 3 * ToldInFull + 8, ["Other"] = 601 }, ignoreOrder: true);
    }

    /// <summary>So many agents of one batch are told by their browser.</summary>
    private const int ToldInFull = 1000;

    private static Click Click(Guid link, Instant at, long visitor, string agent = Firefox) =>
        new(at, link, ClickKind.Person, visitor, default, default, "", agent, "");

    private static async Task<(World World, Guid Link)> Link(CursusApp app)
    {
        var world = await World.Make(app);
        return (world, (Guid)(await world.Send())["placements"]![0]!["link"]!["id"]!);
    }

    private static async Task<List<StoredAgent>> AgentsOf(CursusApp app, Guid link)
    {
        await using var db = app.Database();
        return await db
            .Database.SqlQuery<StoredAgent>(
                $"select u.text, u.device, u.browser, u.os from clicks c join user_agents u on u.id = c.user_agent_id where c.link_id = {link} order by c.at, c.id"
            )
            .ToListAsync(Cancel);
    }
}
