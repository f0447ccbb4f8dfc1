using Npgsql;

namespace Cursus.Data;

/// <summary>Statements that answer nothing.</summary>
internal static class Statement
{
    public static Task Run(this NpgsqlConnection connection, string sql, CancellationToken cancel) => Run(new NpgsqlCommand(sql, connection), cancel);

    /// <summary>However long they take.</summary>
    public static Task RunLong(this NpgsqlConnection connection, string sql, CancellationToken cancel) =>
        Run(new NpgsqlCommand(sql, connection) { CommandTimeout = 0 }, cancel);

    private static async Task Run(NpgsqlCommand statement, CancellationToken cancel)
    {
        await using var command = statement;
        await command.ExecuteNonQueryAsync(cancel);
    }
}
