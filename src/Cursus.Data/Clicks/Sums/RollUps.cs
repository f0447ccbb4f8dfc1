using Cursus.Core.Clicks.Tallies;
using Cursus.Data.Workspaces;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks.Sums;

/// <summary>Seals days that are over, and recounts the roll-ups from the clicks themselves: to prove that both agree, and to make them
/// anew.</summary>
public sealed class RollUps(NpgsqlDataSource dataSource)
{
    private const int DaysAtOnce = 2000;

    /// <summary>A day of a link whose roll-up is not what its clicks come to.</summary>
    /// <param name="Clicks">People's clicks by the clicks themselves.</param>
    /// <param name="RolledUp">People's clicks by the roll-up; the difference may also lie in what the clicks tell.</param>
    public sealed record Difference(Guid LinkId, LocalDate Day, int Clicks, int RolledUp);

    /// <summary>Whether roll-ups agree with their clicks.</summary>
    /// <param name="Days">How many days of links there are by the clicks.</param>
    /// <param name="Differences">Days that differ.</param>
    /// <param name="Months">Links whose month isn't what its clicks tell, though its days' numbers may be.</param>
    public sealed record Agreement(int Days, IReadOnlyList<Difference> Differences, IReadOnlyList<(Guid LinkId, LocalDate Month)> Months);

