using Npgsql;

namespace Cursus.Data;

/// <summary>Statements that answer nothing, or a few rows.</summary>
internal static class Statement
{
    public static Task Run(this NpgsqlConnection connection, string sql, CancellationToken cancel) => Run(new NpgsqlCommand(sql, connection), cancel);

    /// <summary>However long they take.</summary>
    public static Task RunLong(this NpgsqlConnection connection, string sql, CancellationToken cancel) =>
        Run(new NpgsqlCommand(sql, connection) { CommandTimeout = 0 }, cancel);

    /// <summary>What a statement answers, row by row.</summary>
    public static async Task<List<T>> Rows<T>(this NpgsqlConnection connection, string sql, Func<NpgsqlDataReader, T> read, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        var rows = new List<T>();
        while (await reader.ReadAsync(cancel))
        {
            rows.Add(read(reader));
        }

        return rows;
    }

    private static async Task Run(NpgsqlCommand statement, CancellationToken cancel)
    {
        await using var command = statement;
        await command.ExecuteNonQueryAsync(cancel);
    }
}
