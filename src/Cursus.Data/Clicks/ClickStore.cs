using Cursus.Core.Clicks;
using Npgsql;
using NpgsqlTypes;

namespace Cursus.Data.Clicks;

/// <summary>Writes clicks into PostgreSQL in bulk: the rows, their roll-ups and the journal's position in one transaction.</summary>
public sealed class ClickStore(NpgsqlDataSource dataSource)
{
    /// <summary>Held by whoever writes clicks and roll-ups, one process at a time: what one reads to add to, no other changes.</summary>
    internal const string Lock = "select pg_advisory_xact_lock(hashtext('clicks'))";

    private const int PositionBits = 40;

    /// <summary>
    /// A click is a repeat where the same visitor's last one on the same link lies less than ten seconds before, be that in this batch or stored already;
    /// a row of quick clicks is one click however the batches fall.
    /// </summary>
    private const string MarkRepeats = """
        update arriving set kind = 5 from (
            select id, at - lag(at) over (partition by link_id, visitor order by at, id) as gap from (
                select id, at, link_id, visitor from arriving where kind = 0
                union all
                select c.id, c.at, c.link_id, c.visitor
                from (select link_id, min(at) as first, max(at) as last from arriving where kind = 0 group by link_id) a
                join clicks c on c.link_id = a.link_id and c.at > a.first - interval '10 seconds' and c.at <= a.last and c.kind in (0, 5)
            ) as near
        ) as following
        where following.id = arriving.id and arriving.kind = 0 and following.gap < interval '10 seconds'
        returning arriving.id
        """;

    private readonly ClickReader clickReader = new();

    /// <summary>The number under which a journal's clicks are stored, and up to which position they are.</summary>
    public async Task<(int Id, long ShippedTo)> Register(Guid journalKey, CancellationToken cancel)
    {
        await using var command = dataSource.CreateCommand("""
            with added as (insert into journals (key, shipped_to) values ($1, 0) on conflict (key) do nothing returning id, shipped_to)
            select id, shipped_to from added union all select id, shipped_to from journals where key = $1
            """);
        command.Parameters.Add(new() { Value = journalKey });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        await reader.ReadAsync(cancel);
        return (reader.GetInt32(0), reader.GetInt64(1));
    }

    /// <summary>Stores a batch read from the journal and moves its position to <paramref name="next"/>, all or nothing.
    /// Clicks that an earlier attempt has stored already are passed over. Returns what was stored, with the kinds that were found.</summary>
    public async Task<IReadOnlyList<StoredClick>> Ship(int journalId, IReadOnlyList<(long Position, Click Click)> batch, long next, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        var read = await clickReader.Read(connection, [.. batch.Select(c => (IdOf(journalId, c.Position), c.Click))], cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await Run(connection, Lock, cancel);
        await using var position = new NpgsqlCommand("select shipped_to from journals where id = $1 for update", connection, transaction)
        {
            Parameters = { new() { Value = journalId } },
        };
        var shippedFrom = IdOf(journalId, (long)(await position.ExecuteScalarAsync(cancel))!);
        read.RemoveAll(c => c.Id < shippedFrom);
        var stored = await Store(connection, read, cancel);
        await using var move = new NpgsqlCommand("update journals set shipped_to = greatest(shipped_to, $2) where id = $1", connection, transaction)
        {
            Parameters = { new() { Value = journalId }, new() { Value = next } },
        };
        await move.ExecuteNonQueryAsync(cancel);
        await transaction.CommitAsync(cancel);
        return stored;
    }

    /// <summary>Stores clicks with their roll-ups on an open connection; the caller holds the transaction.</summary>
    public static async Task Store(NpgsqlConnection connection, IReadOnlyCollection<(long Id, Click Click)> clicks, CancellationToken cancel)
    {
        await Run(connection, Lock, cancel);
        await Store(connection, await new ClickReader().Read(connection, clicks, cancel), cancel);
    }

    private static async Task<IReadOnlyList<StoredClick>> Store(NpgsqlConnection connection, List<ReadClick> clicks, CancellationToken cancel)
    {
        if (clicks.Count == 0)
        {
            return [];
        }

        await Run(connection, "create temporary table if not exists arriving (like clicks) on commit drop", cancel);
        await Copy(connection, clicks, cancel);
        var repeats = await Repeats(connection, cancel);
        await Run(connection, """
            select ensure_clicks_partition(month) from (
                select date_trunc('month', at, 'UTC') as month from arriving union select date_trunc('month', now() + interval '1 month', 'UTC')) as months;
            insert into clicks select * from arriving;
            truncate arriving;
            """, cancel);
        var stored = clicks.ConvertAll(c => new StoredClick(c.Click.LinkId, c.Click.At, repeats.Contains(c.Id) ? c.Told with { Kind = ClickKind.Repeat } : c.Told));
        await DayRollUp.Add(connection, stored, cancel);
        return stored;
    }

    private static async Task Copy(NpgsqlConnection connection, List<ReadClick> clicks, CancellationToken cancel)
    {
        await using var copy = await connection.BeginBinaryImportAsync(
            "copy arriving (id, at, link_id, visitor, user_agent_id, kind, country, language, referrer_host) from stdin (format binary)", cancel);
        foreach (var (id, click, agentId, told) in clicks)
        {
            await copy.StartRowAsync(cancel);
            await copy.WriteAsync(id, NpgsqlDbType.Bigint, cancel);
            await copy.WriteAsync(click.At, NpgsqlDbType.TimestampTz, cancel);
            await copy.WriteAsync(click.LinkId, NpgsqlDbType.Uuid, cancel);
            await copy.WriteAsync(click.Visitor, NpgsqlDbType.Bigint, cancel);
            await copy.WriteAsync(agentId, NpgsqlDbType.Integer, cancel);
            await copy.WriteAsync((short)told.Kind, NpgsqlDbType.Smallint, cancel);
            await copy.WriteAsync(told.Country, NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(click.Language, NpgsqlDbType.Text, cancel);
            await copy.WriteAsync(click.ReferrerHost, NpgsqlDbType.Text, cancel);
        }

        await copy.CompleteAsync(cancel);
    }

    private static async Task<HashSet<long>> Repeats(NpgsqlConnection connection, CancellationToken cancel)
    {
        var ids = new HashSet<long>();
        await using var command = new NpgsqlCommand(MarkRepeats, connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            ids.Add(reader.GetInt64(0));
        }

        return ids;
    }

    /// <summary>A click's id: the journal's number and the click's place in it, so that the same click always has the same id.</summary>
    private static long IdOf(int journalId, long position) => ((long)journalId << PositionBits) | (position >> 3);

    private static async Task Run(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