    /// <summary>Reads anew what was read by an earlier state of the lists, and makes the roll-ups anew where that, or a change of their form, made
    /// them outdated. Returns whether there was anything to do.</summary>
    public async Task<bool> BringUpToDate(Instant now, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await connection.Run(ClickStore.Lock, cancel);
        if (await AgentCorrection.ReadAnew(connection, cancel) + await KnownReferrers.ReadAnew(connection, cancel) == 0)
        {
            return false;
        }

        await Rebuild(connection, now, cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>Makes all roll-ups anew of which there are clicks. Clicks wait in the journal meanwhile; reports see the old ones until it is
    /// done.</summary>
    public async Task Rebuild(Instant now, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await connection.Run(ClickStore.Lock, cancel);
        await Rebuild(connection, now, cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>
    /// Gives a workspace another time zone and counts its days anew by it, in one transaction: reports see the old days until it is done, and clicks
    /// wait in the journal. Days whose single clicks have been deleted stay as they were counted. A visitor of a day stays told apart by the old
    /// day's key, so that somebody who came before and after the old midnight may count twice in one new day.
    /// </summary>
    /// <param name="progress">Told how many clicks have been counted so far.</param>
    public async Task ChangeZone(Guid workspace, DateTimeZone zone, AuditEntry? note, IProgress<int> progress, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(zone);
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await connection.Run(ClickStore.Lock, cancel);
        await Clear(connection, $"d.link_id in (select id from links where workspace_id = '{workspace}')", cancel);
        await Write(connection, Recount.Days(connection, workspace, cancel, zone, progress), cancel);

        // Last, since other settings of the workspace can't be changed from here on.
        await using var move = new NpgsqlCommand("update workspaces set time_zone = $2 where id = $1", connection)
        {
            Parameters =
            {
                new() { Value = workspace },
                new() { Value = zone.Id },
            },
        };
        await move.ExecuteNonQueryAsync(cancel);
        await AuditRow.Write(connection, note, cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>How many single clicks a workspace has, of all kinds.</summary>
    public async Task<long> ClicksOf(Guid workspace, CancellationToken cancel)
    {
        var (kinds, isAlone) = (string.Join(" + ", DayOfLink.Kinds), ClickRetention.IsAlone("day"));
        await using var command = dataSource.CreateCommand(
            $"""
            select coalesce(sum({kinds}), 0)::bigint from days_of_links d join links l on l.id = d.link_id where l.workspace_id = $1 and not {isAlone}
            """
        );
        command.Parameters.Add(new() { Value = workspace });
        return (long)(await command.ExecuteScalarAsync(cancel))!;
    }

    /// <summary>Seals every day that is over everywhere.</summary>
    public async Task SealDays(Instant now, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        bool isMore;
        do
        {
            await using var transaction = await connection.BeginTransactionAsync(cancel);
            await connection.Run(ClickStore.Lock, cancel);
            isMore = await SealedRollUp.SealNext(connection, now, cancel);
            await transaction.CommitAsync(cancel);
        } while (isMore);
    }

    /// <summary>Links whose total is not what their clicks come to.</summary>
    public async Task<IReadOnlyList<Guid>> CheckTotals(CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        return await TotalRollUp.Differences(connection, cancel);
    }

    /// <summary>Compares every roll-up of days and months with its clicks, as both stood in one moment.</summary>
    public async Task<Agreement> Check(CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        await using var export = new NpgsqlCommand("select pg_export_snapshot()", connection);
        var snapshot = (string)(await export.ExecuteScalarAsync(cancel))!;
        await using var second = await dataSource.OpenConnectionAsync(cancel);
        await using var sameMoment = await second.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, cancel);
        await second.Run($"set transaction snapshot '{snapshot}'", cancel);

        var check = await RollUpCheck.Begin(second, cancel);
        await foreach (var (link, days) in SealedRollUp.ByLink(Recount.Days(connection, null, cancel), cancel))
        {
            await check.Compare(link, days, cancel);
        }

        return await check.End(cancel);
    }

    /// <summary>Deletes roll-ups of which there are clicks, and tells of a writer of its own, so that those who ship clicks forget what they know of
    /// days and of links.</summary>
    /// <param name="which">Those of which links: a condition on a row <c>d</c>.</param>
    private static Task Clear(NpgsqlConnection connection, string which, CancellationToken cancel) =>
        connection.RunLong(
            $"""
            insert into journals (key, shipped_to) values ('00000000-0000-0000-0000-000000000000', 1) on conflict (key) do update set shipped_to = journals.shipped_to + 1;
            delete from open_days d where {which};
            delete from link_days d where {which} and not {ClickRetention.IsAlone("day")};
            delete from link_months d where {which} and not {ClickRetention.IsAlone("month")};
            """,
            cancel
        );

    private static async Task Rebuild(NpgsqlConnection connection, Instant now, CancellationToken cancel)
    {
        await Clear(connection, "true", cancel);
        await SealedRollUp.MoveUntil(connection, SealedRollUp.OpenAt(now), cancel);
        await TotalRollUp.Rebuild(connection, cancel);
        await Write(connection, Recount.Days(connection, null, cancel), cancel);
    }

    /// <summary>Makes the roll-ups of a workspace's links anew, of which there are none. The caller holds the transaction and is alone in
    /// writing.</summary>
    internal static async Task Make(NpgsqlConnection connection, Guid workspace, Instant now, CancellationToken cancel)
    {
        await Write(connection, Recount.Days(connection, workspace, cancel), cancel);
        while (await SealedRollUp.SealNext(connection, now, cancel)) { }
    }

    /// <summary>Writes days that aren't there yet: those that are sealed beside their months, the others to be added to.</summary>
    /// <param name="days">By month and link, so that the days of a period lie side by side.</param>
    private static async Task Write(
        NpgsqlConnection connection,
        IAsyncEnumerable<(Guid Link, LocalDate Day, DayCounts Counts)> days,
        CancellationToken cancel
    )
    {
        var until = await SealedRollUp.Until(connection, cancel) ?? LocalDate.MinIsoValue;
        var sealedRows = new SealedRows(connection);
        var open = new Dictionary<(Guid, LocalDate), DayCounts>();
        await foreach (var (link, ofMonth) in SealedRollUp.ByLink(days, cancel))
        {
            var over = ofMonth.Where(d => d.Day < until).ToList();
            if (over.Count > 0)
            {
                sealedRows.Add(link, SealedRollUp.MonthOf(over[0].Day), over, before: null);
            }

            foreach (var (day, counts) in ofMonth.Skip(over.Count))
            {
                open[(link, day)] = counts;
            }

            if (sealedRows.Count >= DaysAtOnce)
            {
                await sealedRows.Write(cancel, isAnew: true);
            }

            if (open.Count >= DaysAtOnce)
            {
                await DayRollUp.Insert(connection, open, cancel);
                open.Clear();
            }
        }

        await sealedRows.Write(cancel, isAnew: true);
        await DayRollUp.Insert(connection, open, cancel);
    }
}
