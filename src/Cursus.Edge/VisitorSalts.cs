using System.Collections.Concurrent;
using Cursus.Data;
using NodaTime;
using NodaTime.Text;
using Npgsql;

namespace Cursus.Edge;

/// <summary>
/// The keys of visitor hashes. Each day of each workspace's time zone has its own, kept in the database until the day has ended there, so that a
/// restart doesn't count a visitor twice and nobody can compute yesterday's hashes again. They lie in a schema of their own apart from the clicks, in
/// a table that PostgreSQL writes into no log: they are in no standby, no archived log and, with that schema left out, no backup. Tomorrow's is
/// agreed on an hour ahead, so that at midnight nobody asks the database.
/// </summary>
public sealed class VisitorSalts([FromKeyedServices(EdgeSetup.Database)] NpgsqlDataSource database, IClock clock, ILogger<VisitorSalts> log)
    : BackgroundService
{
    private static readonly Duration Ahead = Duration.FromHours(1);

    private readonly ConcurrentDictionary<string, ZoneSalts> zones = new();

    /// <summary>The keys of a time zone, which is looked after from now on.</summary>
    public ZoneSalts Of(string timeZone) => zones.GetOrAdd(timeZone, static name => new ZoneSalts(DateTimeZoneProviders.Tzdb[name]));

    /// <summary>Today's and tomorrow's keys of all time zones.</summary>
    internal IReadOnlyList<LinkSnapshot.Salt> Known =>
        [
            .. zones
                .Values.SelectMany(z =>
                    z.Known.Select(s => new LinkSnapshot.Salt(z.Zone.Id, LocalDatePattern.Iso.Format(s.Day), s.End.ToUnixTimeMilliseconds(), s.Salt))
                )
                .OrderBy(s => s.TimeZone, StringComparer.Ordinal)
                .ThenBy(s => s.Day, StringComparer.Ordinal),
        ];

    /// <summary>Goes by the keys of an earlier process where their days haven't ended.</summary>
    internal void Restore(IEnumerable<LinkSnapshot.Salt> known)
    {
        var now = clock.GetCurrentInstant();
        foreach (var salt in known.Where(s => s.End > now.ToUnixTimeMilliseconds()))
        {
            Of(salt.TimeZone).Take(new(LocalDatePattern.Iso.Parse(salt.Day).Value, Instant.FromUnixTimeMilliseconds(salt.End), salt.Key), now);
        }
    }

    /// <summary>Agrees with all other processes on the keys that are needed now and deletes those that have passed.</summary>
    public async Task Renew(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        var now = clock.GetCurrentInstant();
        foreach (var zone in zones.Values)
        {
            foreach (var at in new[] { now, now + Ahead }.DistinctBy(at => at.InZone(zone.Zone).Date))
            {
                zone.Take(await Agree(connection, zone.Zone.Id, zone.Offer(at), cancel), now);
            }
        }

        await using var delete = new NpgsqlCommand("delete from ephemeral.visitor_salts where ends_at <= $1", connection)
        {
            Parameters = { new() { Value = now } },
        };
        await delete.ExecuteNonQueryAsync(cancel);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(TimeSpan.FromSeconds(20));
        do
        {
            try
            {
                await Renew(stoppingToken);
            }
            catch (Exception e) when (DatabaseTrouble.IsOfDatabase(e))
            {
                // Visitors are still told apart by the key in memory; the agreed one is fetched when the database is back.
                log.LogWarning("The keys of visitor hashes could not be fetched; trying again: {Reason}", e.Message);
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    private static async Task<ZoneSalts.DaySalt> Agree(
        NpgsqlConnection connection,
        string timeZone,
        ZoneSalts.DaySalt offer,
        CancellationToken cancel
    )
    {
        await using var add = new NpgsqlCommand(
            "insert into ephemeral.visitor_salts (time_zone, day, ends_at, salt) values ($1, $2, $3, $4) on conflict do nothing",
            connection
        )
        {
            Parameters =
            {
                new() { Value = timeZone },
                new() { Value = offer.Day },
                new() { Value = offer.End },
                new() { Value = offer.Salt },
            },
        };
        await add.ExecuteNonQueryAsync(cancel);
        await using var read = new NpgsqlCommand("select salt from ephemeral.visitor_salts where time_zone = $1 and day = $2", connection)
        {
            Parameters =
            {
                new() { Value = timeZone },
                new() { Value = offer.Day },
            },
        };
        return offer with { Salt = (byte[])(await read.ExecuteScalarAsync(cancel))! };
    }
}
