using Cursus.Core.Clicks;
using Cursus.Data.Clicks.Journaling;
using Cursus.Data.Clicks.Sums;
using Cursus.Data.Retargeting;
using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>Writes clicks into PostgreSQL in bulk: the rows, their roll-ups and the journal's position in one transaction. One batch at a
/// time.</summary>
public sealed class ClickStore(NpgsqlDataSource dataSource, IClock clock) : IDisposable
{
    /// <summary>Held by whoever writes clicks and roll-ups, one process at a time: what one reads to add to, no other changes.</summary>
    internal const string Lock = "select pg_advisory_xact_lock(hashtext('clicks'))";

    /// <summary>Low bits of a click's id, its place in its journal; above them stands the journal's number.</summary>
    internal const int PositionBits = 40;

    private readonly ClickReader clickReader = new(clock);
    private readonly LinkHomes homes = new();
    private readonly SemaphoreSlim oneBatch = new(1);
    private Memory memory = new();

    /// <summary>What this process knows of what it has stored, and where all other journals stood then. Good as long as nobody else writes.</summary>
    private sealed class Memory
    {
        public RecentVisits Visits { get; } = new();
        public WatchedBehaviour Behaviour { get; } = new();
        public RecentDays Days { get; set; } = new();
        public Dictionary<int, long>? Others { get; set; }
    }

    public void Dispose() => oneBatch.Dispose();

    /// <summary>The number under which a journal's clicks are stored, and up to which position they are.</summary>
    public async Task<(int Id, long ShippedTo)> Register(Guid journalKey, CancellationToken cancel)
    {
        await using var command = dataSource.CreateCommand(
            """
            with added as (insert into journals (key, shipped_to) values ($1, 0) on conflict (key) do nothing returning id, shipped_to)
            select id, shipped_to from added union all select id, shipped_to from journals where key = $1
            """
        );
        command.Parameters.Add(new() { Value = journalKey });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        await reader.ReadAsync(cancel);
        return (reader.GetInt32(0), reader.GetInt64(1));
    }

    /// <summary>Reads what a batch's clicks tell. The next batch may be read while one is shipped, but only one at a time.</summary>
    public async Task<ReadBatch> Read(int journalId, JournalBatch batch, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(batch);
        var reports = batch.Reports.Select(r => (IdOf(journalId, r.Position), r.Report)).ToList();
        if (batch.Clicks.Count == 0)
        {
            return new ReadBatch(journalId, [], reports, batch.Next);
        }

        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        return new ReadBatch(
            journalId,
            await clickReader.Read(connection, [.. batch.Clicks.Select(c => (IdOf(journalId, c.Position), c.Click))], cancel),
            reports,
            batch.Next
        );
    }

    /// <summary>The same at once for a batch that nothing has been read of.</summary>
    public async Task<IReadOnlyList<StoredClick>> Ship(int journalId, JournalBatch batch, CancellationToken cancel) =>
        await Ship(await Read(journalId, batch, cancel), cancel);

    /// <summary>Stores a batch and moves the journal's position behind it, all or nothing.
    /// Clicks that an earlier attempt has stored already are passed over. Returns what was stored, with the kinds that were found.</summary>
    public async Task<IReadOnlyList<StoredClick>> Ship(ReadBatch batch, CancellationToken cancel)
    {
        var (journalId, read, next) = (batch.JournalId, batch.Clicks, batch.Next);
        await oneBatch.WaitAsync(cancel);
        var isStored = false;
        try
        {
            await using var connection = await dataSource.OpenConnectionAsync(cancel);
            await using var transaction = await connection.BeginTransactionAsync(cancel);
            await connection.Run(Lock, cancel);
            var others = await Positions(connection, cancel);
            others.Remove(journalId, out var position);
            read.RemoveAll(c => c.Id < IdOf(journalId, position));
            var isAlone = memory.Others is { } before && others.All(o => before.GetValueOrDefault(o.Key) == o.Value);
            if (!isAlone)
            {
                memory.Days = new RecentDays();
                homes.Forget();
                await RecentVisits.AddStored(connection, memory.Others is null ? null : journalId, read, cancel);
            }

            memory.Others = others;
            await homes.Learn(connection, read.Select(c => c.Click.LinkId), cancel);
            await ClickRetention.LeaveOutLate(connection, homes, read, cancel);
            var swept = memory.Behaviour.Mark(homes, await WatchedBehaviour.WorkspacesWithout(connection, cancel), read);
            memory.Visits.Mark(read);
            var stored = await Store(connection, homes, memory.Days, read, cancel);
            if (swept.Count > 0)
            {
                await WatchedBehaviour.TakeBack(connection, homes, memory.Days, swept, cancel);
            }

            await PixelRollUp.Add(connection, homes, batch.Reports.Where(r => r.Id >= IdOf(journalId, position)).Select(r => r.Report), cancel);
            await using var move = new NpgsqlCommand(
                "update journals set shipped_to = greatest(shipped_to, $2) where id = $1",
                connection,
                transaction
            )
            {
                Parameters =
                {
                    new() { Value = journalId },
                    new() { Value = next },
                },
            };
            await move.ExecuteNonQueryAsync(cancel);
            await transaction.CommitAsync(cancel);
            isStored = true;
            return stored;
        }
        finally
        {
            if (!isStored)
            {
                memory = new Memory();
            }

            oneBatch.Release();
        }
    }

