using Cursus.Core.Clicks;
using Npgsql;
using NpgsqlTypes;

namespace Cursus.Data.Clicks;

/// <summary>Writes clicks into PostgreSQL in bulk: the rows, their roll-ups and the journal's position in one transaction.</summary>
public sealed class ClickStore(NpgsqlDataSource dataSource)
{
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
        """;

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
    /// Clicks that an earlier attempt has stored already are passed over.</summary>
    public async Task Ship(int journalId, IReadOnlyList<(long Position, Click Click)> batch, long next, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var position = new NpgsqlCommand("select shipped_to from journals where id = $1 for update", connection, transaction)
        {
            Parameters = { new() { Value = journalId } },
        };
        var shippedTo = (long)(await position.ExecuteScalarAsync(cancel))!;
        var clicks = batch.Where(c => c.Position >= shippedTo).Select(c => (Id: IdOf(journalId, c.Position), c.Click)).ToList();
        if (clicks.Count > 0)
        {
            await Store(connection, clicks, cancel);
        }

        await using var move = new NpgsqlCommand("update journals set shipped_to = greatest(shipped_to, $2) where id = $1", connection, transaction)
        {
            Parameters = { new() { Value = journalId }, new() { Value = next } },
        };
        await move.ExecuteNonQueryAsync(cancel);
        await transaction.CommitAsync(cancel);
    }

    /// <summary>Stores clicks with their roll-ups on an open connection; the caller holds the transaction.</summary>
    public static async Task Store(NpgsqlConnection connection, IEnumerable<(long Id, Click Click)> clicks, CancellationToken cancel)
    {
        await Run(connection, "create temporary table if not exists arriving (like clicks) on commit drop", cancel);
        await using (var copy = await connection.BeginBinaryImportAsync(
            "copy arriving (id, at, link_id, kind, visitor, referrer_host, user_agent, language) from stdin (format binary)", cancel))
        {
            foreach (var (id, click) in clicks)
            {
                await copy.StartRowAsync(cancel);
                await copy.WriteAsync(id, NpgsqlDbType.Bigint, cancel);
                await copy.WriteAsync(click.At, NpgsqlDbType.TimestampTz, cancel);
                await copy.WriteAsync(click.LinkId, NpgsqlDbType.Uuid, cancel);
                await copy.WriteAsync((short)click.Kind, NpgsqlDbType.Smallint, cancel);
                await copy.WriteAsync(click.Visitor, NpgsqlDbType.Bigint, cancel);
                await copy.WriteAsync(click.ReferrerHost, NpgsqlDbType.Text, cancel);
                await copy.WriteAsync(click.UserAgent, NpgsqlDbType.Text, cancel);
                await copy.WriteAsync(click.Language, NpgsqlDbType.Text, cancel);
            }

            await copy.CompleteAsync(cancel);
        }

        await Run(connection, MarkRepeats, cancel);
        await Run(connection, """
            select ensure_clicks_partition(month) from (select distinct date_trunc('month', at, 'UTC') as month from arriving) as months;
            insert into clicks select * from arriving;
            insert into link_days (link_id, day, kind, clicks)
                select a.link_id, (a.at at time zone w.time_zone)::date, a.kind, count(*)
                from arriving a join links l on l.id = a.link_id join workspaces w on w.id = l.workspace_id
                group by 1, 2, 3
            on conflict (link_id, day, kind) do update set clicks = link_days.clicks + excluded.clicks;
            drop table arriving;
            """, cancel);
    }

    /// <summary>A click's id: the journal's number and the click's place in it, so that the same click always has the same id.</summary>
    private static long IdOf(int journalId, long position) => ((long)journalId << PositionBits) | (position >> 3);

    private static async Task Run(NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
