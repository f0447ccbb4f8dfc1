using Npgsql;

namespace Cursus.Data;

/// <summary>Statements that answer nothing.</summary>
internal static class Statement
{
    public static async Task Run(this NpgsqlConnection connection, string sql, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        await command.ExecuteNonQueryAsync(cancel);
    }
}
