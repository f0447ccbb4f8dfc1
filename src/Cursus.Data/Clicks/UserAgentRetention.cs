using NodaTime;
using Npgsql;

namespace Cursus.Data.Clicks;

/// <summary>Keeps the exact text of a user agent, which may tell one visitor from another, no longer than it is needed: clicks that are over
/// <see cref="TextsKept"/> old say only what it was read as.</summary>
public sealed class UserAgentRetention(NpgsqlDataSource dataSource)
{
    /// <summary>For how long a click leads to the exact text that its browser sent.</summary>
    public static readonly Duration TextsKept = Duration.FromDays(30);

    private static readonly Duration AtOnce = Duration.FromDays(31);

    private const string SameReading =
        "r.text is null and (r.kind, r.device, r.browser, r.os, r.read_with) = (u.kind, u.device, u.browser, u.os, u.read_with)";

    /// <summary>Parts all clicks that are old enough from the texts, and takes away texts that no click leads to any more.</summary>
    public async Task Keep(Instant now, CancellationToken cancel)
    {
        await using var connection = await dataSource.OpenConnectionAsync(cancel);
        var until = now - TextsKept;
        await using var begin = new NpgsqlCommand("select coalesce((select until from parted_clicks), (select min(at) from clicks))", connection)
        {
            CommandTimeout = 0,
        };
        var from = await begin.ExecuteScalarAsync(cancel) as Instant? ?? until;
        while (from < until)
        {
            var next = Instant.Min(from + AtOnce, until);
            await Part(connection, from, next, cancel);
            from = next;
        }

        await using var delete = new NpgsqlCommand("delete from user_agents where text is not null and seen_on < $1", connection)
        {
            Parameters = { new() { Value = until.InUtc().Date } },
        };
        await delete.ExecuteNonQueryAsync(cancel);
    }

    private static async Task Part(NpgsqlConnection connection, Instant from, Instant until, CancellationToken cancel)
    {
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await connection.Run(ClickStore.Lock, cancel);
        await connection.RunLong(
            """
            insert into user_agents (hints, kind, device, browser, os, read_with)
            select distinct 0, kind, device, browser, os, read_with from user_agents where text is not null on conflict do nothing
            """,
            cancel
        );
        await using var update = new NpgsqlCommand(
            $"update clicks c set user_agent_id = r.id from user_agents u join user_agents r on {SameReading} where u.id = c.user_agent_id and u.text is not null and c.at >= $1 and c.at < $2",
            connection
        )
        {
            Parameters =
            {
                new() { Value = from },
                new() { Value = until },
            },
            CommandTimeout = 0,
        };
        await update.ExecuteNonQueryAsync(cancel);
        await connection.Run("delete from parted_clicks", cancel);
        await using var move = new NpgsqlCommand("insert into parted_clicks (until) values ($1)", connection)
        {
            Parameters = { new() { Value = until } },
        };
        await move.ExecuteNonQueryAsync(cancel);
        await transaction.CommitAsync(cancel);
    }
}
