using System.Runtime.CompilerServices;
using Cursus.Core.Clicks;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>Recounts the roll-ups from the clicks themselves: to prove that both agree, and to make them anew.</summary>
public sealed class RollUps(NpgsqlDataSource dataSource)
{
    private const int DaysAtOnce = 2000;
    private const int ClicksAtOnce = 20_000;

    /// <summary>A day of a link whose roll-up is not what its clicks come to.</summary>
    /// <param name="Clicks">People's clicks by the clicks themselves.</param>
    /// <param name="RolledUp">People's clicks by the roll-up; the difference may also lie in what the clicks tell.</param>
    public sealed record Difference(Guid LinkId, LocalDate Day, int Clicks, int RolledUp);

    /// <summary>Reads anew what was read by an earlier state of the lists, and makes the roll-ups anew where that, or a change of their form, made them outdated.
    /// Returns whether there was anything to do.</summary>
    public async Task<bool> BringUpToDate(CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await connection.Run(ClickStore.Lock, cancel);
        if (!await ClickReader.ReadAnew(connection, cancel))
        {
            return false;
        }

        await Rebuild(connection, cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>Makes all roll-ups anew. Clicks wait in the journal meanwhile; reports see the old ones until it is done.</summary>
    public async Task Rebuild(CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await connection.Run(ClickStore.Lock, cancel);
        await Rebuild(connection, cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Sums up every month that has ended and isn't sealed yet.</summary>
    public async Task SealMonths(Instant now, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        LocalDate? month;
        do
        {
            await using var transaction = await connection.BeginTransactionAsync(cancel);
            await connection.Run(ClickStore.Lock, cancel);
            month = await MonthRollUp.NextToSeal(connection, now, cancel);
            if (month is { } ended)
            {
                await MonthRollUp.Seal(connection, ended, cancel);
            }

            await transaction.CommitAsync(cancel);
        }
        while (month is not null);
    }

    /// <summary>Compares every sealed month with its days, and returns how many there are and the links whose month differs.</summary>
    public async Task<(int Months, IReadOnlyList<(Guid Link, LocalDate Month)> Differences)> CheckMonths(CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        var months = await MonthRollUp.Sealed(connection, cancel);
        var differences = new List<(Guid, LocalDate)>();
        foreach (var month in months)
        {
            differences.AddRange((await MonthRollUp.Differences(connection, month, cancel)).Select(link => (link, month)));
        }

        return (months.Count, differences);
    }

    /// <summary>Links whose total is not what their clicks come to.</summary>
    public async Task<IReadOnlyList<Guid>> CheckTotals(CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        return await TotalRollUp.Differences(connection, cancel);
    }

    /// <summary>Compares every roll-up with its clicks, as both stood in one moment, and returns how many there are and those that differ.</summary>
    public async Task<(int Days, IReadOnlyList<Difference> Differences)> Check(CancellationToken cancel)
    {
        var days = 0;
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        await using var export = new NpgsqlCommand("select pg_export_snapshot()", connection);
        var snapshot = (string)(await export.ExecuteScalarAsync(cancel))!;
        await using var second = await dataSource.OpenConnectionAsync(cancel);
        await using var sameMoment = await second.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        await second.Run($"set transaction snapshot '{snapshot}'", cancel);

        var differences = new List<Difference>();
        await using var stored = DayRollUp.Read(second, "where exists (select 1 from links l where l.id = link_id) order by day, link_id", [], cancel).GetAsyncEnumerator(cancel);
        var hasStored = await stored.MoveNextAsync();
        await foreach (var (link, day, counts) in Recounted(connection, cancel))
        {
            days++;
            while (hasStored && Order(stored.Current, (link, day)) < 0)
            {
                differences.Add(new(stored.Current.Link, stored.Current.Day, 0, stored.Current.Counts.Of(ClickKind.Person)));
                hasStored = await stored.MoveNextAsync();
            }

            var isThere = hasStored && Order(stored.Current, (link, day)) == 0;
            if (!isThere || !stored.Current.Counts.Agrees(counts))
            {
                differences.Add(new(link, day, counts.Of(ClickKind.Person), isThere ? stored.Current.Counts.Of(ClickKind.Person) : 0));
            }

            hasStored = isThere ? await stored.MoveNextAsync() : hasStored;
        }

        for (; hasStored; hasStored = await stored.MoveNextAsync())
        {
            differences.Add(new(stored.Current.Link, stored.Current.Day, 0, stored.Current.Counts.Of(ClickKind.Person)));
        }

        return (days, differences);
    }

    private static async Task Rebuild(NpgsqlConnection connection, CancellationToken cancel)
    {
        // Told as a writer of its own, so that those who ship clicks forget what they know of the days.
        await connection.Run("""
            insert into journals (key, shipped_to) values ('00000000-0000-0000-0000-000000000000', 1) on conflict (key) do update set shipped_to = journals.shipped_to + 1;
            delete from link_days;
            """, cancel);
        await MonthRollUp.Unseal(connection, cancel);
        await TotalRollUp.Rebuild(connection, cancel);

        var days = new Dictionary<(Guid, LocalDate), DayCounts>();
        await foreach (var (link, day, counts) in Recounted(connection, cancel))
        {
            days[(link, day)] = counts;
            if (days.Count >= DaysAtOnce)
            {
                await DayRollUp.Insert(connection, days, cancel);
                days.Clear();
            }
        }

        await DayRollUp.Insert(connection, days, cancel);
    }

    /// <summary>Days by the clicks themselves, in the order of day and link: written so, the days of a period lie side by side.</summary>
    private static async IAsyncEnumerable<(Guid Link, LocalDate Day, DayCounts Counts)> Recounted(
        NpgsqlConnection connection, [EnumeratorCancellation] CancellationToken cancel)
    {
        (Guid Link, LocalDate Day, DayCounts Counts)? current = null;
        await foreach (var (link, zone, at, told) in Clicks(connection, cancel))
        {
            var local = at.InZone(zone);
            if (current is { } last && (last.Link, last.Day) != (link, local.Date))
            {
                yield return last;
                current = null;
            }

            current ??= (link, local.Date, new DayCounts());
            current.Value.Counts.Add(told, local.Hour);
        }

        if (current is { } final)
        {
            yield return final;
        }
    }

    /// <summary>All clicks of links that exist, by day, link and time. A cursor, so that days can be written between two reads on the same connection.</summary>
    private static async IAsyncEnumerable<(Guid Link, DateTimeZone Zone, Instant At, ToldClick Told)> Clicks(
        NpgsqlConnection connection, [EnumeratorCancellation] CancellationToken cancel)
    {
        await connection.Run("""
            declare recount no scroll cursor for
            select c.link_id, w.time_zone, c.at, c.kind, c.visitor, c.country, u.device, u.browser, u.os, c.language, c.referrer_host, c.code
            from clicks c join links l on l.id = c.link_id join workspaces w on w.id = l.workspace_id join user_agents u on u.id = c.user_agent_id
            order by (c.at at time zone w.time_zone)::date, c.link_id, c.at
            """, cancel);
        var clicks = new List<(Guid, DateTimeZone, Instant, ToldClick)>(ClicksAtOnce);
        do
        {
            clicks.Clear();
            await using (var fetch = new NpgsqlCommand($"fetch {ClicksAtOnce} from recount", connection) { CommandTimeout = 0 })
            await using (var reader = await fetch.ExecuteReaderAsync(cancel))
            {
                while (await reader.ReadAsync(cancel))
                {
                    clicks.Add((reader.GetGuid(0), DateTimeZoneProviders.Tzdb[reader.GetString(1)], reader.GetFieldValue<Instant>(2), new ToldClick(
                        (ClickKind)reader.GetInt16(3), reader.GetInt64(4), reader.GetString(5), reader.GetString(6), reader.GetString(7), reader.GetString(8),
                        reader.GetString(9), reader.GetString(10), (byte)reader.GetInt16(11))));
                }
            }

            foreach (var click in clicks)
            {
                yield return click;
            }
        }
        while (clicks.Count == ClicksAtOnce);
        await connection.Run("close recount", cancel);
    }

    /// <summary>By day, then links in the order in which PostgreSQL sorts their ids, which is that of their text.</summary>
    private static int Order((Guid Link, LocalDate Day, DayCounts) one, (Guid Link, LocalDate Day) other) =>
        one.Day.CompareTo(other.Day) is not 0 and var byDay ? byDay : string.CompareOrdinal(one.Link.ToString(), other.Link.ToString());
}