    /// <summary>Stores clicks beside which there are no others, with their roll-ups, on an open connection; the caller holds the
    /// transaction.</summary>
    public static async Task Store(NpgsqlConnection connection, IReadOnlyList<(long Id, Click Click)> clicks, IClock clock, CancellationToken cancel)
    {
        await connection.Run(Lock, cancel);
        var (read, homes) = (await new ClickReader(clock).Read(connection, clicks, cancel), new LinkHomes());
        await homes.Learn(connection, read.Select(c => c.Click.LinkId), cancel);
        new WatchedBehaviour().Mark(homes, await WatchedBehaviour.WorkspacesWithout(connection, cancel), read);
        new RecentVisits().Mark(read);
        await Store(connection, homes, new RecentDays(), read, cancel);
    }

    private static async Task<IReadOnlyList<StoredClick>> Store(
        NpgsqlConnection connection,
        LinkHomes homes,
        RecentDays recent,
        List<ReadClick> clicks,
        CancellationToken cancel
    )
    {
        if (clicks.Count == 0)
        {
            return [];
        }

        await MakeMonths(connection, clicks, cancel);
        var sealedUntil = await SealedRollUp.Until(connection, cancel) ?? LocalDate.MinIsoValue;

        // The database takes the clicks in while their days are added up here.
        var copying = Copy(connection, clicks, cancel);
        var added = DayRollUp.Add(recent, homes, sealedUntil, clicks);
        await copying;
        await DayRollUp.Write(connection, recent, added, cancel);
        await TotalRollUp.Add(connection, clicks, cancel);
        return clicks.ConvertAll(c => new StoredClick(c.Click.LinkId, homes.Of(c.Click.LinkId)?.WorkspaceId, c.Click.At, c.Told));
    }

    /// <summary>Makes the partitions of the months that the clicks fall into, and the next one ahead.</summary>
    private static async Task MakeMonths(NpgsqlConnection connection, List<ReadClick> clicks, CancellationToken cancel)
    {
        var months = clicks.Select(c => c.Click.At.InUtc().Date).Select(day => new LocalDate(day.Year, day.Month, 1)).Distinct().ToArray();
        await using var command = new NpgsqlCommand(
            """
            select ensure_clicks_partition(month::timestamp at time zone 'UTC')
            from (select unnest($1) as month union select date_trunc('month', now() at time zone 'UTC' + interval '1 month')::date) as months
            """,
            connection
        )
        {
            Parameters = { new() { Value = months } },
        };
        await command.ExecuteNonQueryAsync(cancel);
    }

    private static Task Copy(NpgsqlConnection connection, List<ReadClick> clicks, CancellationToken cancel)
    {
        var rows = new CopyRows();
        for (var i = 0; i < clicks.Count; i++)
        {
            Backpressure.YieldAfter(i);
            var (id, click, agentId, told, _) = clicks[i];
            rows.Row(12)
                .Add(id)
                .Add(click.At)
                .Add(click.LinkId)
                .Add(click.Visitor)
                .Add(agentId)
                .Add((short)told.Kind)
                .Add(told.Country)
                .Add(click.Language)
                .Add(click.ReferrerHost)
                .Add((short)click.Code)
                .Add((short)click.Page)
                .Add((short)click.Rule);
        }

        return rows.Send(
            connection,
            "clicks (id, at, link_id, visitor, user_agent_id, kind, country, language, referrer_host, code, page, rule)",
            cancel
        );
    }

    /// <summary>How far each journal has been shipped.</summary>
    private static async Task<Dictionary<int, long>> Positions(NpgsqlConnection connection, CancellationToken cancel)
    {
        var positions = new Dictionary<int, long>();
        await using var command = new NpgsqlCommand("select id, shipped_to from journals", connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            positions[reader.GetInt32(0)] = reader.GetInt64(1);
        }

        return positions;
    }

    /// <summary>A click's id: the journal's number and the click's place in it, so that the same click always has the same id.</summary>
    private static long IdOf(int journalId, long position) => ((long)journalId << PositionBits) | (position >> 3);
}
