using System.Net;
using Cursus.Core.Clicks;
using Cursus.Edge;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Logging.Abstractions;
using NodaTime;

namespace Cursus.Web.Tests.Clicks;

/// <summary>A visitor is known for one day of the workspace's clock and by nobody afterwards.</summary>
public class VisitorSaltsTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task When_the_day_has_ended_in_the_workspaces_zone_nobody_can_compute_its_hashes_again()
    {
        const string zone = "Pacific/Auckland";
        var auckland = DateTimeZoneProviders.Tzdb[zone];
        var noon = auckland.AtStrictly(new LocalDateTime(2031, 5, 4, 12, 0)).ToInstant();
        var clock = new MovableClock(noon);
        await using var database = app.DataSource();
        using var salts = new VisitorSalts(database, clock, NullLogger<VisitorSalts>.Instance);
        var keys = salts.Of(zone);
        await salts.Renew(Cancel);
        long Hash(Instant at) =>
            VisitorHash.Of(
                keys.At(at),
                "nmoor.localhost",
                IPAddress.Parse("192.0.2.7"),
                "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0"
            );

        var today = Hash(noon);
        Hash(noon + Duration.FromHours(11)).ShouldBe(today);
        using var restarted = new VisitorSalts(database, clock, NullLogger<VisitorSalts>.Instance);
        restarted.Of(zone);
        await restarted.Renew(Cancel);
        VisitorHash
            .Of(
                restarted.Of(zone).At(noon),
                "nmoor.localhost",
                IPAddress.Parse("192.0.2.7"),
                "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0"
            )
            .ShouldBe(today);
        (await Kept(zone)).ShouldBe(1);

        clock.Now = noon + Duration.FromHours(13);
        Hash(clock.Now).ShouldNotBe(today);
        await salts.Renew(Cancel);
        (await Kept(zone)).ShouldBe(1);
        Hash(noon).ShouldNotBe(today, "yesterday's key must be gone from memory as well");
    }

    /// <summary>PostgreSQL empties such a table when it recovers from a crash.</summary>
    [Fact]
    public async Task Kept_apart_from_the_clicks_and_lost_in_a_crash_the_key_is_still_the_same_for_everybody()
    {
        const string zone = "Pacific/Fiji";
        var clock = new MovableClock(DateTimeZoneProviders.Tzdb[zone].AtStrictly(new LocalDateTime(2031, 5, 4, 12, 0)).ToInstant());
        await using var database = app.DataSource();
        using var salts = new VisitorSalts(database, clock, NullLogger<VisitorSalts>.Instance);
        var keys = salts.Of(zone);
        await salts.Renew(Cancel);
        var before = keys.At(clock.Now).ToArray();
        await using var db = app.Database();
        (
            await db
                .Database.SqlQuery<char>($"select relpersistence as \"Value\" from pg_class where oid = 'ephemeral.visitor_salts'::regclass")
                .SingleAsync(Cancel)
        ).ShouldBe('u', "no log, and so no standby or backup, has it");
        await db.VisitorSalts.Where(s => s.TimeZone == zone).ExecuteDeleteAsync(Cancel);

        await salts.Renew(Cancel);

        keys.At(clock.Now).ToArray().ShouldBe(before);
        using var other = new VisitorSalts(database, clock, NullLogger<VisitorSalts>.Instance);
        other.Of(zone);
        await other.Renew(Cancel);
        other.Of(zone).At(clock.Now).ToArray().ShouldBe(before);
    }

    private async Task<int> Kept(string zone)
    {
        await using var db = app.Database();
        return await db.VisitorSalts.CountAsync(s => s.TimeZone == zone, Cancel);
    }

    private sealed class MovableClock(Instant now) : IClock
    {
        public Instant Now { get; set; } = now;

        public Instant GetCurrentInstant() => Now;
    }
}
